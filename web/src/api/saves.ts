let last: Promise<unknown> = Promise.resolve();
let flush: () => Promise<unknown> = () => Promise.resolve();

/** Register the function that stores pending edits, so that they reach the server before later changes. */
export function storeBefore(store: () => Promise<unknown>) {
  flush = store;
}

/** Send something once all that was sent before it is answered. */
export function enqueue<T>(send: () => Promise<T>): Promise<T> {
  const turn = last.then(send);
  last = turn.catch(() => undefined);
  return turn;
}

/**
 * Saves and renders reach the server one after another, in the order in which they were made, pending edits included:
 * a change keeps its place in the history, and a render uses the plan on screen.
 */
export async function inOrder<T>(send: () => Promise<T>): Promise<T> {
  await flush();
  return enqueue(send);
}

/** The browser asks before the page is left while something would be lost by it. */
export function guardLeaving(busy: () => boolean, leave: () => void, back: () => void) {
  window.addEventListener("beforeunload", (event) => {
    if (busy()) event.preventDefault();
  });
  window.addEventListener("pagehide", leave);
  // Some browsers keep a page that was left alive, and show it again.
  window.addEventListener("pageshow", ({ persisted }) => persisted && back());
}
