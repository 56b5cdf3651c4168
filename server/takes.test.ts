import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { newSong } from '#core/song';
import { arrange } from '#core/arrange';
import { playTake, takeSound } from '#core/take';
import { toWav } from '#core/formats';
import pino from 'pino';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createApp } from './app';
import { type Database, openDatabase } from './database';

const folder = mkdtempSync(path.join(tmpdir(), 'plucky-takes-'));
const song = newSong({
  title: 'Weir',
  instrument: 'guitar',
  progression: 'G | Em | C | D | G | Em | C | D',
  tempo: 100,
});
let database: Database;
let server: Server;
let id: string;

beforeAll(async () => {
  database = await openDatabase(folder);
  const app = createApp({ database, folder, host: '127.0.0.1', log: pino({ level: 'silent' }) });
  server = createServer(app).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  expect((server.address() as AddressInfo).port).toBeGreaterThan(0);
  const made = await request(server).post('/api/songs').send({ document: song }).expect(201);
  id = made.body.id;
});
afterAll(async () => {
  server.close();
  await database.close();
  rmSync(folder, { recursive: true });
});

const judge = (query = '') => request(server).post(`/api/songs/${id}/takes/judge${query}`);
const performance = arrange(song);
const sound = (habits: Parameters<typeof playTake>[2], lead = 0.7) =>
  toWav(
    takeSound(playTake(performance, song.meter, habits), song.meter, 'guitar', 22_050, {
      lead,
      noise: 35,
    }),
    22_050,
  );

describe('a take is judged from its sound', () => {
  it('stroke by stroke, without being kept', async () => {
    const wav = sound({ seed: 5, jitter: 6 });
    const { body } = await judge('?tempo=100').type('audio/wav').send(Buffer.from(wav)).expect(200);
    expect(body.verdict).toMatchObject({ trouble: 'clean', hand: null, advice: 'up' });
    expect(body.verdict.sure).toBeGreaterThan(0.5);
    expect(body.strokes.length).toBeGreaterThan(0.95 * performance.strikes.length);
    const [first] = body.strokes;
    expect(first.strike).toBe(0);
    expect(Math.abs(first.seconds - 0.7)).toBeLessThan(0.02);
    expect((await request(server).get(`/api/songs/${id}/takes`)).body).toEqual([]);
  });

  it('with the landings that come late', async () => {
    const wav = sound({ seed: 6, jitter: 6, landingsLate: 70 });
    const { body } = await judge().type('audio/wav').send(Buffer.from(wav)).expect(200);
    expect(body.verdict).toMatchObject({ trouble: 'landings', hand: 'fretting' });
    expect(body.byChange.every((change: { median: number }) => change.median > 40)).toBe(true);
  });

  it('for some bars alone, by their place in the whole song', async () => {
    const some = { ...performance, strikes: performance.strikes.filter(({ bar }) => bar >= 4) };
    const shift = some.strikes[0]!.seconds;
    const wav = toWav(
      takeSound(playTake(some, song.meter, { seed: 2, jitter: 4 }), song.meter, 'guitar', 22_050, {
        noise: 40,
      }),
      22_050,
    );
    const { body } = await judge('?from=5&to=8')
      .type('audio/wav')
      .send(Buffer.from(wav))
      .expect(200);
    const first = performance.strikes.findIndex(({ bar }) => bar === 4);
    expect(body.strokes[0].strike).toBe(first);
    expect(Math.abs(body.strokes[0].seconds - shift - 0.4)).toBeLessThan(0.03);
    expect(body.verdict.trouble).toBe('clean');
  });

  it('or not at all: silence and something else are told', async () => {
    const silence = toWav(new Float32Array(44_100), 22_050);
    const { body } = await judge().type('audio/wav').send(Buffer.from(silence)).expect(200);
    expect(body.verdict).toMatchObject({ trouble: 'unjudged', hand: null, sure: 0 });
    expect(body.verdict.sentence).toContain('nothing was heard');
  });

  it('or refused, with what is wrong with the file', async () => {
    const say = async (bytes: Buffer) =>
      (await judge().type('audio/wav').send(bytes).expect(400)).body.error as string;
    expect(await say(Buffer.from('these are words and no sound'))).toContain('no WAV file');
    const wav = Buffer.from(sound({ seed: 1 }));
    expect(await say(wav.subarray(0, 20))).toContain('format chunk is cut off');
    expect(await say(wav.subarray(0, 40))).toContain('data chunk');
    const still = Buffer.from(wav);
    still.writeUInt32LE(0, 24);
    expect(await say(still)).toContain('0 samples a second');
    const large = Buffer.alloc(65 * 2 ** 20);
    const refused = await judge().type('audio/wav').send(large);
    expect(refused.status).toBe(413);
    expect(refused.body.error).toContain('64 MB');
  });

  it('only for bars and tempos that there are', async () => {
    const of = async (query: string) =>
      (await judge(query).send({ onsets: [] }).expect(400)).body.problems[0].path as string;
    expect(await of('?from=9')).toBe('from');
    expect(await of('?to=99')).toBe('to');
    expect(await of('?from=4&to=2')).toBe('to');
    expect(await of('?tempo=5')).toBe('tempo');
    expect(await of('?speed=2')).toBe('speed');
    await request(server).post('/api/songs/nothing/takes/judge').send({ onsets: [] }).expect(404);
  });
});

