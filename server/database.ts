import { chmod, mkdir, open, readdir, rename, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import { Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { version as ownVersion } from '../package.json';
import { migrations } from './migrations';
import { defineModels, type Models } from './models';
import { CannotStart, codeOf, startSentence } from './storage';

export interface Database extends Models {
  sequelize: Sequelize;
  close: () => Promise<void>;
}

const FILE = 'plucky-wrist.sqlite';
/** Milliseconds that a statement waits for another program to be done with the file. */
const BUSY = 10_000;
/** The player's songs are no one else's to read. */
const OWNER_FILE = 0o600;
const OWNER_FOLDER = 0o700;

/**
 * Opens the database in a data folder, which is made where it is missing. Journal in WAL mode and
 * every write flushed, so that a killed process loses nothing that was acknowledged. The file is looked
 * over first; pending migrations are run in one transaction, after a copy of what the file held.
 * @throws CannotStart with one sentence for the player; the file is left as it was
 */
export async function openDatabase(folder: string): Promise<Database> {
  const file = path.join(folder, FILE);
  let sequelize: Sequelize | undefined;
  try {
    await mkdir(folder, { recursive: true, mode: OWNER_FOLDER });
    await makeOwn(file);
    sequelize = new Sequelize({ dialect: 'sqlite', storage: file, logging: false });
    // A transaction has a connection of its own, which waits for other writers as the first does.
    sequelize.addHook('afterConnect', (connection) => {
      (connection as { configure: (option: string, value: number) => void }).configure(
        'busyTimeout',
        BUSY,
      );
    });
    await sequelize.query(`PRAGMA busy_timeout = ${BUSY}`);
    await lookOver(sequelize, file);
    await patiently(() => sequelize!.query('PRAGMA journal_mode = WAL'));
    await sequelize.query('PRAGMA synchronous = FULL');
    await refuseNewer(sequelize);
    await migrate(sequelize, folder);
    await writeVersion(sequelize);
  } catch (error) {
    await sequelize?.close().catch(() => {});
    if (error instanceof CannotStart) throw error;
    const sentence = startSentence(codeOf(error), file, await copiesIn(folder));
    throw sentence ? new CannotStart(sentence, { cause: error }) : error;
  }
  const opened = sequelize;
  return { sequelize: opened, ...defineModels(opened), close: () => opened.close() };
}

/** The copies in a data folder, newest first. */
async function copiesIn(folder: string): Promise<string[]> {
  const files = await readdir(folder).catch(() => []);
  const copies = files.filter((name) => /^(before|day)-.*\.sqlite$/.test(name));
  const dated = await Promise.all(
    copies.map(async (name) => ({ name, at: (await stat(path.join(folder, name))).mtimeMs })),
  );
  return dated.sort((a, b) => b.at - a.at).map(({ name }) => name);
}

/** Makes the file where it is missing, for its owner alone. */
async function makeOwn(file: string): Promise<void> {
  const known = await stat(file).catch(() => null);
  const journal = await stat(`${file}-wal`).catch(() => null);
  // SQLite throws a journal away whose database is empty, and with it what only the journal holds.
  if ((!known || known.size === 0) && journal && journal.size > 0) {
    throw new CannotStart(
      `${file} is ${known ? 'empty' : 'missing'}, but the journal beside it still holds songs. Nothing was touched: put the data file back, or move ${path.basename(file)}-wal away to start anew.`,
    );
  }
  const [copy] = known?.size === 0 ? await copiesIn(path.dirname(file)) : [];
  if (copy) {
    throw new CannotStart(
      `${file} is empty, and the copy ${copy} beside it is not. Nothing was touched: to go on from the copy, rename it to ${path.basename(file)}; to start anew, take the empty file away.`,
    );
  }
  if (!known) await (await open(file, 'a', OWNER_FILE)).close();
  if (known && (known.mode & 0o077) !== 0) await chmod(file, OWNER_FILE);
}

/** Reads every page once. A damaged file is said before anything is written to it. */
async function lookOver(sequelize: Sequelize, file: string): Promise<void> {
  const [rows] = await sequelize.query('PRAGMA quick_check(1)');
  const answer = Object.values((rows as Record<string, string>[])[0] ?? {})[0];
  if (answer === 'ok') return;
  const copies = await copiesIn(path.dirname(file));
  throw new CannotStart(startSentence('SQLITE_CORRUPT', file, copies)!);
}

/** Two first starts change the journal at once; SQLite does not wait for that by itself. */
async function patiently(step: () => Promise<unknown>): Promise<void> {
  const end = Date.now() + BUSY;
  for (;;) {
    try {
      await step();
      return;
    } catch (error) {
      if (codeOf(error) !== 'SQLITE_BUSY' || Date.now() > end) throw error;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  }
}

async function tableExists(sequelize: Sequelize, name: string): Promise<boolean> {
  const [rows] = await sequelize.query(
    'SELECT 1 FROM sqlite_master WHERE type = :type AND name = :name',
    { replacements: { type: 'table', name } },
  );
  return rows.length > 0;
}

/** A database that a later version has changed is not opened: this one would write over what it cannot read. */
async function refuseNewer(sequelize: Sequelize): Promise<void> {
  if (!(await tableExists(sequelize, 'SequelizeMeta'))) return;
  const [rows] = await sequelize.query('SELECT name FROM SequelizeMeta');
  const known = new Set(migrations.map(({ name }) => name));
  const later = (rows as { name: string }[]).filter(({ name }) => !known.has(name));
  if (later.length === 0) return;
  const wrote = (await tableExists(sequelize, 'about')) ? await versionIn(sequelize) : null;
  throw new CannotStart(
    `These songs were last kept by a later version of Plucky Wrist${wrote ? `, ${wrote}` : ''}; this is ${ownVersion}. ` +
      `Nothing was changed: start version ${wrote ?? `with ${later.at(-1)!.name}`} or newer.`,
  );
}

async function versionIn(sequelize: Sequelize): Promise<string | null> {
  const [rows] = await sequelize.query("SELECT value FROM about WHERE name = 'version'");
  return (rows as { value: string }[])[0]?.value ?? null;
}

/** The version that wrote last, for a later start of an earlier one. */
async function writeVersion(sequelize: Sequelize): Promise<void> {
  if ((await versionIn(sequelize)) === ownVersion) return;
  await sequelize.query("INSERT OR REPLACE INTO about (name, value) VALUES ('version', :version)", {
    replacements: { version: ownVersion },
  });
}

/**
 * Runs what is pending. All of it is one transaction, the record of what was run included, so that a
 * start that is killed leaves the file as it was and the next one begins again; of two starts at once,
 * one waits and finds it done.
 */
async function migrate(sequelize: Sequelize, folder: string): Promise<void> {
  const umzug = new Umzug({
    migrations,
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize }),
    logger: undefined,
  });
  if (await tableExists(sequelize, 'SequelizeMeta')) {
    const pending = await umzug.pending();
    if (pending.length === 0) return;
    await copyBefore(sequelize, folder, pending[0]!.name);
  }
  await sequelize.query('BEGIN IMMEDIATE');
  try {
    await umzug.up();
    await sequelize.query('COMMIT');
  } catch (error) {
    await sequelize.query('ROLLBACK').catch(() => {});
    throw error;
  }
}

/** Keeps what the file holds; a copy that was not finished, or is of an earlier try, is replaced. */
async function copyBefore(sequelize: Sequelize, folder: string, name: string): Promise<void> {
  const copy = path.join(folder, `before-${name}.sqlite`);
  const unfinished = `${copy}.part-${process.pid}`;
  await rm(unfinished, { force: true });
  await sequelize.query('VACUUM INTO :copy', { replacements: { copy: unfinished } });
  await chmod(unfinished, OWNER_FILE);
  await rename(unfinished, copy);
}
