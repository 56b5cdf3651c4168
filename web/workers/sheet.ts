import url from './sheet.worker.ts?worker&url';
import type { Press } from './sheet.worker';
import { lazyWorker } from './remote';

/** The worker that lays sheets out. */
export const sheetWorker = lazyWorker<Press>(url);
