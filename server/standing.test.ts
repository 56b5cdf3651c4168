import { mkdtempSync, rmSync } from 'node:fs';
import { request as plainRequest, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { DOCUMENT_VERSION, type Song } from '#core/schema';
import { METERS } from '#core/time';
import { newPattern } from '#core/pattern';
import { newSong } from '#core/song';
import { pino } from 'pino';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createApp } from './app';
import { type Database, openDatabase } from './database';

/** What the server stands: writers at once, what no client sends, rows that cannot be read. */

const folder = mkdtempSync(path.join(tmpdir(), 'plucky-standing-'));
const log = pino({ level: 'silent' });
let database: Database;
let server: Server;

beforeAll(async () => {
  database = await openDatabase(folder);
  const app = createApp({ database, host: '127.0.0.1', log });
  await new Promise<void>((resolve) => {
    server = app.listen(0, '127.0.0.1', () => resolve());
  });
});
afterAll(async () => {
  await new Promise((resolve) => server.close(resolve));
  await database.close();
  rmSync(folder, { recursive: true });
});

const song: Song = newSong({ title: 'Sill', instrument: 'guitar', progression: 'A | D E7' });
const create = async (document: unknown = song) =>
  (await request(server).post('/api/songs').send({ document }).expect(201)).body;
const post = (document: unknown) => request(server).post('/api/songs').send({ document });
/** Text as it is sent, whatever it is. */
const postText = (text: string) =>
  request(server).post('/api/songs').set('Content-Type', 'application/json').send(text);
const bytesOf = (answer: { text: string }) => Buffer.byteLength(answer.text);

