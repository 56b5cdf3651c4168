import { mkdtempSync, rmSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Entry, NewTake } from '#core/schema';
import { INSTRUMENTS } from '#core/neck';
import { newSong } from '#core/song';
import { describeSlots } from '#core/log';
import pino from 'pino';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createApp } from './app';
import { type Database, openDatabase } from './database';
import { seedDemo } from './demo/seed';
import { rememberedIn } from './remembered';
import { summaryOf } from './routes/summary';

const folder = mkdtempSync(path.join(tmpdir(), 'plucky-log-'));
let database: Database;
let server: Server;
let songId: string;

beforeAll(async () => {
  database = await openDatabase(folder);
  const app = createApp({ database, host: '127.0.0.1', log: pino({ level: 'silent' }) });
  server = createServer(app).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  const song = newSong({
    title: 'Weir',
    instrument: 'guitar',
    progression: 'G | C | D | G',
    tempo: 80,
  });
  const made = await request(server).post('/api/songs').send({ document: song }).expect(201);
  songId = made.body.id;
});
afterAll(async () => {
  server.close();
  await database.close();
  rmSync(folder, { recursive: true });
});

const log = (query = '') => request(server).get(`/api/log${query}`);
const add = (body: object) => request(server).post('/api/log').send(body);
const stroke = (strike: number, off: number) => ({
  strike,
  seconds: strike * 0.5,
  off,
  kind: 'full' as const,
  direction: null,
  chord: 'unknown' as const,
});
const take = (
  tempo: number,
  trouble: 'clean' | 'landings',
  rest: Partial<NewTake> = {},
): NewTake => ({
  tempo,
  from: 1,
  to: 4,
  source: 'taps',
  judgement: {
    lag: 0,
    drift: 0,
    tolerance: 20,
    strokes: [stroke(0, 2), stroke(1, -4), stroke(2, trouble === 'clean' ? 6 : 64)],
    missed: [],
    added: [],
    slips: [],
    bySlot: [],
    byChange: [
      {
        from: 'G',
        to: 'C',
        count: 1,
        missed: 0,
        median: trouble === 'clean' ? 4 : 64,
        spread: 0,
        within: 1,
        chordLate: 0,
        bars: [2],
      },
    ],
    verdict: {
      trouble,
      hand: null,
      sentence: 'Heard.',
      advice: 'stay',
      tempo,
      loop: null,
      sure: 0.7,
    },
  },
  ...rest,
});

