import { strFromU8, strToU8, zip, type Zippable } from 'fflate';
import type { Model, ModelStatic } from 'sequelize';
import { z } from 'zod';
import {
  type ArchiveLook,
  type ChangeTime,
  changeTimeSchema,
  type Entry,
  entrySchema,
  LARGEST_RECORDING,
  MAX_LOG_ROWS,
  MAX_ONSETS,
  type OwnInstrument,
  ownInstrumentSchema,
  type Pattern,
  type Song,
  storedPatternSchema,
  storedSongSchema,
  type StoredTake,
  storedTakeSchema,
} from '#core/schema';
import {
  type ArchivedRecording,
  archivedRecordingSchema,
  isRecordingFile,
  keepArchived,
  recordingFiles,
  soundOf,
} from './archivedRecordings';
import type { Database } from './database';
import { checkBounds, checkText } from './bounds';
import { Refusal } from './errors';
import { patternColumns, songColumns } from './columns';
import { dropFile } from './recordings';
import { addMany, allOf, whole } from './routes/entries';
import { keptTake, takeColumns } from './storedTakes';
import { unpacked } from './unpacked';

/**
 * The whole shelf as one file, a ZIP of JSON: songs, patterns, the log, takes, timings, and how the app was set up.
 * A player can keep it, open it with anything, and bring it in again: the same things are recognised by their ids.
 */

const NAME = 'plucky-wrist';
const VERSION = 1;
/** What an archive may unfold to, so that a small file cannot fill the memory. */
const MAX_BYTES = 256 * 2 ** 20;
const MAX_FILES = 60_000;
/** One document or take in it; and one of its lists. */
const MAX_OF_ONE = 8 * 2 ** 20;
const MAX_OF_LIST = 96 * 2 ** 20;
/** Files that cannot be read, of which an answer tells. */
const MAX_PROBLEMS = 50;
/** Documents that are read before other requests get their turn again. */
const READ_AT_ONCE = 20;
const ROWS_AT_ONCE = 250;

/** Values of the rows of a list: more than any row has. */
const MAX_VALUES_OF_LIST = 32 * MAX_LOG_ROWS;
const aboutSchema = z.object({ app: z.literal(NAME), archive: z.literal(VERSION) });
const settingsSchema = z.record(z.string(), z.string());

/** Everything in an archive, as it was read. */
interface Contents {
  songs: z.infer<typeof storedSongSchema>[];
  patterns: z.infer<typeof storedPatternSchema>[];
  rows: Entry[];
  takes: StoredTake[];
  timings: ChangeTime[];
  instruments: OwnInstrument[];
  recordings: { about: ArchivedRecording; sound: Uint8Array }[];
  settings: Record<string, string>;
  problems: ArchiveLook['problems'];
}

const json = (value: unknown) => strToU8(JSON.stringify(value));
const turn = () => new Promise<void>((resolve) => setImmediate(resolve));

/**
 * The archive of all that the database holds.
 * @param recordings the data folder, where recordings are to be in it too; null leaves them out
 */
export async function makeArchive(
  database: Database,
  settings: Record<string, string>,
  recordings: string | null = null,
): Promise<Uint8Array> {
  const { songs, patterns, takes, changeTimes, instruments } = database;
  const files: Zippable = {
    'about.json': json({ app: NAME, archive: VERSION, made: new Date().toISOString() }),
    'settings.json': json(settings),
    ...(recordings !== null && (await recordingFiles(database, recordings))),
  };
  for (const [folder, rows] of [
    ['songs', await songs.findAll()],
    ['patterns', await patterns.findAll()],
  ] as const) {
    for (const { id, revision, updatedAt, document } of rows) {
      // The text as it is kept, so that a document that cannot be read here is not lost.
      const head = JSON.stringify({ id, revision, updatedAt: updatedAt.toISOString() });
      files[`${folder}/${id}.json`] = strToU8(`${head.slice(0, -1)},"document":${document}}`);
    }
  }
  const rows: Entry[] = [];
  for await (const page of allOf(database, {})) rows.push(...page);
  files['log.json'] = json(rows.reverse());
  const timed = await changeTimes.findAll({ order: [['madeAt', 'ASC']] });
  files['timings.json'] = json(
    timed.map(({ id, madeAt, timing }) => ({
      id,
      madeAt: madeAt.toISOString(),
      ...(JSON.parse(timing) as object),
    })),
  );
  files['instruments.json'] = json(
    (await instruments.findAll()).map(({ id, instrument }) => ({
      id,
      instrument: JSON.parse(instrument) as unknown,
    })),
  );
  for (const row of await takes.findAll()) {
    files[`takes/${row.id}.json`] = json(keptTake(row));
  }
  return new Promise((resolve, reject) => {
    zip(files, { level: 6 }, (error, bytes) => (error ? reject(error) : resolve(bytes)));
  });
}

