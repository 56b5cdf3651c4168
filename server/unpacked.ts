import { type Entry, Uint8ArrayReader, ZipReader } from '@zip.js/zip.js';
import { Refusal } from './errors';

export interface ZipBounds {
  /** Bytes that all files together may unfold to. */
  bytes: number;
  files: number;
  /** What is said of a file that is no ZIP, and of one that unfolds to more. */
  noZip: string;
  tooMuch: string;
  /** Files that are unfolded; the others only count. */
  wanted?: (name: string) => boolean;
  /** Bytes that one of them may have; as many as there may be where it is left out. */
  largest?: (name: string) => number;
}

/** Letters of a name that an answer repeats. */
const MAX_NAME_LETTERS = 80;
const short = (name: string) =>
  name.length > MAX_NAME_LETTERS ? `${name.slice(0, MAX_NAME_LETTERS)}…` : name;
const nextTurn = () => new Promise<void>((resolve) => setImmediate(resolve));

/** It unfolds to more than it may: told apart from a file that is broken. */
class TooMuch extends Error {}

/** Collects bytes as they come, and stops where there are more than may be; others get their turn in between. */
function collector(most: number): { stream: WritableStream<Uint8Array>; whole: () => Uint8Array } {
  const chunks: Uint8Array[] = [];
  let length = 0;
  const stream = new WritableStream<Uint8Array>({
    async write(chunk) {
      length += chunk.length;
      if (length > most) throw new TooMuch();
      chunks.push(chunk);
      await nextTurn();
    },
  });
  return { stream, whole: () => Buffer.concat(chunks, length) };
}

async function unfold(entry: Entry, most: number): Promise<Uint8Array> {
  if (entry.directory || !entry.getData) return new Uint8Array();
  const { stream, whole } = collector(most);
  await entry.getData(stream, { checkSignature: true, useWebWorkers: false });
  return whole();
}

/**
 * The files of a ZIP by their names. Bytes are counted as they come, whatever the file claims of its sizes, and each
 * file has to have the sum (CRC) that it says it has.
 * @throws Refusal 400 where it is none, unfolds to more, or a file in it is damaged: with the name of that file
 */
export async function unpacked(
  bytes: Uint8Array,
  { bytes: most, files, noZip, tooMuch, wanted = () => true, largest = () => most }: ZipBounds,
): Promise<Record<string, Uint8Array>> {
  const refuse = (error: string) => new Refusal(400, { error });
  const reader = new ZipReader(new Uint8ArrayReader(bytes), { useWebWorkers: false });
  const found: Record<string, Uint8Array> = Object.create(null) as Record<string, Uint8Array>;
  let total = 0;
  try {
    const entries: Entry[] = [];
    try {
      for await (const entry of reader.getEntriesGenerator()) {
        entries.push(entry);
        if (entries.length > files) throw new TooMuch();
      }
    } catch (error) {
      throw error instanceof TooMuch ? refuse(tooMuch) : refuse(noZip);
    }
    for (const entry of entries) {
      const name = entry.filename;
      if (!wanted(name)) continue;
      const left = Math.min(most - total, largest(name));
      // What it claims is enough to refuse it, and never enough to believe it.
      if (entry.uncompressedSize > left) throw refuse(tooMuch);
      if (name in found) throw refuse(`${short(name)} is in this file twice; nothing was changed.`);
      try {
        found[name] = await unfold(entry, left);
      } catch (error) {
        if (error instanceof TooMuch) throw refuse(tooMuch);
        throw refuse(
          `${short(name)} in this file is damaged: its sum is not the one that it should have. Nothing was changed.`,
        );
      }
      total += found[name].length;
    }
  } finally {
    await reader.close();
  }
  return found;
}
