import { randomUUID } from 'node:crypto';
import { Router } from 'express';
import { type ChangeTime, changeTimeSchema, createChangeTimeSchema } from '#core';
import { z } from 'zod';
import type { Database } from '../database';
import { check, Refusal } from '../errors';

/** Timings that one answer holds, the newest. */
const MOST_LISTED = 500;

const querySchema = z.strictObject({
  /** Open strings from the thumb on, with commas. */
  strings: z
    .string()
    .regex(/^\d{1,3}(,\d{1,3}){2,7}$/, 'MIDI pitches of 3 to 8 open strings, with commas')
    .optional(),
});

/**
 * The timed changes on some strings, newest first; on any where none are named. A row that a later version
 * wrote, and this one cannot read, is left out.
 */
export async function timingsOn(
  { changeTimes }: Pick<Database, 'changeTimes'>,
  strings?: string,
): Promise<ChangeTime[]> {
  const rows = await changeTimes.findAll({
    ...(strings !== undefined && { where: { strings } }),
    order: [['madeAt', 'DESC']],
    limit: MOST_LISTED,
  });
  return rows.flatMap(({ id, madeAt, timing }) => {
    const read = changeTimeSchema.safeParse({
      id,
      madeAt: madeAt.toISOString(),
      ...(JSON.parse(timing) as object),
    });
    return read.success ? [read.data] : [];
  });
}

/** Timings of changes: listed, kept, taken away. */
export function changeTimeRoutes(database: Database) {
  const { changeTimes } = database;
  const router = Router();

  router.get('/', async (request, response) => {
    const { strings } = check(querySchema, request.query);
    response.json(await timingsOn(database, strings));
  });

  router.post('/', async (request, response) => {
    const timing = check(createChangeTimeSchema, request.body);
    const row = { id: randomUUID(), madeAt: new Date() };
    const strings = timing.strings.join();
    await changeTimes.create({ ...row, strings, timing: JSON.stringify(timing) });
    const made: ChangeTime = { id: row.id, madeAt: row.madeAt.toISOString(), ...timing };
    response.status(201).json(made);
  });

  router.delete('/:id', async (request, response) => {
    const id = z.uuid().safeParse(request.params.id);
    const gone = id.success ? await changeTimes.destroy({ where: { id: id.data } }) : 0;
    if (gone === 0) throw new Refusal(404, { error: 'There is no such timing.' });
    response.status(204).end();
  });

  return router;
}
