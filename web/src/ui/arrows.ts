const WAYS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
const WITH_SHIFT = 10;

/** How far an arrow key moves something, across and down: by one, with Shift by ten; null for any other key. */
export function arrowOf(event: { key: string; shiftKey: boolean }): [number, number] | null {
  const way = WAYS[event.key];
  if (!way) return null;
  const by = event.shiftKey ? WITH_SHIFT : 1;
  return [way[0] * by, way[1] * by];
}
