import { randomUUID } from 'node:crypto';
import { meterName } from '#core';
import type { Database } from '../database';
import { demoSongs } from './songs';

/** Puts the Kettle Lock songs into an empty database; one that holds songs is left alone. */
export async function seedDemo({ songs, patterns }: Database): Promise<void> {
  if ((await songs.count()) > 0) return;
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
