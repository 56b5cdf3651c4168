import { expose } from 'comlink';
import type { TakeOnset } from '#core/schema';
import { type ChartAnswer, type ChartWish, readChart } from '#core/formats';
import { READERS, takeOfMidi } from '#core/formats/readers';

/** What reads the files of other programs, away from the page. */
const readers = {
  /**
   * @param wish how it is to be read where it leaves something open
   * @returns what the file says; null where no reader knows it
   */
  read(bytes: Uint8Array, wish?: ChartWish): ChartAnswer | null {
    const start = new TextDecoder('latin1').decode(bytes.subarray(0, 4000));
    return READERS.find(({ starts }) => starts.test(start))?.read(bytes, wish) ?? null;
  },
  chart: (text: string, wish?: ChartWish): ChartAnswer => readChart(text, wish),
  /** The strokes of a MIDI file. */
  take: (bytes: Uint8Array): TakeOnset[] => takeOfMidi(bytes),
};
export type Readers = typeof readers;

expose(readers);
