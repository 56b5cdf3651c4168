import { access, mkdir } from 'node:fs/promises';
import path from 'node:path';
import { Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { migrations } from './migrations';
import { defineModels, type Models } from './models';

export interface Database extends Models {
  sequelize: Sequelize;
  close: () => Promise<void>;
}

const FILE = 'plucky-wrist.sqlite';

/**
 * Opens the database in a data folder, which is made where it is missing. Journal in WAL mode and
 * every write flushed, so that a killed process loses nothing that was acknowledged. Pending
 * migrations are run; a database that already held something is copied first.
 */
export async function openDatabase(folder: string): Promise<Database> {
  await mkdir(folder, { recursive: true });
  const file = path.join(folder, FILE);
  const isNew = await access(file).then(
    () => false,
    () => true,
  );
  const sequelize = new Sequelize({ dialect: 'sqlite', storage: file, logging: false });
  await sequelize.query('PRAGMA journal_mode = WAL');
  await sequelize.query('PRAGMA synchronous = FULL');
  await migrate(sequelize, folder, isNew);
  return { sequelize, ...defineModels(sequelize), close: () => sequelize.close() };
}

async function migrate(sequelize: Sequelize, folder: string, isNew: boolean): Promise<void> {
  const umzug = new Umzug({
    migrations,
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize }),
    logger: undefined,
  });
  const pending = await umzug.pending();
  if (pending.length === 0) return;
  if (!isNew) {
    const stamp = new Date().toISOString().replaceAll(/[:.]/g, '-');
    const copy = path.join(folder, `before-${pending[0]!.name}-${stamp}.sqlite`);
    await sequelize.query('VACUUM INTO :copy', { replacements: { copy } });
  }
  await umzug.up();
}
