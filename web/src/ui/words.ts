/** Whether all words of a search stand in a text, wherever and however they are written. */
export function hasWords(text: string, search: string): boolean {
  const within = text.toLocaleLowerCase();
  return search
    .toLocaleLowerCase()
    .split(/\s+/)
    .every((word) => within.includes(word));
}
