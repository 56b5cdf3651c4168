import { type Remote, wrap } from 'comlink';
import type { ChartAnswer, TakeOnset } from '#core';
import type { Readers } from './readers.worker';

/** Milliseconds within which a file has to be read. */
const WITHIN = 10_000;

/**
 * Has a file of another program read in a worker of its own, which is ended with it.
 * @throws Error where it takes too long
 */
async function read<Answer>(
  by: (readers: Remote<Readers>) => PromiseLike<Answer>,
): Promise<Answer> {
  const worker = new Worker(new URL('./readers.worker.ts', import.meta.url), { type: 'module' });
  try {
    const late = new Promise<never>((_, reject) => {
      setTimeout(() => reject(new Error('it takes too long to read.')), WITHIN);
    });
    return await Promise.race([by(wrap<Readers>(worker)), late]);
  } finally {
    worker.terminate();
  }
}

/** What a song or a chart says that another program wrote; null where it is neither. */
export const readForeign = (bytes: Uint8Array): Promise<ChartAnswer | null> =>
  read<ChartAnswer | null>((readers) => readers.read(bytes));

/** The strokes of a take in a MIDI file. @throws Error with what is wrong with it */
export const readMidiTake = (bytes: Uint8Array): Promise<TakeOnset[]> =>
  read((readers) => readers.take(bytes));
