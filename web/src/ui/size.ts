const GIGABYTE = 1e9;

/** Bytes as people speak of them. */
export function gigabytes(bytes: number): string {
  const value = bytes / GIGABYTE;
  return `${value >= 100 ? Math.round(value) : value.toFixed(value >= 10 ? 1 : 2)} GB`;
}
