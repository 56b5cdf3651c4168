import { expose } from 'comlink';
import type { ChartAnswer } from '#core';
import { READERS } from '#core/readers';

/** What reads the files of other programs, away from the page. */
const readers = {
  /** @returns what the file says; null where no reader knows it */
  read(bytes: Uint8Array): ChartAnswer | null {
    const start = new TextDecoder('latin1').decode(bytes.subarray(0, 4000));
    return READERS.find(({ starts }) => starts.test(start))?.read(bytes) ?? null;
  },
};
export type Readers = typeof readers;

expose(readers);
