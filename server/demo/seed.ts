import { randomUUID } from 'node:crypto';
import type { Song } from '#core/schema';
import type { Database } from '../database';
import { patternColumns, songColumns } from '../columns';
import { changeEntry } from '../routes/changeTimes';
import { columnsOf, entryOf } from '../routes/entries';
import { demoEvenings } from './evenings';
import { RECORDED, recordDemo } from './recording';
import { demoSongs } from './songs';
import { keepDemoTakes, TAKEN } from './takes';
import { demoTimings } from './timings';

/**
 * Puts the Kettle Lock songs into an empty database; one that holds songs is left alone. All or nothing,
 * so that a start that was killed is made good by the next.
 */
export async function seedDemo(database: Database, folder?: string): Promise<void> {
  const { sequelize, songs } = database;
  await sequelize.query('BEGIN IMMEDIATE');
  try {
    const empty = (await songs.count()) === 0;
    if (empty) await seed(database);
    await sequelize.query('COMMIT');
    if (empty && folder) await record(database, folder);
  } catch (error) {
    await sequelize.query('ROLLBACK');
    throw error;
  }
}

/** The circle's recording; the songs are there whether or not it could be kept. */
async function record(database: Database, folder: string): Promise<void> {
  const row = await database.songs.findOne({ where: { title: RECORDED } });
  const song = demoSongs.find(({ title }) => title === RECORDED);
  if (row && song) await recordDemo(database, folder, row.id, song);
}

/** The lantern evening: so many days from today. */
const LANTERNS = 37;
const READY_FOR_IT = ['Ropes at First Light', 'The Lamplighter’s Round'];

/** Songs that the circle wants to play on the lantern evening are practised for it. */
function withGoal(song: Song): Song {
  if (!READY_FOR_IT.includes(song.title)) return song;
  const by = new Date(Date.now() + LANTERNS * 86_400_000).toISOString().slice(0, 10);
  return { ...song, practice: { goal: song.tempo, by } };
}

async function seed(database: Database): Promise<void> {
  const { songs, patterns, changeTimes, entries } = database;
  const timings = demoTimings(Date.now()).map((timing) => ({ id: randomUUID(), ...timing }));
  const ids = new Map(demoSongs.map(({ title }) => [title, randomUUID()]));
  await entries.bulkCreate([
    ...timings.map((timing) => columnsOf(changeEntry(timing))),
    ...demoEvenings(Date.now()).map(({ madeAt, ...evening }) =>
      columnsOf(
        entryOf({
          ...evening,
          id: randomUUID(),
          madeAt: new Date(madeAt).toISOString(),
          songId: ids.get(evening.song ?? '') ?? null,
          instrument:
            demoSongs.find(({ title }) => title === evening.song)?.instrument.name ?? null,
          hands: evening.kind === 'take' ? 'both' : null,
          whole: evening.kind === 'take',
          source: 'example',
        }),
      ),
    ),
  ]);
  await changeTimes.bulkCreate(
    timings.map(({ id, madeAt, ...timing }) => ({
      id,
      madeAt,
      strings: timing.strings.join(),
      timing: JSON.stringify(timing),
    })),
  );
  await songs.bulkCreate(
    demoSongs.map(withGoal).map((song) => ({
      id: ids.get(song.title)!,
      revision: 1,
      ...songColumns(song),
      document: JSON.stringify(song),
    })),
  );
  const taken = demoSongs.find(({ title }) => title === TAKEN);
  if (taken) await keepDemoTakes(database, ids.get(TAKEN)!, taken, Date.now());
  await patterns.bulkCreate(
    demoSongs.map(({ pattern }) => ({
      id: randomUUID(),
      revision: 1,
      ...patternColumns(pattern),
      document: JSON.stringify(pattern),
    })),
  );
}