/**
 * What an archive holds.
 * @throws Refusal 400 where it is none
 */
export async function readArchive(bytes: Uint8Array): Promise<Contents> {
  const files = await unpacked(bytes, {
    bytes: MAX_BYTES,
    files: MAX_FILES,
    noZip: 'This is not an archive: it is no ZIP file that can be read.',
    tooMuch: 'This archive unfolds to more than 256 MB.',
    wanted: (name) => name.endsWith('.json') || isRecordingFile(name),
    largest: (name) =>
      isRecordingFile(name) && !name.endsWith('.json')
        ? LARGEST_RECORDING
        : name.includes('/')
          ? MAX_OF_ONE
          : MAX_OF_LIST,
  });
  const found: Contents = {
    songs: [],
    patterns: [],
    rows: [],
    takes: [],
    timings: [],
    instruments: [],
    recordings: [],
    settings: {},
    problems: [],
  };
  const raw = (file: string): unknown => {
    try {
      checkText(files[file]!, file.includes('/') ? undefined : MAX_VALUES_OF_LIST);
      return JSON.parse(strFromU8(files[file]!));
    } catch {
      return undefined;
    }
  };
  if (!files['about.json'] || !aboutSchema.safeParse(raw('about.json')).success) {
    throw new Refusal(400, { error: 'This ZIP file is no archive of Plucky Wrist.' });
  }
  const tell = (file: string, message: string) => {
    if (found.problems.length < MAX_PROBLEMS) found.problems.push({ file, message });
  };
  const take = <Value>(file: string, schema: z.ZodType<Value>, value: unknown, into: Value[]) => {
    try {
      checkBounds(value, MAX_ONSETS);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      return tell(file, 'is larger than anything that is kept');
    }
    const read = schema.safeParse(value);
    if (read.success) into.push(read.data);
    else {
      const [issue] = read.error.issues;
      const place = issue ? `${issue.path.join('.')}: ${issue.message}` : 'cannot be read';
      tell(file, place.slice(0, 200));
    }
  };
  const list = async <Value>(file: string, schema: z.ZodType<Value>, into: Value[]) => {
    if (!files[file]) return;
    const values = raw(file);
    if (!Array.isArray(values)) return tell(file, 'is no list');
    if (values.length > MAX_LOG_ROWS) {
      throw new Refusal(400, {
        error: `${file} in this archive has ${values.length} rows; ${MAX_LOG_ROWS} is the most. Nothing was changed.`,
      });
    }
    for (const [index, value] of values.entries()) {
      // Rows that are none are told of, and others get their turn in between.
      if (index % ROWS_AT_ONCE === 0) await turn();
      take(`${file} ${index + 1}`, schema, value, into);
    }
  };
  let read = 0;
  for (const file of Object.keys(files)) {
    read += 1;
    if (read % READ_AT_ONCE === 0) await turn();
    if (file.startsWith('songs/')) take(file, storedSongSchema, raw(file), found.songs);
    else if (file.startsWith('patterns/'))
      take(file, storedPatternSchema, raw(file), found.patterns);
    else if (file.startsWith('takes/')) take(file, storedTakeSchema, raw(file), found.takes);
  }
  const about: ArchivedRecording[] = [];
  Object.keys(files)
    .filter((file) => isRecordingFile(file) && file.endsWith('.json'))
    .forEach((file) => take(file, archivedRecordingSchema, raw(file), about));
  for (const one of about) {
    const sound = soundOf(files, one);
    if (sound) found.recordings.push({ about: one, sound });
    else tell(one.file, 'the sound of a recording is missing');
  }
  await list('log.json', entrySchema, found.rows);
  await list('timings.json', changeTimeSchema, found.timings);
  await list('instruments.json', ownInstrumentSchema, found.instruments);
  for (const [what, rows] of [
    ['songs', found.songs],
    ['patterns', found.patterns],
    ['log.json', found.rows],
    ['takes', found.takes],
    ['timings.json', found.timings],
    ['instruments.json', found.instruments],
  ] as const) {
    noneTwice(what, rows);
  }
  found.settings = settingsSchema.safeParse(raw('settings.json')).data ?? {};
  return found;
}