describe('two writers and six readers of one song', () => {
  it('lose no acknowledged edit: each is in the history, or was answered 409', async () => {
    const EDITS = 300;
    const { id } = await create();
    const url = `/api/songs/${id}`;
    const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}${url}`;
    const accepted = new Map<number, string>();
    let writing = true;
    let sent = 0;
    let refused = 0;

    /** As the app does it: it goes on from the revision it was answered, and reads only after a 409. */
    const writer = async (name: string) => {
      let revision = 1;
      let own: string[] = [];
      while (sent < EDITS) {
        sent += 1;
        const edit = `${name}${sent}`;
        const title = [...own.slice(-3), edit].join(' ');
        const answer = await fetch(address, {
          method: 'PUT',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({ revision, document: { ...song, title } }),
        });
        const { status } = answer;
        const body = (await answer.json()) as { revision: number; current: { revision: number } };
        if (status === 200) {
          expect(body.revision).toBe(revision + 1);
          expect(accepted.has(body.revision)).toBe(false);
          accepted.set(body.revision, title);
          ({ revision } = body);
          own.push(edit);
        } else {
          expect(status).toBe(409);
          refused += 1;
          ({ revision } = body.current);
          own = [];
        }
      }
    };
    const reader = async () => {
      while (writing) {
        await (await fetch(address)).json();
        await new Promise((resolve) => setTimeout(resolve, 10));
      }
    };
    const readers = Array.from({ length: 6 }, reader);
    await Promise.all([writer('a'), writer('b')]);
    writing = false;
    await Promise.all(readers);

    expect(accepted.size + refused).toBe(sent);
    const { body } = await request(server).get(url);
    expect(body.revision).toBe(1 + accepted.size);
    expect(body.document.title).toBe(accepted.get(body.revision));
    // Every revision between was made by one writer, who was told so.
    expect([...accepted.keys()].sort((x, y) => x - y)).toEqual(
      Array.from({ length: accepted.size }, (_, index) => index + 2),
    );
  }, 60_000);
});

describe('what a song may unfold to', () => {
  const bar = { chords: [{ at: 0, push: 0, symbol: 'A' }] };
  const bars = (count: number) => Array.from({ length: count }, () => bar);

  it('is bounded before anything is worked out, with a sentence', async () => {
    const sections = [{ name: 'Verse', lines: [{ bars: bars(500), times: 32 }] }];
    const order = Array.from({ length: 200 }, () => ({ name: 'Verse', times: 32 }));
    const { body } = await post({ ...song, sections, order }).expect(400);
    expect(body.problems[0]).toEqual({
      path: 'document.sections',
      message: 'unfolds to 102,400,000 bars; 4,000 is the most',
    });
    const most = { ...song, sections: [{ name: '', lines: [{ bars: bars(125), times: 32 }] }] };
    await post(most).expect(201);
  });
});

describe('what no client sends', () => {
  it.each([
    ['thousands of unknown fields', () => JSON.stringify({ document: many(5000) })],
    ['119 KB of bad keys', () => JSON.stringify({ document: { ...song, ...many(9000) } })],
    [
      '130,000 zeros for slots',
      () =>
        JSON.stringify({
          document: {
            ...song,
            pattern: { beats: [{ division: 4, slots: Array(130_000).fill(0) }] },
          },
        }),
    ],
    ['zeros in every list', () => JSON.stringify({ document: { sections: zeros(450, 450) } })],
    [
      'more lists than a document',
      () => JSON.stringify({ document: { sections: zeros(480, 499) } }),
    ],
    ['100,000 levels of lists', () => `${'['.repeat(100_000)}${']'.repeat(100_000)}`],
    ['100,000 levels of objects', () => `${'{"a":'.repeat(100_000)}1${'}'.repeat(100_000)}`],
    ['half a character', () => JSON.stringify({ document: { ...song, title: '\ud800' } })],
    ['a long word', () => `{"document": ${'x'.repeat(900_000)}`],
    ['a list', () => '[]'],
  ])('%s: 400 in a moment, as JSON of at most 16 KB', async (_what, text) => {
    const sent = text();
    const began = performance.now();
    const answer = await postText(sent).expect(400).expect('Content-Type', /json/);
    expect(performance.now() - began).toBeLessThan(2000);
    expect(bytesOf(answer)).toBeLessThanOrEqual(16_384);
    expect(answer.body.error.length).toBeGreaterThan(10);
    expect(answer.text).not.toContain(process.cwd());
  });

  it('lists at most twenty problems, and counts the rest', async () => {
    const sections = Array.from({ length: 60 }, () => 0);
    const { body } = await post({ ...song, sections }).expect(400);
    expect(body.problems).toHaveLength(20);
    expect(body.more).toBe(40);
    expect(body.error).toContain('and 59 more');
  });

  it('ids that are none lead nowhere', async () => {
    for (const id of ['%00', 'a%00b', '..%2f', "'; DROP TABLE songs", '%F0%9F', 'x'.repeat(3000)]) {
      const { status } = await request(server).get(`/api/songs/${id}`);
      expect([400, 404], id).toContain(status);
    }
    const long = await request(server)
      .get(`/api/${'x'.repeat(9000)}`)
      .expect(404);
    expect(bytesOf(long)).toBeLessThan(1000);
  });

  it('names are kept as clean text', async () => {
    const { id, document } = await create({ ...song, title: ' Lock\u0000\u0007 e\u0301\uFFFE ' });
    expect(document.title).toBe('Lock   é');
    const { body } = await request(server)
      .get(`/api/songs/${id}/export.musicxml`)
      .responseType('blob')
      .expect(200);
    expect((body as Buffer).toString('utf8')).toContain('<work-title>Lock   é</work-title>');
    const midi = await request(server).get(`/api/songs/${id}/export.mid`).responseType('blob');
    expect((midi.body as Buffer).includes(Buffer.from('Lock   é', 'utf8'))).toBe(true);
    await post({ ...song, title: '\u0001\u0002' }).expect(400);
  });

  it('writes that another page sends without an Origin', async () => {
    const { id } = await create();
    const write = (site: string) =>
      request(server).delete(`/api/songs/${id}`).set('Sec-Fetch-Site', site);
    await write('cross-site').expect(403);
    await write('same-site').expect(403);
    await request(server).get('/api/songs').set('Sec-Fetch-Site', 'cross-site').expect(200);
    await write('same-origin').expect(204);
  });

  it('a connection that sends half a request and goes', async () => {
    const { port } = server.address() as AddressInfo;
    await new Promise<void>((resolve) => {
      const half = plainRequest({ port, host: '127.0.0.1', path: '/api/songs', method: 'POST' });
      half.on('error', () => resolve());
      half.setHeader('Content-Type', 'application/json');
      half.setHeader('Content-Length', '1000');
      half.write('{"document"');
      setTimeout(() => half.destroy(), 30);
    });
    await request(server).get('/api/health').expect(200);
  });
});

function many(count: number): Record<string, number> {
  return Object.fromEntries(Array.from({ length: count }, (_, key) => [`unknown${key}`, 0]));
}
const zeros = (lists: number, items: number) =>
  Array.from({ length: lists }, () => Array(items).fill(0));

describe('rows that cannot be read', () => {
  const broken = {
    'not JSON': '{"schema": 4, "title"',
    'nothing of the kind': '{"schema": 0}',
    'of a later version': JSON.stringify({
      ...song,
      schema: DOCUMENT_VERSION + 1,
      chorusEffect: true,
    }),
  };

  it.each(Object.entries(broken))('%s: named apart, kept, never written over', async (_, text) => {
    const good = await create();
    const { id } = await create({ ...song, title: 'Broken' });
    await database.songs.update({ document: text }, { where: { id } });
    const { body: list } = await request(server).get('/api/songs').expect(200);
    const ids = list.map((row: { id: string }) => row.id);
    expect(ids).toContain(good.id);
    expect(ids).not.toContain(id);
    const { body: bad } = await request(server).get('/api/songs/unreadable').expect(200);
    expect(bad).toContainEqual(
      expect.objectContaining({ id, kind: 'song', name: 'Broken', revision: 1 }),
    );
    const { body } = await request(server).get(`/api/songs/${id}`).expect(422);
    expect(body.error).toMatch(/^This song cannot be read: .*It is kept as it is/);
    const kept = await request(server).get(`/api/songs/${id}/text`).expect(200);
    expect(kept.text).toBe(text);
    await request(server).put(`/api/songs/${id}`).send({ revision: 1, document: song }).expect(422);
    expect((await database.songs.findByPk(id))!.document).toBe(text);
    await request(server).get(`/api/songs/${id}/export.mid`).expect(422);
    await request(server).delete(`/api/songs/${id}`).expect(204);
  });

  it('patterns alike', async () => {
    const made = async (name: string) =>
      (
        await request(server)
          .post('/api/patterns')
          .send({ document: newPattern(METERS['3/4'], name) })
      ).body;
    const [good, bad] = [await made('Good'), await made('Bad')];
    await database.patterns.update({ document: '[' }, { where: { id: bad.id } });
    const { body: list } = await request(server).get('/api/patterns').expect(200);
    expect(list.map((row: { id: string }) => row.id)).toEqual([good.id]);
    const { body } = await request(server).get('/api/patterns/unreadable').expect(200);
    expect(body).toMatchObject([{ id: bad.id, kind: 'pattern', name: 'Bad' }]);
  });
});
