import type { Song } from '../schema';
import { toAbc } from './abc';
import { toChordPro } from './writeChordPro';
import { toMidi } from './midi';
import { toMusicXml } from './musicxml';
import { toMxl } from './mxl';
import type { Format } from './table';
import { toTabText } from './tabText';

/**
 * What writes each format. Apart from the core's public face, as a door of its own (`#core/formats/files`): the
 * packages that write are large, and the browser needs none of them.
 */
export const WRITERS: Record<Format['id'], (song: Song) => string | Uint8Array> = {
  midi: toMidi,
  musicxml: toMusicXml,
  mxl: toMxl,
  chordpro: toChordPro,
  abc: toAbc,
  tab: toTabText,
  json: (song) => JSON.stringify(song, null, 2),
};

export { toAbc, toMidi, toMusicXml };
