import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { newSong } from '#core/song';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Refusal } from '../errors';
import { openPool, type Pool } from './pool';

const folder = mkdtempSync(path.join(tmpdir(), 'plucky-pool-'));
const song = (title: string) => newSong({ title, instrument: 'guitar', progression: 'A' });
let pool: Pool;

/** A worker that does what the title of the song says. */
const WORKER = `export default ({ song: { title } }) => {
  if (title === 'for ever') for (;;);
  if (title === 'without end') { const all = []; for (;;) all.push(new Array(1e5).fill(title)); }
  if (title === 'broken') throw new TypeError('of its own');
  return title;
};`;

beforeAll(() => {
  const worker = path.join(folder, 'worker.mjs');
  writeFileSync(worker, WORKER);
  pool = openPool(worker, 1, 48);
});
afterAll(async () => {
  await pool.close();
  rmSync(folder, { recursive: true });
});

const refusal = (title: string) =>
  pool.compute('midi', song(title)).then(
    () => null,
    (error: unknown) => error,
  );

describe('the threads that work songs out', () => {
  it('give what they worked out', async () => {
    expect(await pool.compute('midi', song('Sill'))).toBe('Sill');
  });

  it('are ended where a song takes too long, while others go on', async () => {
    const [endless, other] = await Promise.all([
      refusal('for ever'),
      pool.compute('midi', song('Beside it')),
    ]);
    expect(other).toBe('Beside it');
    expect(endless).toBeInstanceOf(Refusal);
    expect(endless).toMatchObject({ status: 503 });
    expect((endless as Refusal).body.error).toMatch(
      /^This song takes longer than 1 second to work out/,
    );
    expect(await pool.compute('midi', song('After it'))).toBe('After it');
  });

  it('are ended where a song takes too much memory, and others take their place', async () => {
    expect(await refusal('without end')).toMatchObject({ status: 503 });
    expect(await pool.compute('midi', song('After it'))).toBe('After it');
  });

  it('hand on what went wrong of its own', async () => {
    expect(await refusal('broken')).toMatchObject({ message: 'of its own' });
  });
});
