import url from './ear.worker.ts?worker&url';
import type { Ear } from './ear.worker';
import { lazyWorker } from './remote';

/** The worker that listens to takes. */
export const earWorker = lazyWorker<Ear>(url);