/**
 * Refuses what has an id twice: which of the two is meant, nobody can know.
 * @throws Refusal 400 with the place
 */
function noneTwice(what: string, rows: readonly { id: string }[]): void {
  const seen = new Set<string>();
  for (const { id } of rows) {
    if (seen.has(id)) {
      throw new Refusal(400, {
        error: `${what} in this archive has the id ${id} twice. Nothing was changed.`,
      });
    }
    seen.add(id);
  }
}

type State = 'fresh' | 'same' | 'differ';

/** How each thing in an archive stands to what is here. */
async function compare(database: Database, contents: Contents) {
  const documents = <Stored extends { id: string; updatedAt: string; document: Song | Pattern }>(
    rows: { id: string; updatedAt: Date; document: string }[],
    stored: Stored[],
  ) => {
    const here = new Map(rows.map((row) => [row.id, row]));
    return stored.map((one) => {
      const row = here.get(one.id);
      const same = row && JSON.stringify(JSON.parse(row.document)) === JSON.stringify(one.document);
      const state: State = !row ? 'fresh' : same ? 'same' : 'differ';
      return {
        one,
        state,
        newer: row ? Date.parse(one.updatedAt) > row.updatedAt.getTime() : true,
      };
    });
  };
  const byId = async <Value extends { id: string }>(ids: { id: string }[], list: Value[]) => {
    const here = new Set(ids.map(({ id }) => id));
    return list.map((one) => ({ one, state: (here.has(one.id) ? 'same' : 'fresh') as State }));
  };
  const { songs, patterns, entries, takes, changeTimes, instruments, recordings } = database;
  const only = { attributes: ['id'] };
  const recorded = await recordings.findAll({ attributes: ['songId'] });
  const hasOne = new Set(recorded.map(({ songId }) => songId));
  return {
    songs: documents(await songs.findAll(), contents.songs),
    patterns: documents(await patterns.findAll(), contents.patterns),
    rows: await byId(await entries.findAll(only), contents.rows),
    takes: await byId(await takes.findAll(only), contents.takes),
    timings: await byId(await changeTimes.findAll(only), contents.timings),
    instruments: await byId(await instruments.findAll(only), contents.instruments),
    recordings: contents.recordings.map((one) => ({
      one,
      state: (hasOne.has(one.about.songId) ? 'same' : 'fresh') as State,
    })),
  };
}

const nameOf = (document: Song | Pattern) => ('title' in document ? document.title : document.name);
const count = (list: { state: State }[]) => ({
  fresh: list.filter(({ state }) => state === 'fresh').length,
  same: list.filter(({ state }) => state === 'same').length,
  differ: list.filter(({ state }) => state === 'differ').length,
});

