/** A file's size for reading. */
export function megabytes(bytes: number): string {
  const size = bytes / 1e6;
  if (size >= 10_000) return `${(size / 1000).toFixed(1)} GB`;
  return size < 10 ? `${size.toFixed(1)} MB` : `${Math.round(size)} MB`;
}

/** Time left for reading. */
export function remaining(seconds: number | null): string {
  return seconds === null ? "" : `${duration(Math.ceil(seconds))} left`;
}

/** A length of time for reading: "2.4 s", "3 min 20 s". */
export function duration(seconds: number): string {
  if (seconds < 60) return `${Number(seconds.toFixed(1))} s`;
  return `${Math.floor(seconds / 60)} min ${Math.round(seconds % 60)} s`;
}
