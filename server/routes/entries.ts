import { randomUUID } from 'node:crypto';
import {
  Op,
  type Sequelize,
  Transaction,
  UniqueConstraintError,
  type WhereOptions,
} from 'sequelize';
import { type Entry, entrySchema } from '#core/schema';
import type { Database } from '../database';
import type { EntryColumns, EntryRow } from '../models';
import { Refusal } from '../errors';

/** Does several writes as one: all of them are kept, or none. Writers wait for each other. */
export const whole = <Result>(
  sequelize: Sequelize,
  does: (transaction: Transaction) => Promise<Result>,
): Promise<Result> => sequelize.transaction({ type: Transaction.TYPES.IMMEDIATE }, does);

/** A clock elsewhere may be ahead by this: time zones, and a clock that is set wrong by hours. */
const A_DAY = 86_400_000;

/**
 * Refuses what is still to come.
 * @throws Refusal 400 with the place
 */
export function notToCome(path: string, madeAt: string | undefined): void {
  if (madeAt === undefined || Date.parse(madeAt) <= Date.now() + A_DAY) return;
  const message = 'is a day that is still to come';
  throw new Refusal(400, { error: `${path}: ${message}`, problems: [{ path, message }] });
}

/** The id and the moment of something new; what was made while the server was away brings its own. */
export function stampOf({ id, madeAt }: { id?: string | undefined; madeAt?: string | undefined }) {
  const now = Date.now();
  return {
    id: id ?? randomUUID(),
    madeAt: new Date(madeAt === undefined ? now : Math.min(now, Date.parse(madeAt))),
  };
}

/**
 * Keeps something unless it is kept already: what is sent twice, because an answer was lost, is there once.
 * @param find what is kept under its id; null where nothing is
 * @returns what is kept, and whether it is new
 * @throws Refusal 409 where the id is one of something else
 */
export async function once<Kept>(
  find: () => Promise<Kept | null>,
  make: () => Promise<Kept>,
): Promise<{ kept: Kept; isNew: boolean }> {
  const known = await find();
  if (known !== null) return { kept: known, isNew: false };
  try {
    return { kept: await make(), isNew: true };
  } catch (error) {
    if (!(error instanceof UniqueConstraintError)) throw error;
    // Two windows may send the same at the same moment.
    const meanwhile = await find();
    if (meanwhile === null) throw new Refusal(409, { error: 'This id is one of something else.' });
    return { kept: meanwhile, isNew: false };
  }
}

/** A row of the log with nothing in it. */
const EMPTY: Omit<Entry, 'id' | 'madeAt' | 'kind'> = {
  songId: null,
  song: null,
  instrument: null,
  rung: null,
  hands: null,
  from: null,
  to: null,
  whole: false,
  tempo: null,
  seconds: 0,
  source: null,
  trouble: null,
  within: null,
  median: null,
  spread: null,
  change: null,
  place: null,
  text: null,
};

/** A whole row of the log from what is known of it. */
export const entryOf = (known: Pick<Entry, 'id' | 'madeAt' | 'kind'> & Partial<Entry>): Entry => ({
  ...EMPTY,
  ...known,
});

export function columnsOf({ madeAt, place, ...rest }: Entry): EntryColumns {
  return {
    ...rest,
    madeAt: Date.parse(madeAt),
    placeFrom: place?.from ?? null,
    placeTo: place?.to ?? null,
  };
}

/** A row as it is sent; null for one that a later version wrote and this one cannot read. */
export const entryOfRow = (row: EntryRow): Entry | null =>
  entryOfColumns(row.get({ plain: true }) as EntryColumns);

/** The same of a row as the data file has it, which is read several times as fast. */
function entryOfColumns({ madeAt, placeFrom, placeTo, ...rest }: EntryColumns): Entry | null {
  const place = placeFrom !== null && placeTo !== null ? { from: placeFrom, to: placeTo } : null;
  const read = entrySchema.safeParse({
    ...rest,
    // SQLite has no truth, only 0 and 1.
    whole: Boolean(rest.whole),
    madeAt: new Date(madeAt).toISOString(),
    place,
  });
  return read.success ? read.data : null;
}

