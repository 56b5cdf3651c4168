import { type Remote, wrap } from 'comlink';
import type { HandWorker } from './hand.worker';

let remote: Remote<HandWorker> | null = null;

/** The worker that works out what the hand has time for; started with its first use. */
export function handWorker(): Remote<HandWorker> {
  remote ??= wrap<HandWorker>(
    new Worker(new URL('./hand.worker.ts', import.meta.url), { type: 'module' }),
  );
  return remote;
}
