import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import type { NewTake } from '#core/schema';
import { newSong } from '#core/song';
import { arrangement } from '#core/arrange';
import { judgeOnsets } from '#core/take';
import { toWav } from '#core/formats';
import pino from 'pino';
import request, { type Response } from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createApp } from './app';
import { type Database, openDatabase } from './database';

/** Two shelves: the player's, and the teacher's. */
const song = newSong({ title: 'Weir', instrument: 'guitar', progression: 'G | Em | C | D' });
const arranged = arrangement(song);
const onsets = arranged.performance.strikes.map(({ seconds }) => ({ seconds }));
const take: NewTake = {
  tempo: song.tempo,
  from: 1,
  to: 4,
  source: 'file',
  judgement: judgeOnsets(arranged, onsets),
};
const wav = Buffer.from(toWav(new Float32Array(4000).fill(0.1), 8000));

interface Shelf {
  folder: string;
  database: Database;
  app: ReturnType<typeof createApp>;
}
const shelves: Shelf[] = [];
async function shelf(): Promise<Shelf> {
  const folder = mkdtempSync(path.join(tmpdir(), 'plucky-sent-'));
  const database = await openDatabase(folder);
  const log = pino({ level: 'silent' });
  const made = { folder, database, app: createApp({ database, folder, host: '127.0.0.1', log }) };
  shelves.push(made);
  return made;
}
let player: Shelf;
let teacher: Shelf;
let songId: string;
let takeId: string;
beforeAll(async () => {
  [player, teacher] = [await shelf(), await shelf()];
  const made = await request(player.app).post('/api/songs').send({ document: song });
  songId = made.body.id;
  takeId = (await request(player.app).post(`/api/songs/${songId}/takes`).send(take)).body.id;
});
afterAll(async () => {
  for (const { database, folder } of shelves) {
    await database.close();
    rmSync(folder, { recursive: true });
  }
});

const fileOf = async ({ app }: Shelf, id: string, sound?: Buffer) => {
  const asked = request(app).post(`/api/songs/${id}/takes/${takeId}/file`);
  const sent = sound ? asked.type('audio/wav').send(sound) : asked;
  const { body, headers } = await sent.buffer(true).parse(bytesOf).expect(200);
  return { bytes: new Uint8Array(body as Buffer), name: headers['content-disposition'] };
};
function bytesOf(response: Response, done: (error: Error | null, body: Buffer) => void) {
  const chunks: Buffer[] = [];
  const stream = response as unknown as NodeJS.ReadableStream;
  stream.on('data', (chunk: Buffer) => chunks.push(chunk));
  stream.on('end', () => done(null, Buffer.concat(chunks)));
}
const open = ({ app }: Shelf, bytes: Uint8Array) =>
  request(app).post('/api/sent-takes').type('application/zip').send(Buffer.from(bytes));
const counts = async ({ database }: Shelf) => [
  await database.songs.count(),
  await database.takes.count(),
  await database.takeSounds.count(),
];

