const SOON = 50;

/**
 * Calls as soon as the page has a moment; where the browser does not tell (Safari), a little later.
 * @param longest milliseconds after which it waits no longer
 * @example whenIdle(() => drawTheRest(), 200);
 */
export function whenIdle(call: () => void, longest?: number): void {
  if ('requestIdleCallback' in globalThis) {
    requestIdleCallback(() => call(), longest === undefined ? {} : { timeout: longest });
  } else setTimeout(call, SOON);
}
