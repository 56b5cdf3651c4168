import { strFromU8, strToU8, type UnzipFileInfo, unzipSync, zipSync } from 'fflate';
import type { Song } from '../schema';
import type { ChartAnswer } from './chart';
import { toMusicXml } from './musicxml';
import { readMusicXml } from './readMusicXml';

/** Compressed MusicXML: a ZIP file with the score, and a container that names it. */

const CONTAINER = 'META-INF/container.xml';
const SCORE = 'score.musicxml';
const MEDIA_TYPE = 'application/vnd.recordare.musicxml';
/** Every file is written at the same moment: the same song is the same bytes. */
const WRITTEN = new Date('2000-01-01T12:00:00Z');
/** A score that unpacks to more than this is no song. */
const MOST_BYTES = 20_000_000;

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

const ROOT_FILE = /<rootfile\b[^>]*\bfull-path\s*=\s*["']([^"']+)["']/;

const nothing = (message: string): ChartAnswer => ({
  problem: { line: 1, column: 1, message },
});

/**
 * Reads compressed MusicXML: the first score that its container names.
 * @returns what the score says, or in one sentence what is wrong with the file
 * @example readMxl(toMxl(song)) // { chart: { title: 'Ropes at First Light', ... } }
 */
export function readMxl(bytes: Uint8Array): ChartAnswer {
  // One file of it at a time, and none that says that it holds too much: no more than that is unpacked.
  const unpacked = (wanted: string) => {
    const filter = ({ name, originalSize }: UnzipFileInfo) =>
      name === wanted && originalSize <= MOST_BYTES;
    return Object.entries(unzipSync(bytes, { filter }))[0]?.[1];
  };
  let score: Uint8Array | undefined;
  try {
    const container = unpacked(CONTAINER);
    const named = container && ROOT_FILE.exec(strFromU8(container))?.[1];
    score = named === undefined ? undefined : unpacked(named);
  } catch {
    return nothing('this ZIP file is broken, or was cut short.');
  }
  if (!score) return nothing('it holds no score: compressed MusicXML names one in its container.');
  return readMusicXml(new TextDecoder().decode(score));
}
