import url from './hand.worker.ts?worker&url';
import type { HandWorker } from './hand.worker';
import { lazyWorker } from './remote';

/** The worker that works out what the hand has time for. */
export const handWorker = lazyWorker<HandWorker>(url);
