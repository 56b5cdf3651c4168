import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import pino from 'pino';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { beatMapSchema } from '#core/schema';
import { newSong } from '#core/song';
import { toWav } from '#core/formats';
import { createApp } from './app';
import { type Database, openDatabase } from './database';
import { seedDemo } from './demo/seed';
import { recordingsFolder, sweepRecordings } from './recordings';

const folder = mkdtempSync(path.join(tmpdir(), 'plucky-recordings-'));
let database: Database;
let app: ReturnType<typeof createApp>;
let id: string;

beforeAll(async () => {
  database = await openDatabase(folder);
  app = createApp({ database, folder, host: '127.0.0.1', log: pino({ level: 'silent' }) });
  const document = newSong({ title: 'Lock', instrument: 'guitar', progression: 'A | D' });
  const made = await request(app).post('/api/songs').send({ document });
  id = (made.body as { id: string }).id;
});
afterAll(async () => {
  await database.close();
  rmSync(folder, { recursive: true });
});

const files = () => readdirSync(recordingsFolder(folder));
const wav = (seconds: number) =>
  Buffer.from(toWav(new Float32Array(8000 * seconds).fill(0.1), 8000));
const put = (body: Buffer, name = 'Evening') =>
  request(app)
    .put(`/api/songs/${id}/recording`)
    .query({ name })
    .set('Content-Type', 'application/octet-stream')
    .send(body);
const at = (rest = '') => `/api/songs/${id}/recording${rest}`;

describe('a recording beside a song', () => {
  it('is kept, streamed in ranges, replaced and taken away', async () => {
    expect((await request(app).get(at())).status).toBe(404);
    const first = await put(wav(2));
    expect(first.status).toBe(201);
    expect(first.body).toMatchObject({
      name: 'Evening',
      type: 'audio/wav',
      map: null,
      landings: [],
    });
    expect(files()).toHaveLength(1);

    const part = await request(app).get(at()).set('Range', 'bytes=4-11');
    expect(part.status).toBe(206);
    expect(part.headers['content-range']).toBe(`bytes 4-11/${first.body.bytes}`);
    expect(part.headers['content-type']).toBe('audio/wav');
    expect((await request(app).get(at())).headers['content-length']).toBe(String(first.body.bytes));

    const second = await put(wav(1), 'Another');
    expect(second.status).toBe(200);
    expect(files()).toHaveLength(1);
    expect((await request(app).delete(at())).status).toBe(204);
    expect(files()).toEqual([]);
    expect((await request(app).get(at('/map'))).body).toBeNull();
  });

  it('keeps its beat map and landings, and refuses what is none', async () => {
    await put(wav(3));
    const meter = { beats: 4, unit: 4, groups: [4] };
    const map = { meter, pulses: [0.5, 1, 1.5], sure: [1, 0.5, 1], one: 0, set: [] };
    const landings = [{ tick: 960, moved: -12, symbol: 'A' }];
    const kept = await request(app).put(at('/map')).send({ map, landings });
    expect(kept.status).toBe(200);
    const { body } = await request(app).get(at('/map'));
    expect(beatMapSchema.parse(body.map)).toEqual(map);
    expect(body.landings).toEqual(landings);
    for (const [wrong, where] of [
      [{ ...map, pulses: [1, 0.5, 2] }, 'map.pulses'],
      [{ ...map, sure: [1] }, 'map.sure'],
      [{ ...map, one: 3 }, 'map.one'],
      [{ ...map, pulses: [1e9, 2e9, 3e9] }, 'map.pulses[0]'],
    ] as const) {
      const answer = await request(app).put(at('/map')).send({ map: wrong, landings });
      expect(answer.status).toBe(400);
      expect(answer.body.error).toContain(where);
    }
    expect((await request(app).get(at('/map'))).body.landings).toEqual(landings);
  });

  it('is not kept where it is broken or foreign: one sentence, and the one before stays', async () => {
    const before = files();
    const whole = wav(1);
    const cases: [string, Buffer, RegExp][] = [
      ['nothing', Buffer.alloc(0), /empty/],
      ['text', Buffer.from('a chart of chords, renamed to sound'), /no sound file/],
      ['a head alone', whole.subarray(0, 20), /cannot be used/],
      [
        'a picture',
        Buffer.concat([Buffer.from('\x89PNG\r\n\x1a\n'), Buffer.alloc(64)]),
        /no sound/,
      ],
    ];
    for (const [name, body, says] of cases) {
      const answer = await put(body);
      expect(answer.status, name).toBe(400);
      expect(answer.body.error, name).toMatch(says);
    }
    expect(files()).toEqual(before);
    expect((await put(Buffer.alloc(100 * 2 ** 20 + 1, 1))).status).toBe(413);
    expect(files()).toEqual(before);
    const unknown = at().replace(id, '00000000-0000-4000-8000-000000000000');
    expect((await request(app).put(unknown).send(whole)).status).toBe(404);
  });

  it('leaves nothing of an upload that broke off', async () => {
    writeFileSync(path.join(recordingsFolder(folder), `${id}.part-abc`), 'half');
    await sweepRecordings(folder, database);
    expect(files().filter((file) => file.includes('part'))).toEqual([]);
    expect(files()).toHaveLength(1);
  });

  it('of the demo is there at once, with its bars', async () => {
    const own = mkdtempSync(path.join(tmpdir(), 'plucky-demo-'));
    const demo = await openDatabase(own);
    await seedDemo(demo, own);
    await seedDemo(demo, own);
    const rows = await demo.recordings.findAll();
    expect(rows).toHaveLength(1);
    expect(rows[0]!.bytes).toBeLessThan(4_000_000);
    expect(JSON.parse(rows[0]!.map).map.pulses.length).toBeGreaterThan(60);
    await demo.close();
    rmSync(own, { recursive: true });
  });
});
