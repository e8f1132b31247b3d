/**
 * Saves and renders from the bench reach the server one after another, in the order in
 * which they were made: a history step keeps its place, and a render is of what was on screen.
 */
export const IN_ORDER = { id: "in order" };

/** The browser asks before the page is left while something would be lost by it. */
export function guardLeaving(busy: () => boolean, leave: () => void, back: () => void) {
  window.addEventListener("beforeunload", (event) => {
    if (busy()) event.preventDefault();
  });
  window.addEventListener("pagehide", leave);
  // Some browsers keep a page that was left alive, and show it again.
  window.addEventListener("pageshow", ({ persisted }) => persisted && back());
}
