import { wrap } from 'comlink';
import type { ChartAnswer } from '#core';
import type { Readers } from './readers.worker';

/** Milliseconds within which a file has to be read. */
const WITHIN = 10_000;

/**
 * Reads a file of another program in a worker of its own, which is ended with it.
 * @throws Error where it takes too long
 */
export async function readForeign(bytes: Uint8Array): Promise<ChartAnswer | null> {
  const worker = new Worker(new URL('./readers.worker.ts', import.meta.url), { type: 'module' });
  try {
    const late = new Promise<never>((_, reject) => {
      setTimeout(() => reject(new Error('it takes too long to read.')), WITHIN);
    });
    return await Promise.race([wrap<Readers>(worker).read(bytes), late]);
  } finally {
    worker.terminate();
  }
}
