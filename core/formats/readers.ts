import type { ChartAnswer, ChartWish } from './chart';
import { readAbc } from './readAbc';
import { readMidi } from './readMidi';
import { readMusicXml } from './readMusicXml';
import { readMxl } from './readMxl';
import { takeOfMidi } from './takeOfMidi';

/**
 * What reads the files of other programs, as is wished where they leave something open. A door of its own
 * (`#core/formats/readers`), for a worker: its packages are large, and a file that takes too long is ended with it.
 */
export const READERS: {
  starts: RegExp;
  read: (bytes: Uint8Array, wish?: ChartWish) => ChartAnswer;
}[] = [
  { starts: /^MThd/, read: readMidi },
  {
    starts: /^\uFEFF?(%abc|(%[^\n]*\n|\s)*X:\s*\d)/,
    read: (bytes) => readAbc(new TextDecoder().decode(bytes)),
  },
  {
    starts: /^\s*(<\?xml[^>]*>\s*)?(<!--[^]*?-->\s*)?(<!DOCTYPE[^>]*>\s*)?<score-partwise/,
    read: (bytes) => readMusicXml(new TextDecoder().decode(bytes)),
  },
  { starts: /^PK[^\w\s]{2}/, read: readMxl },
];

export { readAbc, readMidi, readMusicXml, takeOfMidi };
