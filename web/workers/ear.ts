import { type Remote, wrap } from 'comlink';
import type { Ear } from './ear.worker';

let remote: Remote<Ear> | null = null;

/** The worker that listens to takes; started with its first use. */
export function earWorker(): Remote<Ear> {
  remote ??= wrap<Ear>(new Worker(new URL('./ear.worker.ts', import.meta.url), { type: 'module' }));
  return remote;
}
