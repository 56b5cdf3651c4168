/**
 * A copy without the proxies of reactive values, which no worker can be sent.
 * @example await worker.search(cloneForWorker(song))
 */
export function cloneForWorker<T>(value: T): T {
  return JSON.parse(JSON.stringify(value)) as T;
}
