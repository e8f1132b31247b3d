/** Call something once the page has drawn the last change; at once if nothing is drawn. */
export function afterPaint(call: () => void) {
  if (typeof requestAnimationFrame === "undefined" || document.hidden) call();
  else requestAnimationFrame(() => setTimeout(call));
}
