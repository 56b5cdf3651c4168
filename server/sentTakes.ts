import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { Readable } from 'node:stream';
import { strFromU8, strToU8, zip } from 'fflate';
import {
  LARGEST_RECORDING,
  MAX_ONSETS,
  type SentTake,
  sentTakeSchema,
  type Song,
  type StoredTake,
} from '#core/schema';
import { songColumns } from './columns';
import type { Database } from './database';
import { checkBounds, checkText } from './bounds';
import { Refusal } from './errors';
import { dropFile, keepFile, NoRecording, recordingsFolder } from './recordings';
import { whole } from './routes/entries';
import { takeColumns } from './storedTakes';
import { unpacked } from './unpacked';

/**
 * A take to send: a ZIP of `take.json`, which has the song, what was heard and what is answered, and the sound beside
 * it. Any program opens either; this one shows them as they were.
 */

const ABOUT = 'take.json';
/** The largest song with the longest take. */
const MAX_ABOUT = 16 * 2 ** 20;
/** What a file may unfold to: that, and a sound as large as one that is kept. */
export const LARGEST_SENT = LARGEST_RECORDING + MAX_ABOUT;
const MAX_FILES = 8;
const refuse = (error: string) => new Refusal(400, { error });

/** A sound of the data folder with its ending; null where it is gone. */
export async function soundFile(folder: string, file: string): Promise<Sounding | null> {
  const bytes = await readFile(path.join(recordingsFolder(folder), file)).catch(() => null);
  return bytes && { bytes, ending: path.extname(file).slice(1) };
}
interface Sounding {
  bytes: Uint8Array;
  ending: string;
}

/**
 * The file of a take.
 * @param song as it was played
 * @param sound the bytes of a WAV file, or a sound of the data folder
 */
export function sentTake(
  song: Song,
  played: StoredTake,
  sound: Uint8Array | Sounding | null,
): Promise<Uint8Array> {
  const sounding = sound instanceof Uint8Array ? { bytes: sound, ending: 'wav' } : sound;
  const name = sounding && `sound.${sounding.ending}`;
  const about: SentTake = {
    app: 'plucky-wrist',
    take: 1,
    song,
    played,
    ...(name && { sound: name }),
  };
  return new Promise((resolve, reject) => {
    zip(
      {
        [ABOUT]: strToU8(JSON.stringify(about)),
        ...(name && { [name]: [new Uint8Array(sounding!.bytes), { level: 0 }] }),
      },
      { level: 6 },
      (error, bytes) => (error ? reject(error) : resolve(bytes)),
    );
  });
}

/**
 * What is in the file of a take.
 * @throws Refusal 400 that names the place
 */
export async function readSentTake(
  bytes: Uint8Array,
): Promise<{ about: SentTake; sound: Uint8Array | null }> {
  const files = await unpacked(bytes, {
    bytes: LARGEST_SENT,
    files: MAX_FILES,
    noZip: 'This is no take that was sent: it is no ZIP file that can be read.',
    tooMuch: 'This file unfolds to more than a take may have.',
    largest: (name) => (name === ABOUT ? MAX_ABOUT : LARGEST_SENT),
  });
  const text = files[ABOUT];
  if (!text)
    throw refuse(
      `This ZIP file is no take that was sent: it has no ${ABOUT}. An archive of everything is brought in on the Log.`,
    );
  let raw: unknown;
  checkText(text);
  try {
    raw = JSON.parse(strFromU8(text));
  } catch {
    throw refuse(`${ABOUT} in this file is not whole JSON.`);
  }
  checkBounds(raw, MAX_ONSETS);
  const read = sentTakeSchema.safeParse(raw);
  if (!read.success) {
    const [issue] = read.error.issues;
    throw refuse(
      `${ABOUT} in this file: ${issue!.path.join('.') || 'the whole'}: ${issue!.message}`,
    );
  }
  const { sound } = read.data;
  if (sound && !files[sound]) throw refuse(`The sound of this take, ${sound}, is not in the file.`);
  return { about: read.data, sound: sound ? files[sound]! : null };
}

/**
 * Opens a take that was sent. One that is known here brings its answer; else it comes with its song, as a song of its
 * own unless the same one is here. It is no practice of who opens it, and no row of the log.
 * @param folder the data folder, for the sound; null keeps none
 * @throws Refusal 400 where the file is none, and nothing is kept
 */
export async function openSentTake(
  { takes, takeSounds, songs, sequelize }: Database,
  bytes: Uint8Array,
  folder: string | null,
): Promise<{ songId: string; takeId: string; known: boolean }> {
  const { about, sound } = await readSentTake(bytes);
  const { id: takeId, answer } = about.played;
  const here = await takes.findByPk(takeId);
  if (here && (await songs.findByPk(here.songId, { attributes: ['id'] }))) {
    if (answer) await here.update({ answer });
    return { songId: here.songId, takeId, known: true };
  }
  const text = JSON.stringify(about.song);
  const same = await songs.findOne({ where: { id: about.played.songId, document: text } });
  const songId = same?.id ?? randomUUID();
  const kept =
    sound && folder
      ? await keepFile(folder, songId, Readable.from([Buffer.from(sound)])).catch(
          (error: unknown) => {
            if (!(error instanceof NoRecording)) throw error;
            throw new Refusal(error.status, { error: `The sound of this take: ${error.message}` });
          },
        )
      : null;
  await whole(sequelize, async (transaction) => {
    await here?.destroy({ transaction });
    if (!same) {
      const row = { id: songId, revision: 1, ...songColumns(about.song), document: text };
      await songs.create(row, { transaction });
    }
    await takes.create(takeColumns({ ...about.played, songId }), { transaction });
    if (kept) await takeSounds.upsert({ takeId, songId, ...kept }, { transaction });
  }).catch(async (error: unknown) => {
    if (kept) await dropFile(folder!, kept.file);
    throw error;
  });
  return { songId, takeId, known: false };
}
