/** Exact numbers travel as text: a decimal such as "607.5" or a ratio such as "12/11". */

export function toNumber(exact: string): number {
  const [above, below] = exact.split("/");
  return Number(above) / Number(below ?? 1);
}

/** A number as exact text, to a fixed number of decimals. */
export function toExact(value: number, decimals = 4): string {
  const text = decimals ? value.toFixed(decimals).replace(/\.?0+$/, "") : value.toFixed(0);
  return text === "-0" ? "0" : text;
}

/** A number for reading: at most some decimals, none where they are zero. */
export function shown(value: number | string, decimals = 2): string {
  const number = typeof value === "string" ? toNumber(value) : value;
  return toExact(number, decimals);
}

/** An exact ratio in its two whole numbers. */
export function parts(exact: string): [number, number] {
  const [above = "0", below = "1"] = exact.split("/");
  const decimals = above.split(".")[1]?.length ?? 0;
  return [Math.round(Number(above) * 10 ** decimals), Number(below) * 10 ** decimals];
}

/** A pixel aspect as people write it. */
export function ratio(exact: string): string {
  if (exact.includes("/")) return exact.replace("/", ":");
  return shown(exact, 4) === "1" ? "square" : shown(exact, 4);
}
