import url from './neck.worker.ts?worker&url';
import type { Neck } from './neck.worker';
import { lazyWorker } from './remote';

/** The worker that searches over a whole song. */
export const neckWorker = lazyWorker<Neck>(url);
