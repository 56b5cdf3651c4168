import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { openDatabase } from '../server/database';
import { rememberedIn } from '../server/remembered';
import { pageOf } from '../server/routes/entries';
import { planOf } from '../server/routes/plan';
import { summaryOf } from '../server/routes/summary';
import { median, ONCE } from './time';

/** Benchmarks of the log: pages and sums of 100,000 rows, as the server asks the database for them. */

const ROWS = ONCE ? 1000 : 100_000;
const SONGS = 40;
const folder = mkdtempSync(path.join(tmpdir(), 'plucky-bench-log-'));
const database = await openDatabase(folder);
const { sequelize } = database;
const uuid = (number: string) => `printf('00000000-0000-4000-8000-%012d', ${number})`;
// Four years of evenings: what is clean and what is not by a simple scatter over the number of the row.
await sequelize.query(`
  INSERT INTO entries (id, madeAt, kind, songId, song, instrument, rung, hands, "from", "to", whole, tempo, seconds, source, trouble, within, median, spread, change)
  WITH RECURSIVE n(i) AS (SELECT 0 UNION ALL SELECT i + 1 FROM n WHERE i < ${ROWS - 1})
  SELECT ${uuid('i')}, 1900000000000 + i * 1261440, CASE WHEN i % 9 = 0 THEN 'change' ELSE 'take' END,
    CASE WHEN i % 9 = 0 THEN NULL ELSE ${uuid(`(i * 7919) % ${SONGS}`)} END, 'Song ' || ((i * 7919) % ${SONGS}), 'Guitar',
    CASE WHEN i % 3 = 0 THEN 'landings' ELSE 'song' END, 'both', 1, 16, 1, 60 + (i / 4000) + (i * 31) % 7, 90, 'microphone',
    CASE WHEN (i * 13) % 5 < 3 THEN 'clean' ELSE 'landings' END, 0.9, 3, 20, CASE WHEN i % 2 = 0 THEN 'A to Bm' ELSE 'C to F' END
  FROM n`);

async function timed(runs: number, does: () => Promise<unknown>): Promise<number> {
  const times: number[] = [];
  for (let run = 0; run < (ONCE ? 1 : runs); run += 1) {
    const began = performance.now();
    await does();
    times.push(performance.now() - began);
  }
  return median(times);
}

const song = '00000000-0000-4000-8000-000000000003';
const middle = (await pageOf(database, {}, 1, `1963072000000~${song}`)).next!;
const asked: [string, () => Promise<unknown>][] = [
  ['first page', () => pageOf(database, {}, 50)],
  ['page in the middle', () => pageOf(database, {}, 50, middle)],
  [
    'page of one song, clean takes',
    () => pageOf(database, { song, kind: 'take', verdict: 'clean' }, 50),
  ],
  ['page of timed changes', () => pageOf(database, { kind: 'change' }, 50)],
  ['what all of it comes to', () => summaryOf(database, { zone: 0 })],
  ['what one song comes to', () => summaryOf(database, { song, zone: 0 })],
  ['the plan', () => planOf(database, 20, 0)],
];
const remember = rememberedIn(sequelize);
for (const [name, does] of asked) {
  const anew = await timed(7, does);
  // As the routes answer: counted once, and again in the background after a write.
  const again = await timed(7, () => remember(name, does));
  console.log(
    `log of ${ROWS} rows, ${name}: ${anew.toFixed(1)} ms anew, ${again.toFixed(1)} ms as asked again; budget 50 ms`,
  );
}
await database.close();
rmSync(folder, { recursive: true });
