import { type Remote, wrap } from 'comlink';
import type { Neck } from './neck.worker';

let remote: Remote<Neck> | null = null;

/** The worker that searches over a whole song; started with its first use. */
export function neckWorker(): Remote<Neck> {
  remote ??= wrap<Neck>(
    new Worker(new URL('./neck.worker.ts', import.meta.url), { type: 'module' }),
  );
  return remote;
}
