import { expose } from 'comlink';
import { type ChartAnswer, type Meter, readChart, type TakeOnset } from '#core';
import { READERS, takeOfMidi } from '#core/readers';

/** What reads the files of other programs, away from the page. */
const readers = {
  /**
   * @param meter to read it in, where the file says none
   * @returns what the file says; null where no reader knows it
   */
  read(bytes: Uint8Array, meter?: Meter): ChartAnswer | null {
    const start = new TextDecoder('latin1').decode(bytes.subarray(0, 4000));
    return READERS.find(({ starts }) => starts.test(start))?.read(bytes, meter) ?? null;
  },
  chart: (text: string): ChartAnswer => readChart(text),
  /** The strokes of a MIDI file. */
  take: (bytes: Uint8Array): TakeOnset[] => takeOfMidi(bytes),
};
export type Readers = typeof readers;

expose(readers);
