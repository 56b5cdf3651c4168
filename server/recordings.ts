import { randomBytes } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import { type Readable, Transform, type Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { LARGEST_RECORDING, LONGEST_RECORDING } from '#core/schema';
import { NotSound, wavSeconds } from '#core/take';
import type { Database } from './database';
import { Refusal } from './errors';

/** The files of recordings in the data folder: written whole or not at all, swept where nothing names them. */

const FOLDER = 'recordings';
const OWNER_FILE = 0o600;
const OWNER_FOLDER = 0o700;
const UNFINISHED = '.part-';
/** A file that no row names is kept so long: its song may be put back. */
const KEPT_MS = 30 * 86_400_000;
/** Bytes by which a kind of file is known. */
const HEAD = 16;

/** What sound files begin with: kinds that browsers play, by their first bytes. */
const KINDS: { ending: string; type: string; begins: (head: Buffer) => boolean }[] = [
  {
    ending: 'wav',
    type: 'audio/wav',
    begins: (head) => text(head, 0, 4) === 'RIFF' && text(head, 8, 12) === 'WAVE',
  },
  { ending: 'ogg', type: 'audio/ogg', begins: (head) => text(head, 0, 4) === 'OggS' },
  { ending: 'flac', type: 'audio/flac', begins: (head) => text(head, 0, 4) === 'fLaC' },
  { ending: 'm4a', type: 'audio/mp4', begins: (head) => text(head, 4, 8) === 'ftyp' },
  {
    ending: 'webm',
    type: 'audio/webm',
    begins: (head) => head.readUInt32BE(0) === 0x1a45dfa3,
  },
  {
    ending: 'mp3',
    type: 'audio/mpeg',
    begins: (head) => text(head, 0, 3) === 'ID3' || beginsFrame(head),
  },
];

/** The head of a frame of MPEG sound: eleven bits set, then a version, a layer and a bit rate that there are. */
const beginsFrame = (head: Buffer) =>
  head[0] === 0xff &&
  (head[1]! & 0xe0) === 0xe0 &&
  (head[1]! & 0x18) !== 0x08 &&
  (head[1]! & 0x06) !== 0 &&
  (head[2]! & 0xf0) !== 0xf0 &&
  (head[2]! & 0x0c) !== 0x0c;

const text = (head: Buffer, from: number, to: number) => head.toString('latin1', from, to);

/** Why a file is not kept, with the status that it is answered with. */
export class NoRecording extends Error {
  constructor(
    readonly status: 400 | 413 | 507,
    message: string,
  ) {
    super(message);
  }
}

export const recordingsFolder = (folder: string) => path.join(folder, FOLDER);

/**
 * Writes what a request brings to a file of its own; nothing is left behind where it is no sound, is too
 * large, or breaks off.
 * @returns the file's name in the folder, its kind and its size
 * @throws NoRecording with one sentence
 */
export async function keepFile(
  folder: string,
  songId: string,
  source: Readable,
): Promise<{ file: string; type: string; bytes: number }> {
  const place = recordingsFolder(folder);
  await mkdir(place, { recursive: true, mode: OWNER_FOLDER });
  const unfinished = path.join(place, `${songId}${UNFINISHED}${randomBytes(6).toString('hex')}`);
  try {
    const bytes = await write(source, unfinished);
    const kind = await kindOf(unfinished, bytes);
    const file = `${songId}-${randomBytes(4).toString('hex')}.${kind.ending}`;
    await rename(unfinished, path.join(place, file));
    return { file, type: kind.type, bytes };
  } catch (error) {
    await rm(unfinished, { force: true });
    throw error;
  }
}

const FULL = ['ENOSPC', 'EDQUOT', 'EFBIG'];

const write = (source: Readable, to: string): Promise<number> =>
  pour(source, createWriteStream(to, { mode: OWNER_FILE, flags: 'wx', flush: true }));

/**
 * Pours what comes into a file, no more than a recording may have.
 * @returns bytes that were written
 * @throws NoRecording 413 where it is too large, 507 where the disk is full
 */
export async function pour(source: Readable, out: Writable): Promise<number> {
  let bytes = 0;
  const counted = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      bytes += chunk.length;
      if (bytes <= LARGEST_RECORDING) return done(null, chunk);
      done(new NoRecording(413, 'A recording may have up to 100 MB; nothing was kept.'));
    },
  });
  try {
    await pipeline(source, counted, out);
  } catch (error) {
    if (!FULL.includes((error as NodeJS.ErrnoException).code ?? '')) throw error;
    throw new NoRecording(
      507,
      'The disk of the app is full: the sound was not kept, and what was there before is whole. Make room, then try again.',
    );
  }
  return bytes;
}

