import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { Readable, Writable } from 'node:stream';
import { strToU8, zipSync } from 'fflate';
import { pino } from 'pino';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newSong } from '#core/song';
import { toWav } from '#core/formats';
import { createApp } from './app';
import { checkText } from './bounds';
import { type Database, openDatabase } from './database';
import { NoRecording, pour, recordingsFolder, sweepRecordings } from './recordings';
import { unpacked } from './unpacked';

/** Every way in is bounded before it is read: size, lists, dates, files of a ZIP as their bytes come. */

const folder = mkdtempSync(path.join(tmpdir(), 'plucky-bounds-'));
let database: Database;
let app: ReturnType<typeof createApp>;
let id: string;
beforeAll(async () => {
  database = await openDatabase(folder);
  app = createApp({ database, folder, host: '127.0.0.1', log: pino({ level: 'silent' }) });
  const document = newSong({ title: 'Sill', instrument: 'guitar', progression: 'A | D' });
  id = ((await request(app).post('/api/songs').send({ document })).body as { id: string }).id;
});
afterAll(async () => {
  await database.close();
  rmSync(folder, { recursive: true });
});

describe('a disk that is full', () => {
  /** Takes so many bytes, and then there is no room. */
  const full = (room: number) => {
    let left = room;
    return new Writable({
      write(chunk: Buffer, _encoding, done) {
        left -= chunk.length;
        done(left < 0 ? Object.assign(new Error('no room'), { code: 'ENOSPC' }) : null);
      },
    });
  };
  const source = () => Readable.from(Array.from({ length: 64 }, () => Buffer.alloc(1024)));

  it('is answered with 507, and does not end the server', async () => {
    await expect(pour(source(), full(9000))).rejects.toMatchObject({ status: 507 });
    await expect(pour(source(), full(9000))).rejects.toBeInstanceOf(NoRecording);
    expect(await pour(source(), full(65_536))).toBe(65_536);
  });

  it('hands on what else goes wrong', async () => {
    const broken = new Writable({
      write: (_chunk, _encoding, done) => done(Object.assign(new Error('gone'), { code: 'EIO' })),
    });
    await expect(pour(source(), broken)).rejects.toThrow('gone');
  });
});

describe('sound that is sent', () => {
  const put = (body: Buffer) =>
    request(app)
      .put(`/api/songs/${id}/recording`)
      .set('Content-Type', 'application/octet-stream')
      .send(body);
  const wav = Buffer.from(toWav(new Float32Array(8000).fill(0.1), 8000));
  const files = () => readdirSync(recordingsFolder(folder));

  it('comes one at a time, and leaves one file that is named', async () => {
    const answers = await Promise.all(Array.from({ length: 6 }, () => put(wav)));
    const statuses = answers.map(({ status }) => status);
    expect(statuses.filter((status) => status < 300).length).toBeGreaterThan(0);
    expect(statuses.every((status) => status < 300 || status === 409)).toBe(true);
    expect(files()).toHaveLength(1);
    await sweepRecordings(folder, database);
    expect(files()).toHaveLength(1);
  });

  it('has the parts that it has, and is not taken for what it is not', async () => {
    const part = await request(app).get(`/api/songs/${id}/recording`).set('Range', 'bytes=999999-');
    expect(part.status).toBe(416);
    const text = Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from('L o c k'.repeat(9))]);
    expect((await put(text)).status).toBe(400);
    expect(files()).toHaveLength(1);
  });
});

describe('lists of millions', () => {
  it('are refused by their length, with the place', async () => {
    const onsets = Array.from({ length: 30_000 }, () => ({}));
    const judge = await request(app).post(`/api/songs/${id}/takes/judge`).send({ onsets });
    expect(judge.status).toBe(400);
    expect(judge.body.error).toMatch(/onsets: has 30000 items; 20000 is the most/);
    const kept = await request(app)
      .post(`/api/songs/${id}/takes`)
      .send({ judgement: { strokes: onsets } });
    expect(kept.body.error).toMatch(/judgement.strokes: has 30000 items/);
    const many = await request(app)
      .post('/api/log/many')
      .send({ entries: Array.from({ length: 210_000 }, () => 0) });
    expect(many.status).toBe(400);
    expect(JSON.stringify(many.body).length).toBeLessThan(16_384);
  });

  it('of another kind than JSON are not read', async () => {
    const answer = await request(app)
      .post('/api/songs')
      .set('Content-Type', 'text/plain')
      .send('a song');
    expect(answer.status).toBe(415);
  });
});

describe('days', () => {
  const note = (madeAt: string) =>
    request(app).post('/api/log').send({ kind: 'note', text: 'warm hands', madeAt });

  it('are from 1990 to now', async () => {
    for (const day of ['0001-01-01', '1969-12-31', '1989-12-31', '9999-01-01', '2190-01-01']) {
      const answer = await note(`${day}T10:00:00Z`);
      expect(answer.status, day).toBe(400);
      expect(answer.body.problems[0].path).toBe('madeAt');
    }
    expect((await note('1990-01-01T10:00:00Z')).status).toBe(201);
    const far = [{ kind: 'practice', seconds: 60, madeAt: '2190-01-01T00:00:00Z' }];
    const many = await request(app).post('/api/log/many').send({ entries: far });
    expect(many.body.problems[0].path).toBe('entries[0].madeAt');
  });
});

