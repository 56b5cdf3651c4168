import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { Readable } from 'node:stream';
import { strToU8, type Zippable } from 'fflate';
import { z } from 'zod';
import { recordingSchema } from '#core/schema';
import type { Database } from './database';
import { Refusal } from './errors';
import { keepFile, NoRecording, recordingsFolder } from './recordings';

/** Recordings in an archive: a file as it is, and beside it what is known of it. */

/** Bytes of recordings that one archive carries; it is made and read in memory. */
const MAX_IN_ARCHIVE = 200 * 2 ** 20;
const FOLDER = 'recordings';

/** What an archive says of a recording; `file` is its name in the archive. */
export const archivedRecordingSchema = recordingSchema.extend({
  songId: z.uuid(),
  file: z.string().regex(/^[\w.-]{1,120}$/),
});
export type ArchivedRecording = z.infer<typeof archivedRecordingSchema>;

export const isRecordingFile = (name: string) => name.startsWith(`${FOLDER}/`);

/**
 * The files of all recordings for an archive, stored as they are: sound hardly packs.
 * @throws Refusal 413 where they are too much for one file
 */
export async function recordingFiles(
  { recordings }: Pick<Database, 'recordings'>,
  folder: string,
): Promise<Zippable> {
  const rows = await recordings.findAll();
  const bytes = rows.reduce((sum, row) => sum + row.bytes, 0);
  if (bytes > MAX_IN_ARCHIVE) {
    throw new Refusal(413, {
      error: `The recordings have ${Math.round(bytes / 2 ** 20)} MB together, more than one archive carries. Save it without them, and copy the folder “${FOLDER}” of the data folder.`,
    });
  }
  const files: Zippable = {};
  for (const row of rows) {
    const sound = await readFile(path.join(recordingsFolder(folder), row.file)).catch(() => null);
    if (!sound) continue;
    const { songId, name, type, file, madeAt, map } = row;
    const known = JSON.parse(map) as object;
    const about = { songId, name, type, bytes: row.bytes, file, madeAt: madeAt.toISOString() };
    files[`${FOLDER}/${songId}.json`] = strToU8(JSON.stringify({ ...about, ...known }));
    files[`${FOLDER}/${file}`] = [new Uint8Array(sound), { level: 0 }];
  }
  return files;
}

/** The sound of a recording in an archive; undefined where it is not there. */
export const soundOf = (files: Record<string, Uint8Array>, { file }: ArchivedRecording) =>
  files[`${FOLDER}/${file}`];

/**
 * Writes the sound of a recording into the data folder, looked through as one that is sent.
 * @returns the columns of its row; null where it is no sound
 */
export async function keepArchived(
  folder: string,
  { songId, name, madeAt, map, landings }: ArchivedRecording,
  sound: Uint8Array,
) {
  try {
    const kept = await keepFile(folder, songId, Readable.from([Buffer.from(sound)]));
    return {
      songId,
      name,
      madeAt: new Date(madeAt),
      map: JSON.stringify({ map, landings }),
      ...kept,
    };
  } catch (error) {
    if (error instanceof NoRecording && error.status === 507) {
      throw new Refusal(507, { error: error.message });
    }
    if (error instanceof NoRecording) return null;
    throw error;
  }
}
