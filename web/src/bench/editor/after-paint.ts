/** Call something once the page has drawn what was changed last; at once where nothing is drawn. */
export function afterPaint(call: () => void) {
  if (typeof requestAnimationFrame === "undefined" || document.hidden) call();
  else requestAnimationFrame(() => setTimeout(call));
}
