import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import pino from 'pino';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { newSong } from '#core/song';
import { createApp } from './app';
import { songColumns } from './columns';
import { copyOfDay, keptCopies } from './copies';
import { type Database, openDatabase } from './database';
import { seedDemo } from './demo/seed';

const folders: string[] = [];
const databases: Database[] = [];
async function opened() {
  const folder = mkdtempSync(path.join(tmpdir(), 'plucky-archive-'));
  folders.push(folder);
  const database = await openDatabase(folder);
  databases.push(database);
  const app = createApp({ database, host: '127.0.0.1', log: pino({ level: 'silent' }) });
  return { database, app, folder };
}
type Opened = Awaited<ReturnType<typeof opened>>;
let here: Opened;
let archive: Buffer;

const binaryOf = (asked: request.Test) =>
  asked.buffer(true).parse((response, done) => {
    const parts: Buffer[] = [];
    response.on('data', (part: Buffer) => parts.push(part));
    response.on('end', () => done(null, Buffer.concat(parts)));
  });
const binary = (app: Opened['app'], settings = {}) =>
  binaryOf(request(app).post('/api/archive').send({ settings }));
const send = (app: Opened['app'], route: string, bytes: Uint8Array) =>
  request(app).post(`/api/archive/${route}`).type('application/zip').send(Buffer.from(bytes));

beforeAll(async () => {
  here = await opened();
  await seedDemo(here.database);
  archive = (await binary(here.app, { 'plucky-wrist:speed': '0.8' }).expect(200)).body;
});
afterAll(async () => {
  for (const database of databases) await database.close();
  for (const folder of folders) rmSync(folder, { recursive: true });
});

describe('an archive of everything', () => {
  it('brings all of it into an empty app, with the same ids, and nothing twice', async () => {
    const there = await opened();
    const look = (await send(there.app, 'look', archive).expect(200)).body;
    expect(look.songs.fresh).toBe(await here.database.songs.count());
    expect(look.rows.fresh).toBe(await here.database.entries.count());
    expect(look.problems).toEqual([]);
    expect(look.settings).toEqual({ 'plucky-wrist:speed': '0.8' });
    expect(await there.database.songs.count()).toBe(0);
    await send(there.app, 'take', archive).expect(200);
    const counts = async ({ songs, patterns, entries, takes, changeTimes }: Database) =>
      Promise.all([
        songs.count(),
        patterns.count(),
        entries.count(),
        takes.count(),
        changeTimes.count(),
      ]);
    expect(await counts(there.database)).toEqual(await counts(here.database));
    const again = (await send(there.app, 'take', archive).expect(200)).body;
    expect(again.songs.fresh + again.rows.fresh + again.timings.fresh).toBe(0);
    expect(await there.database.entries.count()).toBe(await here.database.entries.count());
    const [list, other] = await Promise.all([
      request(here.app).get('/api/log/export.json'),
      request(there.app).get('/api/log/export.json'),
    ]);
    expect(other.body).toEqual(list.body);
  });

  it('leaves what differs as it is here, unless the newer is asked for and is newer', async () => {
    const there = await opened();
    await send(there.app, 'take', archive).expect(200);
    const [song] = (await request(there.app).get('/api/songs')).body;
    const { document, revision } = (await request(there.app).get(`/api/songs/${song.id}`)).body;
    const changed = { revision, document: { ...document, tempo: 61 } };
    await request(there.app).put(`/api/songs/${song.id}`).send(changed).expect(200);
    const look = (await send(there.app, 'look', archive)).body;
    expect(look.songs.differ).toBe(1);
    expect(look.differing).toEqual([{ name: song.title, newer: false }]);
    await send(there.app, 'take?newer=true', archive).expect(200);
    const kept = (await request(there.app).get(`/api/songs/${song.id}`)).body;
    expect(kept.document.tempo).toBe(61);

    const files = unzipSync(archive);
    const file = `songs/${song.id}.json`;
    const stored = JSON.parse(strFromU8(files[file]!));
    files[file] = strToU8(
      JSON.stringify({
        ...stored,
        updatedAt: '2099-01-01T00:00:00.000Z',
        document: { ...stored.document, tempo: 99 },
      }),
    );
    const later = zipSync(files);
    await send(there.app, 'take', later).expect(200);
    expect((await request(there.app).get(`/api/songs/${song.id}`)).body.document.tempo).toBe(61);
    await send(there.app, 'take?newer=true', later).expect(200);
    const newest = (await request(there.app).get(`/api/songs/${song.id}`)).body;
    expect(newest.document.tempo).toBe(99);
    expect(newest.revision).toBeGreaterThan(kept.revision);
  });

  it('tells what in it cannot be read, and takes the rest', async () => {
    const there = await opened();
    const files = unzipSync(archive);
    files['songs/broken.json'] = strToU8('{"id": 1');
    files['patterns/none.json'] = strToU8(
      '{"id":"x","revision":1,"updatedAt":"now","document":{}}',
    );
    const look = (await send(there.app, 'look', zipSync(files)).expect(200)).body;
    expect(look.problems.map(({ file }: { file: string }) => file).sort()).toEqual([
      'patterns/none.json',
      'songs/broken.json',
    ]);
  });

  it.each([
    ['no ZIP file', Buffer.from('canal')],
    ['a ZIP file of something else', Buffer.from(zipSync({ 'a.txt': strToU8('boats') }))],
    ['one cut off', Buffer.alloc(0)],
  ])('refuses %s', async (_, bytes) => {
    const { body } = await send(here.app, 'look', bytes).expect(400);
    expect(body.error).toMatch(/archive/i);
    const cut = await send(here.app, 'take', archive.subarray(0, archive.length - 200));
    expect(cut.status).toBe(400);
  });
});

