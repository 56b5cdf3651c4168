import express, { type Request, Router } from 'express';
import type { Database } from '../database';
import { Refusal } from '../errors';
import { LARGEST_SENT, openSentTake } from '../sentTakes';

/** A take that was sent: opened, with its song and its sound. */
export function sentTakeRoutes(database: Database, folder: string | null) {
  const router = Router();
  router.post(
    '/',
    express.raw({ limit: LARGEST_SENT, type: 'application/zip' }),
    async ({ body }: Request, response) => {
      if (!Buffer.isBuffer(body) || body.length === 0) {
        throw new Refusal(400, { error: 'A take that was sent comes as application/zip.' });
      }
      const opened = await openSentTake(database, body, folder);
      response.status(opened.known ? 200 : 201).json(opened);
    },
  );
  return router;
}
