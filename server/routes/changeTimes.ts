import { Router } from 'express';
import {
  type ChangeTime,
  changeTimeSchema,
  createChangeTimeSchema,
  type Entry,
  type TimedPair,
} from '#core/schema';
import { z } from 'zod';
import type { Database } from '../database';
import { check, Refusal } from '../errors';
import type { ChangeTimeRow } from '../models';
import { addEntry, entryOf, once, stampOf, whole } from './entries';

/** Timings that one answer holds, the newest. */
const MAX_LISTED = 500;

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
    limit: MAX_LISTED,
  });
  return rows.flatMap((row) => timingOfRow(row) ?? []);
}

/** A timing as it is kept; null for one that a later version wrote. */
function timingOfRow({ id, madeAt, timing }: ChangeTimeRow): ChangeTime | null {
  const known: object = JSON.parse(timing);
  return changeTimeSchema.safeParse({ id, madeAt: madeAt.toISOString(), ...known }).data ?? null;
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
}: TimedPair & { id: string; madeAt: Date }): Entry {
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
    const { id, madeAt, ...timing } = check(createChangeTimeSchema, request.body);
    const row = stampOf({ id, madeAt });
    const made = async (): Promise<ChangeTime> => {
      await whole(sequelize, async (transaction) => {
        const strings = timing.strings.join();
        const columns = { ...row, strings, timing: JSON.stringify(timing) };
        await changeTimes.create(columns, { transaction });
        await addEntry(database, changeEntry({ ...timing, ...row }), transaction);
      });
      return { id: row.id, madeAt: row.madeAt.toISOString(), ...timing };
    };
    const known = async () => {
      const there = id === undefined ? null : await changeTimes.findByPk(id);
      return there && timingOfRow(there);
    };
    const { kept, isNew } = await once(known, made);
    response.status(isNew ? 201 : 200).json(kept);
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