async function kindOf(file: string, bytes: number): Promise<(typeof KINDS)[number]> {
  if (bytes === 0) throw new NoRecording(400, 'The file is empty; nothing was kept.');
  const handle = await open(file, 'r');
  try {
    const head = Buffer.alloc(HEAD);
    const { bytesRead } = await handle.read(head, 0, HEAD, 0);
    const kind = bytesRead < HEAD ? undefined : KINDS.find(({ begins }) => begins(head));
    if (!kind) {
      throw new NoRecording(
        400,
        'This is no sound file that a browser plays: WAV, MP3, Ogg, FLAC, M4A and WebM are. Nothing was kept.',
      );
    }
    if (kind.ending === 'wav') lookThrough(await handle.readFile());
    return kind;
  } finally {
    await handle.close();
  }
}

/** A WAV file says by itself whether it is whole, and how long it is. */
function lookThrough(bytes: Buffer): void {
  try {
    // Only its head is read: a hundred megabytes of samples would hold every other request up.
    if (wavSeconds(bytes) > LONGEST_RECORDING) {
      throw new NoRecording(400, 'A recording may last fifteen minutes; nothing was kept.');
    }
  } catch (error) {
    if (!(error instanceof NotSound)) throw error;
    throw new NoRecording(400, `The file cannot be used: ${error.message}. Nothing was kept.`);
  }
}

/** Songs and takes to which something is being sent. */
const receiving = new Set<string>();

/**
 * Does one upload of something at a time: two at once would leave a file that nothing names.
 * @throws Refusal 409 while another one is under way
 */
export async function alone<Result>(of: string, does: () => Promise<Result>): Promise<Result> {
  if (receiving.has(of)) {
    throw new Refusal(409, {
      error:
        'Another sound is just being sent for this; wait until it is there. Nothing was changed.',
    });
  }
  receiving.add(of);
  try {
    return await does();
  } finally {
    receiving.delete(of);
  }
}

/** Takes a file away; one that is gone already is as good. */
export async function dropFile(folder: string, file: string): Promise<void> {
  await rm(path.join(recordingsFolder(folder), path.basename(file)), { force: true });
}

/** Takes away what a broken upload left behind, and files that nothing has named for a month. */
export async function sweepRecordings(
  folder: string,
  { recordings, takeSounds, songs }: Pick<Database, 'recordings' | 'takeSounds' | 'songs'>,
): Promise<void> {
  const place = recordingsFolder(folder);
  const files = await readdir(place).catch(() => []);
  if (files.length === 0) return;
  const rows = [
    ...(await recordings.findAll({ attributes: ['songId', 'file'] })),
    ...(await takeSounds.findAll({ attributes: ['songId', 'file'] })),
  ];
  const there = new Set(
    (
      await songs.findAll({ attributes: ['id'], where: { id: rows.map(({ songId }) => songId) } })
    ).map(({ id }) => id),
  );
  // What no row ever named was left by an upload that was cut off.
  const known = new Set(rows.map(({ file }) => file));
  const named = new Set(rows.filter(({ songId }) => there.has(songId)).map(({ file }) => file));
  for (const file of files) {
    if (named.has(file)) continue;
    const old = await stat(path.join(place, file)).catch(() => null);
    const left =
      file.includes(UNFINISHED) || !known.has(file) || (old && Date.now() - old.mtimeMs > KEPT_MS);
    if (left) await dropFile(folder, file);
  }
}