describe('the log', () => {
  let first: Entry;

  it('gets a row with every take, timing, and word of the player', async () => {
    await request(server).post(`/api/songs/${songId}/takes`).send(take(70, 'landings')).expect(201);
    await request(server)
      .post(`/api/songs/${songId}/takes`)
      .send(take(70, 'clean', { rung: 'landings', hands: 'both', from: 2 }))
      .expect(201);
    const { strings, name } = INSTRUMENTS.guitar;
    const shape = { frets: [3, 2, 0, 0, 0, 3], fingers: [2, 1, 0, 0, 0, 3] };
    const timing = {
      from: 'G',
      to: 'C',
      fromShape: shape,
      toShape: shape,
      instrument: name,
      strings: [...strings],
      gaps: [600, 500, 700],
      source: 'taps',
    };
    await request(server).post('/api/change-times').send(timing).expect(201);
    const said = await add({
      kind: 'take',
      songId,
      tempo: 72,
      trouble: 'so-so',
      rung: 'arm',
      seconds: 60,
    }).expect(201);
    expect(said.body).toMatchObject({
      source: 'word',
      song: 'Weir',
      instrument: 'Guitar',
      whole: true,
    });
    await add({ kind: 'note', text: 'Thumb behind the neck.' }).expect(201);
    const { body } = await log().expect(200);
    expect(body.total).toBe(5);
    expect(body.entries.map(({ kind }: Entry) => kind).sort()).toEqual([
      'change',
      'note',
      'take',
      'take',
      'take',
    ]);
    const heard = body.entries.find(({ trouble }: Entry) => trouble === 'landings');
    expect(heard).toMatchObject({
      songId,
      rung: 'song',
      whole: true,
      change: 'G to C',
      place: { from: 1, to: 3 },
      within: 0.667,
      seconds: 1,
    });
    expect(body.entries.find(({ rung }: Entry) => rung === 'landings').whole).toBe(false);
    expect(body.entries.find(({ kind }: Entry) => kind === 'change')).toMatchObject({
      median: 600,
      seconds: 1.8,
      change: 'G to C',
    });
    first = heard;
  });

  it('is filtered and paged, and a row that is added meanwhile moves nothing', async () => {
    expect((await log('?kind=take')).body.total).toBe(3);
    expect((await log('?verdict=clean')).body.total).toBe(1);
    expect((await log(`?song=${songId}&kind=take`)).body.total).toBe(3);
    const today = new Date().toISOString().slice(0, 10);
    expect((await log(`?from=${today}&to=${today}`)).body.total).toBe(5);
    expect((await log('?to=2020-01-01')).body.total).toBe(0);
    const page = (await log('?limit=2')).body;
    await add({ kind: 'note', text: 'Meanwhile.' }).expect(201);
    const rest = (await log(`?limit=9&after=${page.next}`)).body;
    const ids = [...page.entries, ...rest.entries].map(({ id }: Entry) => id);
    expect(new Set(ids).size).toBe(5);
    expect(rest.next).toBeNull();
  });

  it('tells what it comes to', async () => {
    const { body } = await log('/summary').expect(200);
    expect(body.evenings).toBe(1);
    expect(body.songs[0]).toMatchObject({
      songId,
      song: 'Weir',
      goal: 80,
      clean: null,
      left: 'G to C',
    });
    expect(body.verdicts).toContainEqual({ trouble: 'landings', count: 1 });
    await request(server).post(`/api/songs/${songId}/takes`).send(take(74, 'clean')).expect(201);
    const again = (await log('/summary')).body;
    expect(again.songs[0].clean).toBe(74);
    expect(again.changes).toEqual([{ day: expect.any(String), change: 'G to C', ms: 600 }]);
  });

  it('plans an evening from that, and puts it into a calendar', async () => {
    const { body } = await log('/plan?minutes=20').expect(200);
    expect(
      body.items.reduce((sum: number, { minutes }: { minutes: number }) => sum + minutes, 0),
    ).toBe(20);
    expect(body.goals[0].says).toContain('Five clean evenings');
    const text = (
      await log('/plan.ics?minutes=20&from=2031-05-05&to=2031-05-12&days=4').expect(200)
    ).text;
    expect(text).toContain('BEGIN:VEVENT');
    await log('/plan.ics?from=2031-05-05&to=2031-05-05&days=4').expect(400);
  });

  it('rows are put right, taken out, and put back as they were', async () => {
    const changed = await request(server)
      .patch(`/api/log/${first.id}`)
      .send({ tempo: 71 })
      .expect(200);
    expect(changed.body.tempo).toBe(71);
    await request(server).delete(`/api/log/${first.id}`).expect(204);
    await request(server).delete(`/api/log/${first.id}`).expect(404);
    await request(server).put(`/api/log/${first.id}`).send(first).expect(201);
    await request(server).put(`/api/log/${first.id}`).send(first).expect(409);
    const { body } = await log('?verdict=landings');
    expect(body.entries).toEqual([first]);
  });

  it('a take that is deleted takes its row with it', async () => {
    const made = await request(server)
      .post(`/api/songs/${songId}/takes`)
      .send(take(60, 'clean'))
      .expect(201);
    const before = (await log('?kind=take')).body.total;
    await request(server).delete(`/api/songs/${songId}/takes/${made.body.id}`).expect(204);
    expect((await log('?kind=take')).body.total).toBe(before - 1);
  });

  it('takes rows of a file, all or none, and none twice', async () => {
    const rows = [
      { kind: 'practice', madeAt: '2025-05-08T19:00:00.000Z', song: 'weir', seconds: 1200 },
      {
        kind: 'take',
        madeAt: '2025-05-09T19:00:00.000Z',
        song: 'Elsewhere',
        tempo: 70,
        trouble: 'clean',
      },
    ];
    const many = (entries: object[]) => request(server).post('/api/log/many').send({ entries });
    await many([...rows, { kind: 'note' }]).expect(400);
    expect((await log('?from=2025-01-01&to=2025-12-31')).body.total).toBe(0);
    expect((await many(rows).expect(201)).body).toEqual({ added: 2, known: 0 });
    expect((await many(rows).expect(201)).body).toEqual({ added: 0, known: 2 });
    const long = Array.from({ length: 2500 }, (_, index) => ({
      kind: 'practice',
      madeAt: new Date(Date.UTC(1999, 0, 1, 0, index)).toISOString(),
      seconds: 60,
    }));
    expect((await many(long).expect(201)).body).toEqual({ added: 2500, known: 0 });
    const { entries } = (await log('?from=2025-01-01&to=2025-12-31')).body;
    expect(entries.map(({ songId: of }: Entry) => of)).toEqual([null, songId]);
    const csv = (await log('/export.csv').expect(200)).text;
    expect(csv.split('\r\n').length - 1).toBe((await log()).body.total);
    const json = (await log('/export.json').expect(200)).body;
    expect(json.entries).toHaveLength((await log()).body.total);
  });

  it.each([
    ['?kind=dance', 'kind'],
    ['?limit=1000', 'limit'],
    ['?after=nowhere', 'after'],
    ['?from=yesterday', 'from'],
    ['?song=1', 'song'],
    ['/plan?minutes=1', 'minutes'],
  ])('refuses %s and says what is wrong', async (query, place) => {
    const { body } = await log(query).expect(400);
    expect(body.problems[0].path).toBe(place);
  });

  it.each([
    [{ kind: 'note' }],
    [{ kind: 'take', tempo: 70 }],
    [{ kind: 'practice', seconds: -1 }],
    [{ kind: 'practice', seconds: 60, songId: 'x' }],
    [{ kind: 'practice', much: 1 }],
  ])('refuses the row %j', async (row) => {
    const before = (await log()).body.total;
    await add(row).expect(400);
    expect((await log()).body.total).toBe(before);
  });
});

