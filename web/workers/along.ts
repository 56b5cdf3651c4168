import url from './along.worker.ts?worker&url';
import type { Along } from './along.worker';
import { lazyWorker } from './remote';

/** The worker that listens to recordings. */
export const alongWorker = lazyWorker<Along>(url);