describe('a take of onsets', () => {
  it('is judged alike', async () => {
    const played = playTake(performance, song.meter, { seed: 4, jitter: 6, drift: 4 });
    const onsets = played.strikes.map(({ seconds, dir }) => ({
      seconds: seconds + 2,
      direction: dir,
    }));
    const { body } = await judge().send({ onsets }).expect(200);
    expect(body.verdict.trouble).toBe('rushing');
    expect(body.drift).toBeCloseTo(4, 0);
    expect(body.missed).toEqual([]);
  });

  it('is refused where it is none', async () => {
    const { body } = await judge()
      .send({ onsets: [{ seconds: 'soon' }] })
      .expect(400);
    expect(body.problems[0].path).toBe('onsets[0].seconds');
  });
});

describe('a judged take', () => {
  it('is kept, listed, read and taken away', async () => {
    const onsets = performance.strikes.map(({ seconds }) => ({ seconds }));
    const judgement = (await judge().send({ onsets })).body;
    const takes = `/api/songs/${id}/takes`;
    const made = await request(server)
      .post(takes)
      .send({ tempo: 100, from: 1, to: 8, source: 'taps', judgement })
      .expect(201);
    const [listed] = (await request(server).get(takes)).body;
    expect(listed).toEqual(made.body);
    expect(listed).toMatchObject({ songId: id, trouble: 'clean', source: 'taps' });
    const read = await request(server).get(`${takes}/${listed.id}`).expect(200);
    expect(read.body.judgement.strokes).toHaveLength(performance.strikes.length);
    await request(server).delete(`${takes}/${listed.id}`).expect(204);
    await request(server).get(`${takes}/${listed.id}`).expect(404);
    await request(server)
      .post(takes)
      .send({ tempo: 100, from: 1, to: 8, source: 'air' })
      .expect(400);
  });
});

describe('what a browser kept while the server was away', () => {
  const sent = { id: '0b6f7a52-5a43-4cfb-9b6e-2f1d54b0a6c1', madeAt: '2031-05-08T18:00:00.000Z' };

  it('is there once, however often and from wherever it comes, and never later than now', async () => {
    const judgement = (await judge().send({ onsets: [] })).body;
    const take = { ...sent, tempo: 100, from: 1, to: 8, source: 'taps', judgement };
    const takes = `/api/songs/${id}/takes`;
    const both = await Promise.all([1, 2].map(() => request(server).post(takes).send(take)));
    expect(both.map(({ status }) => status).sort()).toEqual([200, 201]);
    const again = await request(server).post(takes).send(take).expect(200);
    expect(again.body).toEqual(both[0]!.body);
    expect(Date.parse(again.body.madeAt)).toBeLessThanOrEqual(Date.now());
    expect((await request(server).get(takes)).body).toHaveLength(1);
    const { body: log } = await request(server).get('/api/log');
    expect(log.entries.filter((entry: { id: string }) => entry.id === sent.id)).toHaveLength(1);

    const other = await request(server).post('/api/songs').send({ document: song }).expect(201);
    const elsewhere = `/api/songs/${other.body.id}/takes`;
    const refused = await request(server).post(elsewhere).send(take).expect(400);
    expect(refused.body.problems[0].path).toBe('id');
    await request(server).delete(`/api/songs/${other.body.id}`).expect(204);
    await request(server).delete(`${takes}/${sent.id}`).expect(204);
    const { id: _, ...wrong } = take;
    await request(server)
      .post(takes)
      .send({ ...wrong, id: 'mine' })
      .expect(400);
  });

  it('keeps the moment at which it was made, for rows and timings too', async () => {
    const madeAt = '2025-03-01T18:00:00.000Z';
    const row = { id: sent.id, madeAt, kind: 'take', songId: id, tempo: 80, trouble: 'clean' };
    const first = await request(server).post('/api/log').send(row).expect(201);
    expect(first.body).toMatchObject({ id: sent.id, madeAt, source: 'word' });
    const second = await request(server).post('/api/log').send(row).expect(200);
    expect(second.body).toEqual(first.body);

    const { strings, name } = song.instrument;
    const shape = { frets: [3, 2, 0, 0, 0, 3], fingers: [2, 1, 0, 0, 0, 3] };
    const timing = {
      id: '5f0d2a53-6d6e-4a43-8b1a-6f3f2b0c9d11',
      madeAt,
      from: 'G',
      to: 'C',
      fromShape: shape,
      toShape: shape,
      instrument: name,
      strings: [...strings],
      gaps: [600, 500, 700],
      source: 'taps',
    };
    const times = '/api/change-times';
    const made = await request(server).post(times).send(timing).expect(201);
    expect(made.body).toMatchObject({ id: timing.id, madeAt });
    expect((await request(server).post(times).send(timing).expect(200)).body).toEqual(made.body);
    const taken = await request(server)
      .post(times)
      .send({ ...timing, id: sent.id })
      .expect(409);
    expect(taken.body.error).toBe('This id is one of something else.');
    await request(server).delete(`${times}/${timing.id}`).expect(204);
  });
});

