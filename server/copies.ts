import { chmod, readdir, rename, rm } from 'node:fs/promises';
import path from 'node:path';
import type { Database } from './database';

/** Copies of the database that are kept by themselves, one for each of the last days it was used. */
const KEPT = 7;
const COPY = /^day-\d{4}-\d{2}-\d{2}\.sqlite$/;
const OWNER_FILE = 0o600;
const LOOK_EVERY = 60 * 60 * 1000;

/**
 * Copies the database into its folder, once a day; the oldest of more than seven go.
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
  for (const old of [...there, name].slice(0, -KEPT))
    await rm(path.join(folder, old), { force: true });
  return name;
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