function lookOf(contents: Contents, found: Awaited<ReturnType<typeof compare>>): ArchiveLook {
  return {
    songs: count(found.songs),
    patterns: count(found.patterns),
    rows: count(found.rows),
    takes: count(found.takes),
    timings: count(found.timings),
    instruments: count(found.instruments),
    recordings: count(found.recordings),
    differing: [...found.songs, ...found.patterns]
      .filter(({ state }) => state === 'differ')
      .map(({ one, newer }) => ({ name: nameOf(one.document), newer })),
    problems: contents.problems,
    settings: contents.settings,
  };
}

/** What an archive would bring, before anything is taken. */
export async function lookIntoArchive(database: Database, bytes: Uint8Array): Promise<ArchiveLook> {
  const contents = await readArchive(bytes);
  return lookOf(contents, await compare(database, contents));
}

/**
 * Takes in what is not here yet, all of it or nothing. What differs stays as it is here, unless the archive's is
 * newer and that is asked for.
 * @param folder the data folder, for recordings; null takes none in
 */
export async function importArchive(
  database: Database,
  bytes: Uint8Array,
  newer: boolean,
  folder: string | null = null,
): Promise<ArchiveLook> {
  const contents = await readArchive(bytes);
  const { songs, patterns, takes, changeTimes, instruments, sequelize } = database;
  const found = await compare(database, contents);
  // A recording belongs to a song: one that is here, or that comes with it.
  const owned = new Set([
    ...(await songs.findAll({ attributes: ['id'] })).map(({ id }) => id),
    ...contents.songs.map(({ id }) => id),
  ]);
  const kept: NonNullable<Awaited<ReturnType<typeof keepArchived>>>[] = [];
  for (const { one, state } of found.recordings) {
    if (folder === null || state !== 'fresh') continue;
    if (!owned.has(one.about.songId)) {
      contents.problems.push({ file: one.about.file, message: 'its song is not there' });
      continue;
    }
    const row = await keepArchived(folder, one.about, one.sound);
    if (row) kept.push(row);
    else contents.problems.push({ file: one.about.file, message: 'is no sound file' });
  }
  const takeAll = whole(sequelize, async (transaction) => {
    // Sequelize cannot follow rows of either kind; what they have in common are id, revision and document.
    const both = [
      {
        rows: songs as unknown as ModelStatic<Model>,
        list: found.songs.map((row) => ({ ...row, columns: songColumns(row.one.document) })),
      },
      {
        rows: patterns as unknown as ModelStatic<Model>,
        list: found.patterns.map((row) => ({ ...row, columns: patternColumns(row.one.document) })),
      },
    ];
    for (const { rows, list } of both) {
      for (const { one, state, newer: later, columns } of list) {
        const { id, revision, document } = one;
        const values = { ...columns, document: JSON.stringify(document) };
        const where = { id };
        if (state === 'fresh') await rows.create({ id, revision, ...values }, { transaction });
        else if (state === 'differ' && later && newer) {
          await rows.update(values, { where, transaction });
          await rows.increment('revision', { where, transaction });
        }
      }
    }
    const fresh = <Value>(list: { one: Value; state: State }[]) =>
      list.filter(({ state }) => state === 'fresh').map(({ one }) => one);
    await addMany(database, fresh(found.rows), transaction);
    await changeTimes.bulkCreate(
      fresh(found.timings).map(({ id, madeAt, ...timing }) => ({
        id,
        madeAt: new Date(madeAt),
        strings: timing.strings.join(),
        timing: JSON.stringify(timing),
      })),
      { transaction },
    );
    await instruments.bulkCreate(
      fresh(found.instruments).map(({ id, instrument }) => ({
        id,
        name: instrument.name,
        instrument: JSON.stringify(instrument),
      })),
      { transaction },
    );
    await takes.bulkCreate(fresh(found.takes).map(takeColumns), { transaction });
    await database.recordings.bulkCreate(kept, { transaction });
  });
  await takeAll.catch(async (error: unknown) => {
    await Promise.all(kept.map(({ file }) => dropFile(folder!, file)));
    throw error;
  });
  return lookOf(contents, found);
}
