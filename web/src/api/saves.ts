import type { QueryClient } from "@tanstack/react-query";

/**
 * What is saved on the bench, and what is ordered there, reaches the server one after another in the order in
 * which it was done: a step of history keeps its place, and a render is of what was seen when it was ordered.
 */
export const IN_ORDER = { id: "in order" };

/** The browser asks before the page is left while something is on its way to the server. */
export function guardLeaving(client: QueryClient) {
  window.addEventListener("beforeunload", (event) => {
    if (client.isMutating() > 0) event.preventDefault();
  });
}