describe('a take to send', () => {
  it('goes to a teacher with its song and its sound, and comes back answered', async () => {
    const { bytes, name } = await fileOf(player, songId, wav);
    expect(name).toContain('Weir.take.zip');
    const files = unzipSync(bytes);
    expect(Object.keys(files).sort()).toEqual(['sound.wav', 'take.json']);
    expect(Buffer.from(files['sound.wav']!).equals(wav)).toBe(true);
    // It was sent along, and not kept.
    expect(await counts(player)).toEqual([1, 1, 0]);

    const opened = await open(teacher, bytes).expect(201);
    expect(opened.body).toMatchObject({ takeId, known: false });
    const there = opened.body.songId as string;
    const [row] = (await request(teacher.app).get(`/api/songs/${there}/takes`)).body;
    expect(row).toMatchObject({ id: takeId, soundBytes: wav.length, trouble: 'clean' });
    const read = await request(teacher.app).get(`/api/songs/${there}/takes/${takeId}`);
    expect(read.body.judgement).toEqual(JSON.parse(JSON.stringify(take.judgement)));
    expect((await request(teacher.app).get(`/api/songs/${there}`)).body.document).toEqual(song);
    // It is no practice of the teacher's.
    expect(await teacher.database.entries.count()).toBe(0);
    // Opened once more, it is the same.
    expect((await open(teacher, bytes).expect(200)).body).toMatchObject({ known: true });
    expect(await counts(teacher)).toEqual([1, 1, 1]);

    const answer = 'Lovely. Let the arm swing through bar 3.';
    const written = request(teacher.app).put(`/api/songs/${there}/takes/${takeId}/answer`);
    await written.send({ answer: ` ${answer}\n` }).expect(200, { answer });
    const back = await fileOf(teacher, there);
    expect(Object.keys(unzipSync(back.bytes)).sort()).toEqual(['sound.wav', 'take.json']);
    const home = await open(player, back.bytes).expect(200);
    expect(home.body).toEqual({ songId, takeId, known: true });
    const mine = await request(player.app).get(`/api/songs/${songId}/takes/${takeId}`);
    expect(mine.body.answer).toBe(answer);
    expect(await counts(player)).toEqual([1, 1, 0]);
    // A file from before the answer takes none away.
    await open(player, bytes).expect(200);
    const still = await request(player.app).get(`/api/songs/${songId}/takes`);
    expect(still.body[0].answer).toBe(answer);
    const away = request(player.app).put(`/api/songs/${songId}/takes/${takeId}/answer`);
    await away.send({ answer: '' }).expect(200);
    expect(
      (await request(player.app).get(`/api/songs/${songId}/takes`)).body[0],
    ).not.toHaveProperty('answer');
  });

  it('goes to its song where that is here unchanged, and to one of its own where it is not', async () => {
    const third = await shelf();
    const { bytes } = await fileOf(player, songId);
    await third.database.songs.create({
      ...(await player.database.songs.findByPk(songId))!.get({ plain: true }),
    });
    expect((await open(third, bytes).expect(201)).body.songId).toBe(songId);
    const fourth = await shelf();
    const changed = { ...song, tempo: song.tempo + 1 };
    await fourth.database.songs.create({
      ...(await player.database.songs.findByPk(songId))!.get({ plain: true }),
      document: JSON.stringify(changed),
    });
    expect((await open(fourth, bytes).expect(201)).body.songId).not.toBe(songId);
    expect((await counts(fourth))[0]).toBe(2);
    // Its song was deleted since: it comes with it again.
    const there = (await open(fourth, bytes).expect(200)).body.songId;
    await fourth.database.songs.destroy({ where: { id: there } });
    expect((await open(fourth, bytes).expect(201)).body.known).toBe(false);
    expect(await fourth.database.takes.count()).toBe(1);
  });

  it('is refused whole, with the place, where it is none', async () => {
    const { bytes } = await fileOf(player, songId, wav);
    const files = unzipSync(bytes);
    const about = JSON.parse(strFromU8(files['take.json']!)) as Record<string, unknown>;
    const packed = (parts: Record<string, unknown>, rest: Record<string, Uint8Array> = {}) =>
      zipSync({ ...rest, 'take.json': strToU8(JSON.stringify({ ...about, ...parts })) });
    const before = await counts(teacher);
    const left = readdirSync(path.join(teacher.folder, 'recordings')).length;
    const fresh = { ...(about.played as object), id: '7b1f2f76-9d5c-4f8e-8d5a-0c5b1f0f2a11' };
    for (const [sent, says] of [
      [new Uint8Array([80, 75, 3, 4, 9]), /no ZIP file/],
      [zipSync({ 'about.json': strToU8('{}') }), /has no take.json/],
      [zipSync({ 'take.json': strToU8('{"app":') }), /not whole JSON/],
      [packed({ take: 2 }), /take.json in this file: take/],
      [packed({ song: { ...song, tempo: 9000 } }), /song.tempo/],
      [packed({ sound: '../../etc/passwd' }), /sound/],
      [packed({}), /sound.wav, is not in the file/],
      [packed({ played: fresh }, { 'sound.wav': strToU8('no sound') }), /The sound of this take/],
      [zipSync({ 'take.json': new Uint8Array(90 * 2 ** 20) }), /more than a take may have/],
    ] as const) {
      const { body } = await open(teacher, sent).expect(400);
      expect(body.error).toMatch(says);
    }
    await request(teacher.app).post('/api/sent-takes').send({ app: 1 }).expect(400);
    const asked = request(player.app).post(`/api/songs/${songId}/takes/${takeId}/file`);
    await asked.type('audio/wav').send(Buffer.from('RIFF, no more')).expect(400);
    await request(player.app)
      .put(`/api/songs/${songId}/takes/${takeId}/answer`)
      .send({ answer: 'x'.repeat(2001) })
      .expect(400);
    await request(player.app).post(`/api/songs/${songId}/takes/none/file`).expect(404);
    expect(await counts(teacher)).toEqual(before);
    expect(readdirSync(path.join(teacher.folder, 'recordings'))).toHaveLength(left);
  });
});
