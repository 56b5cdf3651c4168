/** A timer that a busy or hidden page cannot hold up: posts a message at every interval. */
let timer: ReturnType<typeof setInterval> | undefined;

self.onmessage = (event: MessageEvent<number | null>) => {
  clearInterval(timer);
  if (event.data !== null) timer = setInterval(() => self.postMessage(null), event.data);
};
