/**
 * A copy without the proxies of reactive values, which no worker can be sent.
 * @example await worker.search(plain(song))
 */
export function plain<T>(value: T): T {
  return JSON.parse(JSON.stringify(value)) as T;
}