describe('what a write accepts', () => {
  it('a read returns: an answer with control characters, and letters that grow when composed', async () => {
    const onsets = Array.from({ length: 16 }, (_, at) => ({ seconds: 0.3 * at }));
    const judged = await request(app).post(`/api/songs/${id}/takes/judge`).send({ onsets });
    const take = { tempo: 80, from: 1, to: 2, source: 'taps', judgement: judged.body };
    const made = await request(app).post(`/api/songs/${id}/takes`).send(take);
    expect(made.status).toBe(201);
    const url = `/api/songs/${id}/takes/${(made.body as { id: string }).id}`;
    const grows = '\u0958'.repeat(1500);
    for (const answer of ['one\u0000two\u0007', ' \u001b ', grows, '']) {
      const { status } = await request(app).put(`${url}/answer`).send({ answer });
      expect([200, 400]).toContain(status);
      expect((await request(app).get(url)).status).toBe(200);
    }
  });
});

describe('a ZIP', () => {
  const bounds = { bytes: 50_000, files: 5, noZip: 'no zip', tooMuch: 'too much' };
  const text = 'the lock is closed at night; '.repeat(60);
  const good = () => zipSync({ 'a.json': strToU8(text), 'b.json': strToU8('{}') });

  it('is unfolded where it is whole', async () => {
    const found = await unpacked(good(), bounds);
    expect(Buffer.from(found['a.json']!).toString()).toBe(text);
  });

  it('with one byte that was changed is refused with its name', async () => {
    const stored = zipSync({ 'a.json': [strToU8(text), { level: 0 }] });
    stored[200] = stored[200]! ^ 1;
    await expect(unpacked(stored, bounds)).rejects.toMatchObject({
      status: 400,
      body: { error: expect.stringMatching(/^a\.json in this file is damaged/) },
    });
  });

  it('that lies about its sizes is stopped as its bytes come', async () => {
    const bomb = zipSync({ 'a.json': new Uint8Array(5_000_000) });
    const view = new DataView(bomb.buffer);
    // The size that it unfolds to, in its own head and in the list at the end, becomes a small one.
    for (let at = 0; at + 4 < bomb.length; at += 1) {
      if (view.getUint32(at, true) === 5_000_000) view.setUint32(at, 1000, true);
    }
    const began = performance.now();
    await expect(unpacked(bomb, bounds)).rejects.toMatchObject({ status: 400 });
    expect(performance.now() - began).toBeLessThan(4000);
    await expect(unpacked(zipSync({ a: new Uint8Array(60_000) }), bounds)).rejects.toMatchObject({
      body: { error: 'too much' },
    });
  });

  it('of too many files, and what is none, are told apart', async () => {
    const many = zipSync(
      Object.fromEntries(Array.from({ length: 9 }, (_, at) => [`${at}`, strToU8('x')])),
    );
    await expect(unpacked(many, bounds)).rejects.toMatchObject({ body: { error: 'too much' } });
    await expect(unpacked(strToU8('no zip at all'), bounds)).rejects.toMatchObject({
      body: { error: 'no zip' },
    });
  });
});

describe('a text of JSON', () => {
  const bytes = (text: string) => new TextEncoder().encode(text);

  it('is counted before anything is made of it; what stands in quotes is no structure', () => {
    expect(() => checkText(bytes('[1,2,3]'), 4)).not.toThrow();
    expect(() => checkText(bytes('[1,2,3,4]'), 4)).toThrow('holds more than 4 values');
    expect(() => checkText(bytes(JSON.stringify(['[,,,,{{{"\\"', '\\'])), 4)).not.toThrow();
    expect(() => checkText(bytes('['.repeat(97)))).toThrow('nested');
    expect(() => checkText(bytes('['.repeat(96)))).not.toThrow();
    expect(() => checkText(bytes('{"a":"never closed'))).not.toThrow();
  });

  it('of millions of empty things is refused at every way in, with 400', async () => {
    const many = `[${'{},'.repeat(330_000)}{}]`;
    for (const [url, body] of [
      [`/api/songs/${id}/takes/judge`, `{"onsets":${many}}`],
      [`/api/songs/${id}/takes`, `{"judgement":{"strokes":${many}}}`],
      ['/api/log/many', `{"entries":${many}}`],
      ['/api/songs', `{"document":${'['.repeat(100_000)}${']'.repeat(100_000)}}`],
    ] as const) {
      const { status, body: answer } = await request(app).post(url).type('json').send(body);
      expect([status, (answer as { error: string }).error]).toEqual([
        400,
        expect.stringMatching(/holds more than|nested more than/),
      ]);
    }
  });
});
