import { randomUUID } from 'node:crypto';
import { setImmediate } from 'node:timers/promises';
import { Router } from 'express';
import { z } from 'zod';
import {
  changeEntrySchema,
  type Entry,
  entryKindSchema,
  entrySchema,
  MAX_LOG_ROWS,
  MAX_ROWS_AT_ONCE,
  type NewEntry,
  newEntrySchema,
  saidTroubleSchema,
} from '#core/schema';
import { logCsv, moreCsv, planCalendar } from '#core/log';
import { bounded, boundedTo, jsonUpTo } from '../bounds';
import type { Database } from '../database';
import { rememberedIn } from '../remembered';
import { check, Refusal } from '../errors';
import {
  addEntry,
  addMany,
  allOf,
  entryOf,
  entryOfRow,
  notToCome,
  once,
  pageOf,
  whole,
} from './entries';
import { sendText } from './send';
import { planOf } from './plan';
import { summaryOf } from './summary';

const MAX_ON_PAGE = 200;
/** Rows of a player's own file that are read and written at once: others get their turn in between. */
const AT_ONCE = 500;
const DAY = 86_400_000;

const filter = {
  song: z.uuid().optional(),
  kind: entryKindSchema.optional(),
  verdict: saidTroubleSchema.optional(),
  /** Days of the player's own clock, the last one included. */
  from: z.iso.date().optional(),
  to: z.iso.date().optional(),
  /** Minutes by which the player's clock is ahead of Greenwich. */
  zone: z.coerce.number().pipe(z.int().min(-840).max(840)).default(0),
};
const filterSchema = z.strictObject(filter);
const pageSchema = z.strictObject({
  ...filter,
  after: z.string().max(60).optional(),
  limit: z.coerce.number().pipe(z.int().min(1).max(MAX_ON_PAGE)).default(50),
});
const minutes = z.coerce.number().pipe(z.int().min(5).max(240)).default(20);
const planQuery = z.strictObject({ minutes, zone: filter.zone });
const calendarQuery = z.strictObject({
  minutes,
  zone: filter.zone,
  from: z.iso.date(),
  to: z.iso.date(),
  days: z
    .string()
    .regex(/^[1-7](,[1-7]){0,6}$/, 'days of the week, 1 Monday to 7 Sunday, with commas'),
  hour: z.coerce.number().pipe(z.int().min(0).max(23)).default(19),
});
/** The rows themselves are looked at some at a time. */
const manySchema = z.strictObject({ entries: z.array(z.unknown()).min(1).max(MAX_ROWS_AT_ONCE) });

function asked({ song, kind, verdict, from, to, zone }: z.infer<typeof filterSchema>) {
  const shift = zone * 60_000;
  return {
    song,
    kind,
    verdict,
    zone: shift,
    ...(from !== undefined && { since: Date.parse(from) - shift }),
    ...(to !== undefined && { until: Date.parse(to) - shift + DAY }),
  };
}

