import { randomUUID } from 'node:crypto';
import { meterName } from '#core';
import type { Database } from '../database';
import { demoSongs } from './songs';

/**
 * Puts the Kettle Lock songs into an empty database; one that holds songs is left alone. All or nothing,
 * so that a start that was killed is made good by the next.
 */
export async function seedDemo({ sequelize, songs, patterns }: Database): Promise<void> {
  await sequelize.query('BEGIN IMMEDIATE');
  try {
    if ((await songs.count()) === 0) await seed({ songs, patterns });
    await sequelize.query('COMMIT');
  } catch (error) {
    await sequelize.query('ROLLBACK');
    throw error;
  }
}

async function seed({ songs, patterns }: Pick<Database, 'songs' | 'patterns'>): Promise<void> {
  await songs.bulkCreate(
    demoSongs.map((song) => ({
      id: randomUUID(),
      revision: 1,
      title: song.title,
      instrument: song.instrument.name,
      meter: meterName(song.meter),
      tempo: song.tempo,
      document: JSON.stringify(song),
    })),
  );
  await patterns.bulkCreate(
    demoSongs.map(({ pattern }) => ({
      id: randomUUID(),
      revision: 1,
      name: pattern.name,
      meter: meterName(pattern.meter),
      document: JSON.stringify(pattern),
    })),
  );
}
