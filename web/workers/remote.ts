import { type Remote, wrap } from 'comlink';

/** Takes what a call was to come to, where its worker cannot be started. */
type Refuse = (reason: Error) => void;

/**
 * What a worker exposes. Where its script cannot be loaded, calls are refused; by themselves they would wait
 * for ever.
 * @param gone told then
 */
export function remoteOf<Api>(worker: Worker, gone: () => void = () => undefined): Remote<Api> {
  const waiting = new Set<Refuse>();
  worker.addEventListener('error', (event) => {
    // What goes wrong within it has a message, and is answered by the call that it went wrong in.
    if (event.message) return;
    gone();
    const away = new Error('the server is away, and this part of the app was not loaded yet.');
    for (const refuse of waiting) refuse(away);
  });
  const call = (method: (...given: unknown[]) => Promise<unknown>, given: unknown[]) =>
    new Promise((resolve, reject) => {
      waiting.add(reject);
      void method(...given)
        .then(resolve, reject)
        .finally(() => waiting.delete(reject));
    });
  return new Proxy(wrap<Api>(worker), {
    get: (remote, name) => {
      const method = Reflect.get(remote, name) as (...given: unknown[]) => Promise<unknown>;
      return typeof name === 'string' && name !== 'then'
        ? (...given: unknown[]) => call(method, given)
        : method;
    },
  });
}

/**
 * A worker that is started with its first use, and again where its script could not be loaded.
 * @param url of the built worker
 * @example export const earWorker = lazyWorker<Ear>(url);
 */
export function lazyWorker<Api>(url: string): () => Remote<Api> {
  let running: Remote<Api> | null = null;
  return () =>
    (running ??= remoteOf<Api>(new Worker(url, { type: 'module' }), () => (running = null)));
}