describe('copies of the days', () => {
  it('are one a day, and the last seven are kept', async () => {
    const { database, folder } = await opened();
    const days = Array.from({ length: 9 }, (_, index) => `2031-05-0${index + 1}`);
    for (const day of days)
      expect(await copyOfDay(database, folder, day)).toBe(`day-${day}.sqlite`);
    expect(await copyOfDay(database, folder, days.at(-1)!)).toBeNull();
    writeFileSync(path.join(folder, 'day-of-rest.sqlite'), '');
    const kept = readdirSync(folder).filter((file) => /^day-\d/.test(file));
    expect(kept.sort()).toEqual(days.slice(2).map((day) => `day-${day}.sqlite`));
  });

  it('are one a week before that, for eight weeks', () => {
    const days = Array.from({ length: 100 }, (_, index) => {
      const day = new Date(Date.UTC(2031, 0, 6) + index * 86_400_000).toISOString().slice(0, 10);
      return `day-${day}.sqlite`;
    });
    const kept = [...keptCopies(days)].sort();
    // The last seven, and Sundays: the seventh week before the one that is not over.
    expect(kept.slice(-7)).toEqual(days.slice(-7));
    expect(kept).toHaveLength(13);
    expect(kept[0]).toBe(days[6 + 7 * 7 - 0]);
  });

  it('all stay where the shelf has become far emptier', async () => {
    const { database, folder } = await opened();
    const full = Array.from({ length: 9 }, (_, index) => `day-2031-04-0${index + 1}.sqlite`);
    for (const name of full) writeFileSync(path.join(folder, name), Buffer.alloc(4_000_000));
    await copyOfDay(database, folder, '2031-05-20');
    expect(readdirSync(folder)).toEqual(expect.arrayContaining(full));
  });
});

