import { chmod, readdir, rename, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import { formatISO, parseISO, startOfISOWeek } from 'date-fns';
import type { Database } from './database';

/** Copies of the database that are kept by themselves: of the last days it was used, and one a week before that. */
const KEPT_DAYS = 7;
const KEPT_WEEKS = 8;
/** A copy that is smaller than this share of an older one is of an emptier shelf: then none is taken away. */
const EMPTIER = 0.5;
const COPY = /^day-\d{4}-\d{2}-\d{2}\.sqlite$/;
const OWNER_FILE = 0o600;
const LOOK_EVERY = 60 * 60 * 1000;

/**
 * Copies the database into its folder, once a day. Of the older ones seven days stay, and the last of each of eight weeks;
 * all of them, where the shelf has become far emptier: what is missing may be in one of them.
 * @param day as an ISO date
 * @returns the name of the copy; null where there is one of that day
 */
export async function copyOfDay(
  { sequelize }: Pick<Database, 'sequelize'>,
  folder: string,
  day: string,
): Promise<string | null> {
  const name = `day-${day}.sqlite`;
  const there = (await readdir(folder)).filter((file) => COPY.test(file)).sort();
  if (there.includes(name)) return null;
  const unfinished = path.join(folder, `${name}.part-${process.pid}`);
  await rm(unfinished, { force: true });
  await sequelize.query('VACUUM INTO :copy', { replacements: { copy: unfinished } });
  await chmod(unfinished, OWNER_FILE);
  await rename(unfinished, path.join(folder, name));
  const sizeOf = async (file: string) => (await stat(path.join(folder, file))).size;
  const now = await sizeOf(name);
  const fuller = await Promise.all(there.map(async (file) => now < EMPTIER * (await sizeOf(file))));
  if (fuller.includes(true)) return name;
  const kept = keptCopies([...there, name]);
  for (const old of there) {
    if (!kept.has(old)) await rm(path.join(folder, old), { force: true });
  }
  return name;
}

/**
 * Which copies stay.
 * @param copies in order of their days
 * @example keptCopies(['day-2031-05-08.sqlite']).size // 1
 */
export function keptCopies(copies: string[]): Set<string> {
  const kept = new Set(copies.slice(-KEPT_DAYS));
  const weeks = new Map<string, string>();
  for (const copy of copies) weeks.set(weekOf(copy), copy);
  for (const copy of [...weeks.values()].slice(-KEPT_WEEKS)) kept.add(copy);
  return kept;
}

/** The week of a copy, as the day of its Monday. */
function weekOf(copy: string): string {
  const day = parseISO(copy.slice('day-'.length, -'.sqlite'.length));
  return formatISO(startOfISOWeek(day), { representation: 'date' });
}

/**
 * Keeps a copy of each day that the app is used.
 * @param failed told where a copy could not be made; the app goes on
 * @returns ends it
 */
export function keepCopies(
  database: Pick<Database, 'sequelize'>,
  folder: string,
  failed: (error: unknown) => void,
): () => void {
  const look = () =>
    void copyOfDay(database, folder, new Date().toISOString().slice(0, 10)).catch(failed);
  look();
  const timer = setInterval(look, LOOK_EVERY);
  timer.unref();
  return () => clearInterval(timer);
}
