import { type Remote, wrap } from 'comlink';
import type { Press } from './sheet.worker';

let press: Remote<Press> | null = null;

/** The worker that lays sheets out, started when it is first asked. */
export function sheetWorker(): Remote<Press> {
  press ??= wrap<Press>(
    new Worker(new URL('./sheet.worker.ts', import.meta.url), { type: 'module' }),
  );
  return press;
}