/** The log: pages, what it comes to, rows by hand, files of it, and the plan that follows from it. */
export function logRoutes(database: Database) {
  const { entries, songs, sequelize } = database;
  const remember = rememberedIn(sequelize);
  const router = Router();
  // A player's own file may be longer than any document.
  router.use('/many', jsonUpTo('8mb'), boundedTo(MAX_LOG_ROWS));
  router.use(/^(?!\/many$)/, jsonUpTo('1mb'), bounded);

  router.get('/', async (request, response) => {
    const { after, limit, ...rest } = check(pageSchema, request.query);
    response.json(await pageOf(database, asked(rest), limit, after));
  });

  router.get('/summary', async (request, response) => {
    const query = asked(check(filterSchema, request.query));
    const answer = await remember(`summary ${JSON.stringify(query)}`, () =>
      summaryOf(database, query),
    );
    response.json(answer);
  });

  router.get('/plan', async (request, response) => {
    const query = check(planQuery, request.query);
    const { minutes: long, zone } = query;
    // The plan of a day: tomorrow it is another.
    const key = `plan ${long} ${zone} ${new Date().toISOString().slice(0, 13)}`;
    response.json(await remember(key, () => planOf(database, long, zone * 60_000)));
  });

  router.get('/plan.ics', async (request, response) => {
    const { minutes: long, zone, from, to, days, hour } = check(calendarQuery, request.query);
    const plan = await planOf(database, long, zone * 60_000);
    try {
      const text = planCalendar(plan, from, to, days.split(',').map(Number), hour);
      response.attachment('practice.ics').type('text/calendar').send(text);
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      throw new Refusal(400, { error: error.message });
    }
  });

  router.get('/export.csv', async (request, response) => {
    const pages = allOf(database, asked(check(filterSchema, request.query)));
    async function* text() {
      let isFirst = true;
      for await (const page of pages) {
        yield isFirst ? logCsv(page) : moreCsv(page);
        isFirst = false;
      }
    }
    await sendText(response.attachment('log.csv').type('text/csv'), text());
  });
  router.get('/export.json', async (request, response) => {
    const pages = allOf(database, asked(check(filterSchema, request.query)));
    async function* text() {
      let before = '{"entries":[';
      for await (const page of pages) {
        if (page.length === 0) continue;
        yield before + page.map((entry) => JSON.stringify(entry)).join(',');
        before = ',';
      }
      yield before === ',' ? ']}' : `${before}]}`;
    }
    await sendText(response.attachment('log.json').type('json'), text());
  });

  /** A row that a player adds, with the names of its song as it is called now. */
  const made = (
    { id, madeAt, ...rest }: z.infer<typeof newEntrySchema>,
    song: { id: string; title: string; instrument: string } | null,
  ): Entry =>
    entryOf({
      id: id ?? randomUUID(),
      madeAt: madeAt ?? new Date().toISOString(),
      ...rest,
      ...(song && { songId: song.id, song: song.title, instrument: song.instrument }),
      ...(rest.kind === 'take' && {
        rung: rest.rung ?? 'song',
        hands: rest.hands ?? 'both',
        whole: rest.whole ?? rest.from === undefined,
      }),
      // What has an id was said right after the take, and comes later.
      source:
        rest.source ??
        (rest.kind === 'take' && (madeAt === undefined || id !== undefined) ? 'word' : 'by hand'),
    });
  router.post('/', async (request, response) => {
    const asked = check(newEntrySchema, request.body);
    notToCome('madeAt', asked.madeAt);
    const song = asked.songId === undefined ? null : await songs.findByPk(asked.songId);
    if (asked.songId !== undefined && !song) {
      throw new Refusal(404, { error: 'There is no such song.' });
    }
    const entry = made(asked, song);
    const { kept, isNew } = await once(
      async () => {
        const row = asked.id === undefined ? null : await entries.findByPk(asked.id);
        return row && entryOfRow(row);
      },
      async () => {
        await addEntry(database, entry);
        return entry;
      },
    );
    response.status(isNew ? 201 : 200).json(kept);
  });

  /** Rows of a player's own file: all of them or none, and none that is there already. */
  router.post('/many', async (request, response) => {
    const { entries: sent } = check(manySchema, request.body);
    const list: NewEntry[] = [];
    for (let from = 0; from < sent.length; from += AT_ONCE) {
      for (const [index, one] of sent.slice(from, from + AT_ONCE).entries()) {
        const entry = check(newEntrySchema, one, ['entries', from + index]);
        notToCome(`entries[${from + index}].madeAt`, entry.madeAt);
        list.push(entry);
      }
      await setImmediate();
    }
    const known = await songs.findAll({ attributes: ['id', 'title', 'instrument'] });
    const byTitle = new Map(known.map((song) => [song.title.toLowerCase(), song]));
    const byId = new Map(known.map((song) => [song.id, song]));
    const rows = list.map((one): Entry => {
      const song = byId.get(one.songId ?? '') ?? byTitle.get((one.song ?? '').toLowerCase());
      const { songId: _, ...rest } = one;
      return { ...made(rest, song ?? null), source: 'by hand' };
    });
    const keyOf = ({ madeAt, kind, song, tempo, seconds, text }: Entry) =>
      JSON.stringify([Date.parse(madeAt), kind, song, tempo, seconds, text]);
    const added = await whole(sequelize, async (transaction) => {
      const seen = new Set<string>();
      const moments = [...new Set(rows.map(({ madeAt }) => Date.parse(madeAt)))];
      for (let from = 0; from < moments.length; from += AT_ONCE) {
        const where = { madeAt: moments.slice(from, from + AT_ONCE) };
        const there = await entries.findAll({ where, transaction });
        for (const row of there) {
          const entry = entryOfRow(row);
          if (entry) seen.add(keyOf(entry));
        }
      }
      const fresh = rows.filter((row) => {
        const key = keyOf(row);
        if (seen.has(key)) return false;
        seen.add(key);
        return true;
      });
      await addMany(database, fresh, transaction);
      return fresh.length;
    });
    response.status(201).json({ added, known: rows.length - added });
  });

  const rowOf = async (id: unknown) => {
    const read = z.uuid().safeParse(id);
    const row = read.success ? await entries.findByPk(read.data) : null;
    if (!row) throw new Refusal(404, { error: 'There is no such row in the log.' });
    return row;
  };
  const sent = (entry: Entry | null): Entry => {
    if (!entry) throw new Refusal(422, { error: 'This row of the log cannot be read any more.' });
    return entry;
  };

  router.patch('/:id', async (request, response) => {
    const { madeAt, ...rest } = check(changeEntrySchema, request.body);
    notToCome('madeAt', madeAt);
    const row = await rowOf(request.params.id);
    await row.update({ ...rest, ...(madeAt !== undefined && { madeAt: Date.parse(madeAt) }) });
    response.json(sent(entryOfRow(row)));
  });

  /** Puts a row back that was taken out: the same one, and only where it is not there. */
  router.put('/:id', async (request, response) => {
    const entry = check(entrySchema, request.body);
    notToCome('madeAt', entry.madeAt);
    if (entry.id !== request.params.id) {
      const message = 'is not the row of the address';
      throw new Refusal(400, { error: `id: ${message}`, problems: [{ path: 'id', message }] });
    }
    if (await entries.findByPk(entry.id)) {
      throw new Refusal(409, { error: 'This row is in the log already.' });
    }
    await addEntry(database, entry);
    response.status(201).json(entry);
  });

  router.delete('/:id', async (request, response) => {
    await (await rowOf(request.params.id)).destroy();
    response.status(204).end();
  });

  return router;
}
