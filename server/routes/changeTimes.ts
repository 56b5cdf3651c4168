import { randomUUID } from 'node:crypto';
import { Router } from 'express';
import {
  type ChangeTime,
  changeTimeSchema,
  createChangeTimeSchema,
  type Entry,
  type NewChangeTime,
} from '#core';
import { z } from 'zod';
import type { Database } from '../database';
import { check, Refusal } from '../errors';
import { addEntry, entryOf, whole } from './entries';

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

/** The row of the log for a timing: the middle of what the change took, and the time that was spent. */
export function changeEntry({
  id,
  madeAt,
  from,
  to,
  instrument,
  gaps,
  source,
}: NewChangeTime & { id: string; madeAt: Date }): Entry {
  const sorted = [...gaps].sort((a, b) => a - b);
  return entryOf({
    id,
    madeAt: madeAt.toISOString(),
    kind: 'change',
    instrument,
    source: source === 'taps' ? 'taps' : source === 'heard' ? 'microphone' : 'example',
    seconds: gaps.reduce((sum, gap) => sum + gap, 0) / 1000,
    median: sorted[Math.floor(sorted.length / 2)]!,
    change: `${from} to ${to}`,
  });
}

/** Timings of changes: listed, kept, taken away. */
export function changeTimeRoutes(database: Database) {
  const { changeTimes, entries, sequelize } = database;
  const router = Router();

  router.get('/', async (request, response) => {
    const { strings } = check(querySchema, request.query);
    response.json(await timingsOn(database, strings));
  });

  router.post('/', async (request, response) => {
    const timing = check(createChangeTimeSchema, request.body);
    const row = { id: randomUUID(), madeAt: new Date() };
    const strings = timing.strings.join();
    await whole(sequelize, async (transaction) => {
      await changeTimes.create(
        { ...row, strings, timing: JSON.stringify(timing) },
        { transaction },
      );
      await addEntry(database, changeEntry({ ...timing, ...row }), transaction);
    });
    const made: ChangeTime = { id: row.id, madeAt: row.madeAt.toISOString(), ...timing };
    response.status(201).json(made);
  });

  router.delete('/:id', async (request, response) => {
    const id = z.uuid().safeParse(request.params.id);
    const where = id.success ? { id: id.data } : null;
    const gone = where
      ? await whole(sequelize, async (transaction) => {
          await entries.destroy({ where: { ...where, kind: 'change' }, transaction });
          return changeTimes.destroy({ where, transaction });
        })
      : 0;
    if (gone === 0) throw new Refusal(404, { error: 'There is no such timing.' });
    response.status(204).end();
  });

  return router;
}