/** Adds a row, in the transaction of what it is a row of. */
export async function addEntry(
  { entries }: Pick<Database, 'entries'>,
  entry: Entry,
  transaction?: Transaction,
): Promise<void> {
  await entries.create(columnsOf(entry), transaction ? { transaction } : {});
}

export interface LogFilter {
  song?: string | undefined;
  kind?: string | undefined;
  verdict?: string | undefined;
  /** Milliseconds since 1970: from, and up to but without. */
  since?: number | undefined;
  until?: number | undefined;
}

export function whereOf({ song, kind, verdict, since, until }: LogFilter): WhereOptions {
  return {
    ...(song !== undefined && { songId: song }),
    ...(kind !== undefined && { kind }),
    ...(verdict !== undefined && { trouble: verdict }),
    ...((since !== undefined || until !== undefined) && {
      madeAt: {
        ...(since !== undefined && { [Op.gte]: since }),
        ...(until !== undefined && { [Op.lt]: until }),
      },
    }),
  };
}

const CURSOR = /^(\d{1,15})~([0-9a-f-]{36})$/;

/**
 * A page of the log, the newest first, from where the page before ended: a row that is added meanwhile moves nothing.
 */
export async function pageOf(
  { entries }: Pick<Database, 'entries'>,
  filter: LogFilter,
  limit: number,
  after?: string,
): Promise<{ entries: Entry[]; total: number; next: string | null }> {
  const [total, page] = await Promise.all([
    entries.count({ where: whereOf(filter) }),
    rowsOf({ entries }, filter, limit, after),
  ]);
  return { ...page, total };
}

/** The same without a count of them all. */
async function rowsOf(
  { entries }: Pick<Database, 'entries'>,
  filter: LogFilter,
  limit: number,
  after?: string,
): Promise<{ entries: Entry[]; next: string | null }> {
  const where = whereOf(filter);
  const cursor = after === undefined ? null : CURSOR.exec(after);
  if (after !== undefined && !cursor) {
    const message = 'is not where a page begins';
    throw new Refusal(400, { error: `after: ${message}`, problems: [{ path: 'after', message }] });
  }
  const [at, id] = cursor ? [Number(cursor[1]), cursor[2]!] : [0, ''];
  // The first bound is what the index is read from; the rest only tells rows of one moment apart.
  const later = cursor && {
    madeAt: { [Op.lte]: at },
    [Op.or]: [{ madeAt: { [Op.lt]: at } }, { id: { [Op.lt]: id } }],
  };
  const rows = await entries.findAll({
    where: later ? { [Op.and]: [where, later] } : where,
    order: [
      ['madeAt', 'DESC'],
      ['id', 'DESC'],
    ],
    limit: limit + 1,
    raw: true,
  });
  const page = rows.slice(0, limit);
  const last = page.at(-1);
  return {
    entries: page.flatMap((row) => entryOfColumns(row) ?? []),
    next: rows.length > limit && last ? `${last.madeAt}~${last.id}` : null,
  };
}

/** Rows that are read at once where all are asked for: others get their turn in between. */
const READ_AT_ONCE = 80;

/** All rows that a filter lets through, the newest first, some at a time. */
export async function* allOf(
  database: Pick<Database, 'entries'>,
  filter: LogFilter,
): AsyncGenerator<Entry[], void> {
  let after: string | undefined;
  do {
    const page = await rowsOf(database, filter, READ_AT_ONCE, after);
    yield page.entries;
    after = page.next ?? undefined;
  } while (after !== undefined);
}

/** Rows that are written at once: others get their turn in between. */
const WRITTEN_AT_ONCE = 150;

/** Adds many rows in a transaction, without a model of each, which takes several times as long. */
export async function addMany(
  { entries, sequelize }: Pick<Database, 'entries' | 'sequelize'>,
  rows: Entry[],
  transaction: Transaction,
): Promise<void> {
  for (let from = 0; from < rows.length; from += WRITTEN_AT_ONCE) {
    const some = rows.slice(from, from + WRITTEN_AT_ONCE).map(columnsOf);
    await sequelize.getQueryInterface().bulkInsert(entries.getTableName(), some, { transaction });
  }
}