describe('a song that is put back', () => {
  it('is itself again, later than every window that still shows it', async () => {
    const [song] = (await request(here.app).get('/api/songs')).body;
    const { id, revision, document } = (await request(here.app).get(`/api/songs/${song.id}`)).body;
    const was = { id, revision };
    await request(here.app).post('/api/songs').send({ document, was }).expect(409);
    await request(here.app).delete(`/api/songs/${id}`).expect(204);
    const back = await request(here.app).post('/api/songs').send({ document, was }).expect(201);
    expect(back.body).toMatchObject({ id, revision: revision + 1, document });
    await request(here.app).put(`/api/songs/${id}`).send({ revision, document }).expect(409);
  });
});

describe('recordings in an archive', () => {
  const withFolder = async () => {
    const made = await opened();
    const { database, folder } = made;
    const log = pino({ level: 'silent' });
    return { ...made, app: createApp({ database, folder, host: '127.0.0.1', log }) };
  };
  const save = (app: Opened['app'], recordings: boolean) =>
    binaryOf(request(app).post('/api/archive').send({ recordings }));

  it('are left out unless they are asked for, and come back as they were', async () => {
    const from = await withFolder();
    await seedDemo(from.database, from.folder);
    const [row] = await from.database.recordings.findAll();
    const url = `/api/songs/${row!.songId}/recording`;
    const known = (await request(from.app).get(`${url}/map`).expect(200)).body;

    const without = (await save(from.app, false).expect(200)).body as Buffer;
    expect(Object.keys(unzipSync(without)).some((name) => name.includes('recording'))).toBe(false);
    const whole = (await save(from.app, true).expect(200)).body as Buffer;

    const to = await withFolder();
    const look = (await send(to.app, 'look', whole).expect(200)).body;
    expect(look.recordings).toEqual({ fresh: 1, same: 0, differ: 0 });
    await send(to.app, 'take', whole).expect(200);
    expect((await request(to.app).get(`${url}/map`)).body).toEqual(known);
    const [ours, theirs] = [from, to].map(({ folder }) => {
      const [file] = readdirSync(path.join(folder, 'recordings'));
      return readFileSync(path.join(folder, 'recordings', file!));
    });
    expect(theirs!.equals(ours!)).toBe(true);
    const again = (await send(to.app, 'take', whole).expect(200)).body;
    expect(again.recordings).toEqual({ fresh: 0, same: 1, differ: 0 });
    expect(readdirSync(path.join(to.folder, 'recordings'))).toHaveLength(1);
  }, 60_000);

  it('are told apart from what is no sound, or is not there', async () => {
    const to = await withFolder();
    const songId = '1b671a64-40d5-491e-99b0-da01ff1f3341';
    const about = { name: 'Evening', type: 'audio/wav', bytes: 9, map: null, landings: [] };
    const entry = { ...about, songId, madeAt: '2026-11-26T10:00:00.000Z' };
    const zip = (file: string, sound: Record<string, Uint8Array>) =>
      zipSync({
        'about.json': strToU8(JSON.stringify({ app: 'plucky-wrist', archive: 1 })),
        [`recordings/${songId}.json`]: strToU8(JSON.stringify({ ...entry, file })),
        ...sound,
      });
    const problems = async (bytes: Uint8Array) =>
      (await send(to.app, 'take', bytes).expect(200)).body.problems as { message: string }[];
    const words = { 'recordings/a.wav': strToU8('not a sound, a long line of words') };
    expect(await problems(zip('a.wav', words))).toMatchObject([
      { message: 'its song is not there' },
    ]);
    const document = newSong({ title: 'Lock', instrument: 'guitar', progression: 'A' });
    const text = JSON.stringify(document);
    await to.database.songs.create({
      id: songId,
      revision: 1,
      ...songColumns(document),
      document: text,
    });
    expect(await problems(zip('a.wav', words))).toMatchObject([{ message: 'is no sound file' }]);
    expect(await problems(zip('gone.wav', {}))).toMatchObject([
      { message: 'the sound of a recording is missing' },
    ]);
    expect((await problems(zip('../../etc/a.wav', words)))[0]!.message).toContain('file');
    expect(await to.database.recordings.count()).toBe(0);
  });
});
