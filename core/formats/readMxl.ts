import { strFromU8, type UnzipFileInfo, unzipSync } from 'fflate';
import type { ChartAnswer } from './chart';
import { readMusicXml } from './readMusicXml';

/** Compressed MusicXML, read: a ZIP file with the score, and a container that names it. */

export const CONTAINER = 'META-INF/container.xml';
/** A score that unpacks to more than this is no song. */
const MAX_BYTES = 20_000_000;

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
      name === wanted && originalSize <= MAX_BYTES;
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
