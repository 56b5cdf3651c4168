import { mkdtempSync, rmSync } from 'node:fs';
import type { Server } from 'node:http';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { DOCUMENT_VERSION } from '#core/schema';
import { METERS } from '#core/time';
import { builtInPatterns, newPattern } from '#core/pattern';
import { newSong, readProgression } from '#core/song';
import { pino } from 'pino';
import { strFromU8, unzipSync } from 'fflate';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createApp } from './app';
import { type Database, openDatabase } from './database';

const folder = mkdtempSync(path.join(tmpdir(), 'plucky-documents-'));
let database: Database;
let server: Server;

beforeAll(async () => {
  database = await openDatabase(folder);
  const app = createApp({ database, host: '127.0.0.1', log: pino({ level: 'silent' }) });
  await new Promise<void>((resolve) => {
    server = app.listen(0, '127.0.0.1', () => resolve());
  });
});
afterAll(async () => {
  await new Promise((resolve) => server.close(resolve));
  await database.close();
  rmSync(folder, { recursive: true });
});

const song = newSong({ title: 'Gate’s Open', instrument: 'guitar', progression: 'A | D E7' });
const create = async () =>
  (await request(server).post('/api/songs').send({ document: song }).expect(201)).body;

describe('documents of version 1', () => {
  it('are read as they were, as documents of this version, and written so', async () => {
    const stored = await create();
    const first = { ...song, schema: 1, pattern: { ...song.pattern, schema: 1 } };
    await database.songs.update({ document: JSON.stringify(first) }, { where: { id: stored.id } });
    const read = await request(server).get(`/api/songs/${stored.id}`).expect(200);
    expect(read.body.document).toEqual(song);
    const sent = await request(server)
      .put(`/api/songs/${stored.id}`)
      .send({ revision: 1, document: first })
      .expect(200);
    expect(sent.body.revision).toBe(2);
    const row = await database.songs.findByPk(stored.id);
    expect(JSON.parse(row!.document).schema).toBe(DOCUMENT_VERSION);
    await request(server).delete(`/api/songs/${stored.id}`).expect(204);
  });

  it('are told from versions that do not exist yet', async () => {
    const refused = await request(server)
      .post('/api/songs')
      .send({ document: { ...song, schema: DOCUMENT_VERSION + 1 } })
      .expect(400);
    expect(refused.body.problems[0].path).toBe('document.schema');
  });
});

describe('patterns of every kind', () => {
  it('are kept as they were sent', async () => {
    for (const document of builtInPatterns()) {
      const made = await request(server).post('/api/patterns').send({ document }).expect(201);
      expect(made.body.document).toEqual(document);
      const read = await request(server).get(`/api/patterns/${made.body.id}`).expect(200);
      expect(read.body.document).toEqual(document);
      await request(server).delete(`/api/patterns/${made.body.id}`).expect(204);
    }
  });

  const pattern = newPattern(METERS['4/4']);
  const withStroke = (stroke: unknown) => ({
    ...pattern,
    beats: [{ division: 1, slots: [stroke] }, ...pattern.beats.slice(1)],
  });
  it.each([
    [
      withStroke({ kind: 'roll', dir: 'down', accent: 'normal', hits: 9 }),
      'document.beats[0].slots[0].hits',
    ],
    [
      withStroke({ kind: 'pick', dir: 'up', accent: 'normal', strings: [{ string: 's9' }] }),
      'document.beats[0].slots[0].strings[0].string',
    ],
    [
      withStroke({ kind: 'strum', dir: 'left', accent: 'normal' }),
      'document.beats[0].slots[0].dir',
    ],
    [{ ...pattern, beats: [{ division: 5, slots: [] }] }, 'document.beats[0].division'],
    [{ ...pattern, feel: { on: 'eighths', percent: 90 } }, 'document.feel.percent'],
    [{ ...pattern, tags: Array.from({ length: 13 }, () => 'tag') }, 'document.tags'],
    [
      { ...pattern, meter: { ...pattern.meter, cycle: { accents: [7], first: 1 } } },
      'document.meter.cycle.accents',
    ],
  ])('refuse what cannot be played, and name the place (%#)', async (document, place) => {
    const refused = await request(server).post('/api/patterns').send({ document }).expect(400);
    expect(refused.body.problems[0].path).toBe(place);
    const list = await request(server).get('/api/patterns').expect(200);
    expect(list.body).toEqual([]);
  });
});

describe('what goes out as files', () => {
  it('is MusicXML and MIDI of what is stored, named by the title', async () => {
    const { id } = await create();
    const sheet = await request(server)
      .get(`/api/songs/${id}/export.musicxml`)
      .responseType('blob')
      .expect(200);
    expect(sheet.headers['content-disposition']).toContain('Gates-Open.musicxml');
    expect(sheet.headers['content-type']).toContain('musicxml');
    const text = (sheet.body as Buffer).toString('utf8');
    expect(text).toContain('<work-title>Gate’s Open</work-title>');
    expect(text.match(/<harmony>/g)).toHaveLength(3);
    const midi = await request(server)
      .get(`/api/songs/${id}/export.mid`)
      .responseType('blob')
      .expect(200);
    expect((midi.body as Buffer).subarray(0, 4).toString()).toBe('MThd');
    const small = await request(server)
      .get(`/api/songs/${id}/export.mxl`)
      .responseType('blob')
      .expect(200);
    expect(small.headers['content-disposition']).toContain('Gates-Open.mxl');
    expect(strFromU8(unzipSync(small.body as Buffer)['score.musicxml']!)).toBe(text);
    await request(server).get('/api/songs/nowhere/export.musicxml').expect(404);
  });

  it('has what a bar says of its own, kept over a write and a read', async () => {
    const { sections } = readProgression('(pickup 1) E7 | A[2=Am7] | (2/4) D~', METERS['4/4']);
    const odd = { ...song, sections };
    const made = await request(server).post('/api/songs').send({ document: odd }).expect(201);
    const read = await request(server).get(`/api/songs/${made.body.id}`).expect(200);
    expect(read.body.document).toEqual(odd);
    const bad = structuredClone(odd);
    bad.sections[0]!.lines[0]!.bars[0]!.pickup = 0;
    const refused = await request(server).post('/api/songs').send({ document: bad }).expect(400);
    expect(refused.body.problems[0].path).toBe('document.sections[0].lines[0].bars[0].pickup');
  });
});
