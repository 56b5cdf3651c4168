import { type Request, Router } from 'express';
import {
  MAX_BARS_PLAYED,
  type RecordingInfo,
  type RecordingMap,
  recordingMapSchema,
  recordingSchema,
  type Song,
  textSchema,
} from '#core/schema';
import { z } from 'zod';
import type { Database } from '../database';
import { boundedTo, jsonUpTo } from '../bounds';
import { check, noRange, Refusal } from '../errors';
import type { RecordingRow } from '../models';
import { alone, dropFile, keepFile, NoRecording, recordingsFolder } from '../recordings';

/** A map has a beat for each of the recording's, and a landing for each of the song's. */
const longBounded = boundedTo(MAX_BARS_PLAYED * 32);
const NOTHING_KNOWN: RecordingMap = { map: null, landings: [] };
const querySchema = z.strictObject({
  name: textSchema(200).default('Recording'),
});

function infoOf({ name, type, bytes, madeAt, map }: RecordingRow): RecordingInfo {
  const known = recordingMapSchema.safeParse(JSON.parse(map));
  return recordingSchema.parse({
    name,
    type,
    bytes,
    madeAt: madeAt.toISOString(),
    ...(known.success ? known.data : NOTHING_KNOWN),
  });
}

/**
 * The recording beside a song: kept in the data folder, streamed with ranges, never sent anywhere else.
 * @param find the song of a request
 * @param folder the data folder
 */
export function recordingRoutes(
  { recordings }: Pick<Database, 'recordings'>,
  folder: string,
  find: (request: Request) => Promise<{ id: string; document: Song }>,
) {
  const router = Router({ mergeParams: true });

  const rowOf = async (request: Request) => {
    const { id } = await find(request);
    const row = await recordings.findByPk(id);
    if (!row) throw new Refusal(404, { error: 'This song has no recording.' });
    return row;
  };

  router.put('/', async (request: Request, response) => {
    const { name } = check(querySchema, request.query);
    const { id } = await find(request);
    const before = await alone(id, async () => {
      const kept = await keepFile(folder, id, request).catch((error: unknown) => {
        if (!(error instanceof NoRecording)) throw error;
        throw new Refusal(error.status, { error: error.message });
      });
      try {
        // The song may have been deleted meanwhile: then nobody would own the file.
        await find(request);
        const known = await recordings.findByPk(id);
        await recordings.upsert({
          songId: id,
          name,
          madeAt: new Date(),
          map: JSON.stringify(NOTHING_KNOWN),
          ...kept,
        });
        return known;
      } catch (error) {
        await dropFile(folder, kept.file);
        throw error;
      }
    });
    if (before) await dropFile(folder, before.file);
    response.status(before ? 200 : 201).json(infoOf(await rowOf(request)));
  });

  router.get('/', async (request: Request, response, next) => {
    const row = await rowOf(request);
    response.sendFile(
      row.file,
      {
        root: recordingsFolder(folder),
        headers: { 'Content-Type': row.type, 'Cache-Control': 'private, no-cache' },
      },
      (error) => {
        if (!error || response.headersSent) return;
        next(
          noRange(error) ??
            new Refusal(404, { error: 'The file of this recording is gone from the data folder.' }),
        );
      },
    );
  });

  router.delete('/', async (request: Request, response) => {
    const row = await rowOf(request);
    await row.destroy();
    await dropFile(folder, row.file);
    response.status(204).end();
  });

  // A song without one is nothing to be refused: it is asked of every song that is opened.
  router.get('/map', async (request: Request, response) => {
    const { id } = await find(request);
    const row = await recordings.findByPk(id);
    response.json(row && infoOf(row));
  });

  router.put('/map', jsonUpTo('1mb'), longBounded, async (request: Request, response) => {
    const known = check(recordingMapSchema, request.body);
    const row = await rowOf(request);
    await row.update({ map: JSON.stringify(known) });
    response.json(infoOf(row));
  });

  return router;
}