describe('takes and timings of before there was a log', () => {
  it('get their rows when the database is migrated', async () => {
    const own = mkdtempSync(path.join(tmpdir(), 'plucky-log-before-'));
    const before = await openDatabase(own);
    await seedDemo(before);
    await before.takes.destroy({ where: {} });
    const song = (await before.songs.findOne())!;
    const at = new Date('2031-05-08T19:00:00.250Z');
    await before.takes.create({
      id: '00000000-0000-4000-8000-000000000001',
      songId: song.id,
      madeAt: at,
      tempo: 66,
      from: 1,
      to: 8,
      source: 'taps',
      trouble: 'clean',
      sentence: 'Clean.',
      rung: null,
      hands: null,
      judgement: '{}',
    });
    await before.sequelize.query('DROP TABLE entries');
    await before.sequelize.query('ALTER TABLE takes DROP COLUMN rung');
    await before.sequelize.query('ALTER TABLE takes DROP COLUMN hands');
    await before.sequelize.query("DELETE FROM SequelizeMeta WHERE name = '005-log'");
    await before.close();
    const after = await openDatabase(own);
    const rows = await after.entries.findAll({ where: { kind: 'take' } });
    expect(rows).toHaveLength(1);
    expect(rows[0]!.get()).toMatchObject({
      madeAt: at.getTime(),
      song: song.title,
      tempo: 66,
      whole: true,
    });
    expect(await after.entries.count({ where: { kind: 'change' } })).toBe(
      await after.changeTimes.count(),
    );
    await after.close();
    rmSync(own, { recursive: true });
  });
});

describe('the demo', () => {
  it('has six weeks of evenings, from which an estimate follows', async () => {
    const own = mkdtempSync(path.join(tmpdir(), 'plucky-log-demo-'));
    const demo = await openDatabase(own);
    await seedDemo(demo);
    const app = createApp({ database: demo, host: '127.0.0.1', log: pino({ level: 'silent' }) });
    const { body } = await request(app).get('/api/log/summary').expect(200);
    expect(body.evenings).toBeGreaterThanOrEqual(13);
    const ropes = body.songs.find(({ song }: { song: string }) => song === 'Ropes at First Light');
    expect(ropes).toMatchObject({ clean: 84, left: 'A to Bm' });
    const plan = (await request(app).get('/api/log/plan?minutes=40').expect(200)).body;
    expect(plan.items.length).toBeGreaterThanOrEqual(5);
    expect(plan.goals.some(({ likely }: { likely: string | null }) => likely !== null)).toBe(true);
    await demo.close();
    rmSync(own, { recursive: true });
  });
});

describe('what is remembered', () => {
  it('is counted once, and again after a write', async () => {
    const own = mkdtempSync(path.join(tmpdir(), 'plucky-remembered-'));
    const there = await openDatabase(own);
    const remember = rememberedIn(there.sequelize);
    let counted = 0;
    const ask = () =>
      remember('rows', async () => {
        counted += 1;
        return there.entries.count();
      });
    expect([await ask(), await ask(), counted]).toEqual([0, 0, 1]);
    const app = createApp({ database: there, host: '127.0.0.1', log: pino({ level: 'silent' }) });
    await request(app).post('/api/log').send({ kind: 'note', text: 'Oil the pegs.' }).expect(201);
    expect(await ask()).toBe(1);
    expect(counted).toBeGreaterThan(1);
    const failing = remember('never', () => Promise.reject(new Error('no')));
    await expect(failing).rejects.toThrow('no');
    expect(await remember('never', () => Promise.resolve(3))).toBe(3);
    await there.close();
    rmSync(own, { recursive: true });
  });
});

describe('lateness by slot', () => {
  it('is that of the last week against a month before, from takes that were heard', async () => {
    const own = mkdtempSync(path.join(tmpdir(), 'plucky-slots-'));
    const there = await openDatabase(own);
    await seedDemo(there);
    const round = (await there.songs.findOne({ where: { title: 'The Lamplighter’s Round' } }))!;
    const { slots } = await summaryOf(there, { song: round.id, zone: 0 });
    expect(slots.length).toBeGreaterThan(2);
    const first = slots[0]!;
    // The demo lands late at its changes a month ago, and no longer.
    expect(first.before! - first.now!).toBeGreaterThan(10);
    expect(describeSlots(slots)).toMatch(/ late a month ago, and .* now\.$/);
    const other = (await there.songs.findOne({ where: { title: 'Mooring Pins' } }))!;
    expect((await summaryOf(there, { song: other.id, zone: 0 })).slots).toEqual([]);
    expect((await summaryOf(there, { zone: 0 })).slots).toEqual([]);
    await there.close();
    rmSync(own, { recursive: true });
  });
});
