import { mkdtempSync, rmSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import { tmpdir } from 'node:os';
import path from 'node:path';
import fc from 'fast-check';
import pino from 'pino';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newSong } from '#core/song';
import { arrange, arrangement } from '#core/arrange';
import { judgeOnsets } from '#core/take';
import { toWav } from '#core/formats';
import { createApp } from './app';
import { type Database, openDatabase } from './database';

/** What a write accepts, a read returns: whatever text is in it, at every way in that keeps text. */

const folder = mkdtempSync(path.join(tmpdir(), 'plucky-returns-'));
const song = newSong({ title: 'Sill', instrument: 'guitar', progression: 'A | D | E | A' });
let database: Database;
let server: Server;
let id: string;

beforeAll(async () => {
  database = await openDatabase(folder);
  const app = createApp({ database, folder, host: '127.0.0.1', log: pino({ level: 'silent' }) });
  server = createServer(app).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  id = (await request(server).post('/api/songs').send({ document: song })).body.id as string;
});
afterAll(async () => {
  server.close();
  await database.close();
  rmSync(folder, { recursive: true });
});

/** Letters of every kind: controls, marks that compose or grow, halves of characters, what nobody sees. */
const letters = fc.oneof(
  { weight: 3, arbitrary: fc.string({ unit: 'grapheme', maxLength: 40 }) },
  { weight: 2, arbitrary: fc.string({ unit: 'binary', maxLength: 40 }) },
  fc
    .array(
      fc.constantFrom(
        '\u0000',
        '\u0344',
        '\uFB2C',
        'e\u0301',
        '\uD800',
        '\u200B',
        '\uFFFE',
        ' ',
        '\n',
        'é',
        '"',
        "'",
      ),
      { minLength: 1, maxLength: 60 },
    )
    .map((parts) => parts.join('')),
);
const moments = fc
  .integer({ min: Date.UTC(1989, 0, 1), max: Date.UTC(2027, 0, 1) })
  .map((at) => new Date(at).toISOString());

interface Way {
  url: () => string;
  method?: 'post' | 'put';
  body: fc.Arbitrary<object>;
  /** What is read of it afterwards. */
  read: (answer: { id: string }) => Promise<unknown>;
  /** What was answered, as it is to be read. */
  kept?: (answer: object, body: object) => unknown;
}

const get = async (url: string) => (await request(server).get(url).expect(200)).body as unknown;
const found = (list: unknown, of: string) =>
  (list as { id: string }[]).find((one) => one.id === of);
const shape = { frets: [0, 0, 0, 0, 0, 0], fingers: [0, 0, 0, 0, 0, 0] };

const WAYS: Record<string, Way> = {
  'a row of the log': {
    url: () => '/api/log',
    body: fc.record(
      {
        kind: fc.constantFrom('practice', 'note', 'wrist'),
        madeAt: moments,
        seconds: fc.double({ min: 0, max: 86_400, noNaN: true }),
        tempo: fc.double({ min: -1, max: 401, noNaN: true }),
        song: letters,
        instrument: letters,
        text: letters,
      },
      { requiredKeys: ['kind'] },
    ),
    read: async ({ id: of }) =>
      found(((await get('/api/log?limit=200')) as { entries: [] }).entries, of),
  },
  'an instrument': {
    url: () => '/api/instruments',
    body: letters.map((name) => ({ instrument: { ...song.instrument, name } })),
    read: async ({ id: of }) => found(await get('/api/instruments'), of),
  },
  'a pattern': {
    url: () => '/api/patterns',
    body: letters.map((name) => ({ document: { ...song.pattern, name } })),
    read: async ({ id: of }) => get(`/api/patterns/${of}`),
  },
  'a song': {
    url: () => '/api/songs',
    body: letters.map((title) => ({ document: { ...song, title } })),
    read: async ({ id: of }) => get(`/api/songs/${of}`),
  },
  'a timed change': {
    url: () => '/api/change-times',
    body: fc.record({
      from: letters,
      to: letters,
      instrument: letters,
      player: letters,
      fromShape: fc.constant(shape),
      toShape: fc.constant(shape),
      strings: fc.constant([40, 45, 50, 55, 59, 64]),
      gaps: fc.array(fc.integer({ min: 0, max: 60_001 }), { maxLength: 6 }),
      source: fc.constant('taps'),
    }),
    read: async ({ id: of }) => found(await get('/api/change-times'), of),
  },
};

describe('what a write accepts, a read returns', () => {
  it.each(Object.entries(WAYS))('%s', async (_name, { url, body, read }) => {
    let accepted = 0;
    await fc.assert(
      fc.asyncProperty(body, async (sent) => {
        const answer = await request(server).post(url()).send(sent);
        expect([201, 400]).toContain(answer.status);
        if (answer.status !== 201) return;
        accepted += 1;
        const back = await read(answer.body as { id: string });
        expect(back).toEqual(answer.body);
        // And it is gone again: lists are not filled for those that come after.
        await request(server).delete(`${url()}/${(answer.body as { id: string }).id}`);
      }),
      { numRuns: 60 },
    );
    expect(accepted).toBeGreaterThan(5);
  });

  it('an answer to a take, and the name of a recording', async () => {
    const onsets = arrange(song).strikes.map(({ seconds }) => ({ seconds: seconds + 1 }));
    const judgement = judgeOnsets(arrangement(song), onsets);
    const take = { tempo: song.tempo, from: 1, to: 4, source: 'taps', judgement };
    const kept = await request(server).post(`/api/songs/${id}/takes`).send(take).expect(201);
    const own = `/api/songs/${id}/takes/${kept.body.id as string}`;
    const sound = Buffer.from(
      toWav(
        new Float32Array(8000).map((_, at) => Math.sin(at / 9)),
        8000,
      ),
    );
    await fc.assert(
      fc.asyncProperty(letters, async (text) => {
        const answered = await request(server).put(`${own}/answer`).send({ answer: text });
        expect([200, 400]).toContain(answered.status);
        const read = (await get(own)) as { answer?: string };
        if (answered.status === 200) {
          expect(read.answer ?? '').toBe((answered.body as { answer: string }).answer);
        }
        const name = encodeURIComponent(text.replace(/\p{Surrogate}/gu, ''));
        const put = await request(server)
          .put(`/api/songs/${id}/recording?name=${name}`)
          .type('audio/wav')
          .send(sound);
        expect([200, 201, 400]).toContain(put.status);
        if (put.status !== 400)
          expect(await get(`/api/songs/${id}/recording/map`)).toEqual(put.body);
      }),
      { numRuns: 40 },
    );
  });
});
