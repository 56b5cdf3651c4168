const HIDDEN_AFTER = 100;

/**
 * Resolves once the page was drawn as it is now, or a little later where it is not drawn, as in a hidden tab.
 * @example await nextPicture(); // now what takes longer and is not looked for first
 */
export function nextPicture(): Promise<void> {
  return new Promise((resolve) => {
    requestAnimationFrame(() => setTimeout(resolve));
    setTimeout(resolve, HIDDEN_AFTER);
  });
}
