import { type Remote, wrap } from 'comlink';
import type { Along } from './along.worker';

let remote: Remote<Along> | null = null;

/** The worker that listens to recordings; started with its first use. */
export function alongWorker(): Remote<Along> {
  remote ??= wrap<Along>(
    new Worker(new URL('./along.worker.ts', import.meta.url), { type: 'module' }),
  );
  return remote;
}