describe('changes of a song', () => {
  it('are given with what the hand needs, and follow what was timed', async () => {
    const changes = async () => (await request(server).get(`/api/songs/${id}/changes`)).body;
    const before = await changes();
    expect(
      before.changes.map(({ from, to }: { from: string; to: string }) => `${from} ${to}`).sort(),
    ).toEqual(['C D', 'D G', 'Em C', 'G Em']);
    const change = before.changes.find(({ to }: { to: string }) => to === 'Em');
    expect(change).toMatchObject({ bars: [2, 6], measured: false });
    expect(change.fingers[0]).toHaveProperty('window');
    const timing = {
      from: 'G',
      to: 'Em',
      fromShape: change.fromShape,
      toShape: change.toShape,
      instrument: song.instrument.name,
      strings: song.instrument.strings,
      gaps: [900, 910, 880, 905, 3000],
      source: 'taps',
    };
    const made = await request(server).post('/api/change-times').send(timing).expect(201);
    const slow = (await changes()).changes.find(({ to }: { to: string }) => to === 'Em');
    expect(slow.measured).toBe(true);
    expect(slow.ceiling).toBeLessThan(change.ceiling);
    const list = `/api/change-times?strings=${song.instrument.strings.join()}`;
    expect((await request(server).get(list)).body[0]).toEqual(made.body);
    expect((await request(server).get('/api/change-times?strings=1,2,3')).body).toEqual([]);
    await request(server).delete(`/api/change-times/${made.body.id}`).expect(204);
    await request(server).delete(`/api/change-times/${made.body.id}`).expect(404);
  });

  it('refuse a timing that is none', async () => {
    const { body } = await request(server).post('/api/change-times').send({ gaps: [] }).expect(400);
    expect(body.problems.length).toBeGreaterThan(3);
    await request(server).get('/api/change-times?strings=few').expect(400);
  });
});

describe('the sound of a take', () => {
  const wav = Buffer.from(toWav(new Float32Array(22_050).fill(0.1), 22_050));
  const files = () => readdirSync(path.join(folder, 'recordings'));
  async function kept(): Promise<string> {
    const { body: judgement } = await judge()
      .type('audio/wav')
      .send(Buffer.from(sound({ seed: 9, jitter: 6 })))
      .expect(200);
    const take = { tempo: 100, from: 1, to: 8, source: 'microphone', judgement };
    const { body } = await request(server).post(`/api/songs/${id}/takes`).send(take).expect(201);
    return body.id as string;
  }
  const at = (take: string) => `/api/songs/${id}/takes/${take}/sound`;

  it('is kept only where it is asked for, listed with its size, heard with ranges, and taken away', async () => {
    const take = await kept();
    const listed = async () =>
      (await request(server).get(`/api/songs/${id}/takes`)).body.find(
        (row: { id: string }) => row.id === take,
      );
    expect((await listed()).soundBytes).toBeUndefined();
    await request(server).get(at(take)).expect(404);
    await request(server).delete(at(take)).expect(404);

    await request(server).put(at(take)).type('application/octet-stream').send(wav).expect(201);
    expect((await listed()).soundBytes).toBe(wav.length);
    expect(files()).toHaveLength(1);
    const part = await request(server).get(at(take)).set('Range', 'bytes=0-3').expect(206);
    expect(part.headers['content-type']).toBe('audio/wav');
    expect(Buffer.from(part.body as Buffer).toString()).toBe('RIFF');

    // Another in its place leaves one file; deleting the sound leaves the take.
    await request(server).put(at(take)).type('application/octet-stream').send(wav).expect(200);
    expect(files()).toHaveLength(1);
    await request(server).delete(at(take)).expect(204);
    expect(files()).toEqual([]);
    expect(await listed()).toMatchObject({ id: take });
  });

  it('goes with its take, and is refused where it is no sound', async () => {
    const take = await kept();
    for (const [body, status] of [
      [Buffer.from('no sound at all, but long enough'), 400],
      [Buffer.alloc(0), 400],
      [wav.subarray(0, 30), 400],
    ] as const) {
      const { body: answer } = await request(server)
        .put(at(take))
        .type('application/octet-stream')
        .send(body)
        .expect(status);
      expect(answer.error).toMatch(/kept/);
    }
    expect(files()).toEqual([]);
    await request(server).put(at(take)).type('application/octet-stream').send(wav).expect(201);
    await request(server).delete(`/api/songs/${id}/takes/${take}`).expect(204);
    expect(files()).toEqual([]);
    await request(server).get(at(take)).expect(404);
    await request(server)
      .put(at('00000000-0000-4000-8000-000000000000'))
      .type('application/octet-stream')
      .send(wav)
      .expect(404);
  });
});
