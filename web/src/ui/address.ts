/** The address as it is now, which the page may not have been drawn for yet, with other values; null takes one away. */
export function inAddress(values: Record<string, string | null>): URLSearchParams {
  const next = new URLSearchParams(window.location.search);
  for (const [name, value] of Object.entries(values)) {
    if (value) next.set(name, value);
    else next.delete(name);
  }
  return next;
}
