import { strToU8, zipSync } from 'fflate';
import type { Song } from '../schema';
import { toMusicXml } from './musicxml';
import { CONTAINER } from './readMxl';

/** Compressed MusicXML: a ZIP file with the score, and a container that names it. */

const SCORE = 'score.musicxml';
const MEDIA_TYPE = 'application/vnd.recordare.musicxml';
/** Every file is written at the same moment: the same song is the same bytes. */
const WRITTEN = new Date('2000-01-01T12:00:00Z');
/**
 * A song as compressed MusicXML.
 * @example toMxl(song).slice(0, 2) // 'PK'
 */
export function toMxl(song: Song): Uint8Array {
  const container = [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<container><rootfiles>',
    `<rootfile full-path="${SCORE}" media-type="${MEDIA_TYPE}+xml"/>`,
    '</rootfiles></container>',
  ].join('\n');
  return zipSync(
    {
      // First and as it is, so that what looks at the bytes knows it.
      mimetype: [strToU8(MEDIA_TYPE), { level: 0 }],
      [CONTAINER]: strToU8(container),
      [SCORE]: strToU8(toMusicXml(song)),
    },
    { mtime: WRITTEN },
  );
}
