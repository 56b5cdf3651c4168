import express, { type Request, Router } from 'express';
import { z } from 'zod';
import { archiveSettingsSchema } from '#core/schema';
import { lookIntoArchive, makeArchive, importArchive } from '../archive';
import type { Database } from '../database';
import { jsonUpTo } from '../bounds';
import { check, Refusal } from '../errors';
import { sendWhole } from './send';

const LARGEST = '256mb';
const takeQuery = z.strictObject({ newer: z.enum(['true', 'false']).default('false') });

function bytesOf({ body }: Request): Uint8Array {
  if (Buffer.isBuffer(body) && body.length > 0) return body;
  throw new Refusal(400, { error: 'An archive is sent as application/zip.' });
}

/** An archive is being taken in. */
let taking = false;

/**
 * Takes in one archive at a time: two at once would each find that the other's songs are not there.
 * @throws Refusal 409 while another one is under way
 */
async function oneAtATime<Result>(does: () => Promise<Result>): Promise<Result> {
  if (taking) {
    throw new Refusal(409, {
      error: 'Another archive is just being taken in; wait until it is. Nothing was changed.',
    });
  }
  taking = true;
  try {
    return await does();
  } finally {
    taking = false;
  }
}

/** The whole shelf as one file: out, looked through, and in again. */
export function archiveRoutes(database: Database, folder: string | null) {
  const router = Router();
  const zipped = express.raw({ limit: LARGEST, type: 'application/zip' });

  router.post('/', jsonUpTo('1mb'), async (request, response) => {
    const { settings, recordings } = check(archiveSettingsSchema, (request.body as unknown) ?? {});
    const day = new Date().toISOString().slice(0, 10);
    const bytes = await makeArchive(database, settings, recordings ? folder : null);
    sendWhole(response.attachment(`plucky-wrist-${day}.zip`).type('application/zip'), bytes);
  });
  router.post('/look', zipped, async (request: Request, response) => {
    response.json(await lookIntoArchive(database, bytesOf(request)));
  });
  router.post('/take', zipped, async (request: Request, response) => {
    const { newer } = check(takeQuery, request.query);
    const bytes = bytesOf(request);
    response.json(await oneAtATime(() => importArchive(database, bytes, newer === 'true', folder)));
  });
  return router;
}
