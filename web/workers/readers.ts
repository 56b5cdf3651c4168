import type { Remote } from 'comlink';
import url from './readers.worker.ts?worker&url';
import type { TakeOnset } from '#core/schema';
import type { ChartAnswer, ChartWish } from '#core/formats';
import type { Readers } from './readers.worker';
import { remoteOf } from './remote';

/** Milliseconds within which a file has to be read. */
const WITHIN = 10_000;

/**
 * Has a file of another program read in a worker of its own, which is ended with it.
 * @throws Error where it takes too long
 */
async function read<Answer>(
  by: (readers: Remote<Readers>) => PromiseLike<Answer>,
): Promise<Answer> {
  const worker = new Worker(url, { type: 'module' });
  try {
    const late = new Promise<never>((_, reject) => {
      setTimeout(() => reject(new Error('it takes too long to read.')), WITHIN);
    });
    return await Promise.race([by(remoteOf<Readers>(worker)), late]);
  } finally {
    worker.terminate();
  }
}

/** What a song or a chart says that another program wrote; null where it is neither. */
export const readForeign = (bytes: Uint8Array, wish?: ChartWish): Promise<ChartAnswer | null> =>
  read<ChartAnswer | null>((readers) => readers.read(bytes, wish));

/** What a chart of chords and words says. */
export const readTextChart = (text: string, wish?: ChartWish): Promise<ChartAnswer> =>
  read<ChartAnswer>((readers) => readers.chart(text, wish));

/** The strokes of a take in a MIDI file. @throws Error with what is wrong with it */
export const readMidiTake = (bytes: Uint8Array): Promise<TakeOnset[]> =>
  read((readers) => readers.take(bytes));
