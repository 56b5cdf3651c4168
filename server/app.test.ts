import { copyFileSync, mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import type { Server } from 'node:http';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Song, SongSummary } from '#core/schema';
import { METERS } from '#core/time';
import { newPattern } from '#core/pattern';
import { INSTRUMENT_IDS, INSTRUMENTS } from '#core/neck';
import { newSong } from '#core/song';
import { performanceSchema } from '#core/arrange';
import { pino } from 'pino';
import request from 'supertest';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createApp } from './app';
import { type Database, openDatabase } from './database';
import { demoSongs } from './demo/songs';
import { seedDemo } from './demo/seed';

const folder = mkdtempSync(path.join(tmpdir(), 'plucky-'));
const log = pino({ level: 'silent' });
let database: Database;
let server: Server;

async function listen(): Promise<void> {
  database = await openDatabase(folder);
  const app = createApp({ database, host: '127.0.0.1', log });
  await new Promise<void>((resolve) => {
    server = app.listen(0, '127.0.0.1', () => resolve());
  });
}

async function stop(): Promise<void> {
  await new Promise((resolve) => server.close(resolve));
  await database.close();
}

beforeAll(listen);
afterAll(async () => {
  await stop();
  rmSync(folder, { recursive: true });
});

const song: Song = newSong({ title: 'Gate’s Open', instrument: 'guitar', progression: 'A | D E7' });
const create = async (document: unknown = song) =>
  (await request(server).post('/api/songs').send({ document }).expect(201)).body;

describe('songs', () => {
  it('are made, listed, read, replaced and deleted', async () => {
    const stored = await create();
    expect(stored).toMatchObject({ revision: 1, document: song });
    const list = await request(server).get('/api/songs').expect(200);
    const { glance, ...listed } = (list.body as SongSummary[]).find(({ id }) => id === stored.id)!;
    expect(glance!.chords).toEqual(['A', 'D', 'E7']);
    expect(glance!.arm).toMatch(/^M/);
    expect(listed).toEqual({
      id: stored.id,
      revision: 1,
      updatedAt: stored.updatedAt,
      title: song.title,
      instrument: 'Guitar',
      meter: '4/4',
      tempo: 80,
    });
    const edited = { ...song, tempo: 96 };
    const put = await request(server)
      .put(`/api/songs/${stored.id}`)
      .send({ revision: 1, document: edited })
      .expect(200);
    expect(put.body).toEqual({
      id: stored.id,
      revision: 2,
      updatedAt: expect.stringMatching(/Z$/),
    });
    const read = await request(server).get(`/api/songs/${stored.id}`).expect(200);
    expect(read.body).toEqual({ ...put.body, document: edited });
    await request(server).delete(`/api/songs/${stored.id}`).expect(204);
    await request(server).get(`/api/songs/${stored.id}`).expect(404);
    await request(server).delete(`/api/songs/${stored.id}`).expect(404);
  });

  it('refuse a stale revision with the current document, and keep it', async () => {
    const { id } = await create();
    const send = (revision: number, title: string) =>
      request(server)
        .put(`/api/songs/${id}`)
        .send({ revision, document: { ...song, title } });
    await send(1, 'First hand').expect(200);
    const stale = await send(1, 'Second hand').expect(409);
    expect(stale.body.current).toMatchObject({ revision: 2, document: { title: 'First hand' } });
    const read = await request(server).get(`/api/songs/${id}`);
    expect(read.body.document.title).toBe('First hand');
  });

  it('let exactly one of many writers of one revision through', async () => {
    const { id } = await create();
    const answers = await Promise.all(
      Array.from({ length: 8 }, (_, index) =>
        request(server)
          .put(`/api/songs/${id}`)
          .send({ revision: 1, document: { ...song, tempo: 60 + index } }),
      ),
    );
    expect(answers.map((answer) => answer.status).sort()).toEqual([200, ...Array(7).fill(409)]);
  });

  it('outlive the server', async () => {
    const { id } = await create({ ...song, title: 'Still here' });
    await stop();
    await listen();
    const read = await request(server).get(`/api/songs/${id}`).expect(200);
    expect(read.body.document.title).toBe('Still here');
  });

  it('keep a title as text, whatever is in it', async () => {
    const title = '<img src=x> “O’Lock”; DROP TABLE songs';
    const { id } = await create({ ...song, title });
    const read = await request(server).get(`/api/songs/${id}`);
    expect(read.body.document.title).toBe(title);
    const file = await request(server).get(`/api/songs/${id}/export.mid`).expect(200);
    expect(file.headers['content-disposition']).toBe(
      'attachment; filename=img-srcx-OLock-DROP-TABLE-songs.mid',
    );
  });

  it('are arranged and exported', async () => {
    const { id } = await create();
    const arranged = await request(server).get(`/api/songs/${id}/performance`).expect(200);
    const performance = performanceSchema.parse(arranged.body);
    expect(performance.landings.map((landing) => landing.symbol)).toEqual(['A', 'D', 'E7']);
    expect(performance.strikes).toHaveLength(8);
    const midi = await request(server).get(`/api/songs/${id}/export.mid`).expect(200);
    expect(midi.headers['content-type']).toContain('audio/midi');
    expect(midi.body.subarray(0, 4).toString()).toBe('MThd');
    await request(server).get('/api/songs/none/performance').expect(404);
  });
});

describe('patterns', () => {
  it('are made, listed, replaced and deleted', async () => {
    const document = newPattern(METERS['6/8'], 'Slow rock');
    const made = await request(server).post('/api/patterns').send({ document }).expect(201);
    const list = await request(server).get('/api/patterns').expect(200);
    expect(list.body).toEqual([made.body]);
    const named = { ...document, name: 'Slower rock' };
    await request(server)
      .put(`/api/patterns/${made.body.id}`)
      .send({ revision: 1, document: named })
      .expect(200);
    await request(server)
      .put(`/api/patterns/${made.body.id}`)
      .send({ revision: 1, document })
      .expect(409);
    await request(server).delete(`/api/patterns/${made.body.id}`).expect(204);
  });
});

describe('shapes', () => {
  it('come with pitches, strings and the bass note, capo included', async () => {
    const { body } = await request(server)
      .get('/api/shapes?instrument=ukulele&chord=C&capo=2')
      .expect(200);
    expect(body.notes).toEqual(['C', 'E', 'G']);
    expect(body.shapes[0]).toMatchObject({
      frets: [0, 0, 0, 3],
      pitches: [69, 62, 66, 74],
      strings: 'all 4 strings',
      bass: { string: 1, fret: 0, midi: 62, words: 'C string, open' },
    });
  });

  it.each([
    ['instrument=harp&chord=C', 'instrument'],
    ['instrument=guitar', 'chord'],
    ['instrument=guitar&chord=Hm', 'chord'],
    ['instrument=guitar&chord=C&capo=99', 'capo'],
    ['instrument=guitar&chord=C&key=G', 'key'],
  ])('refuse %s and name the field', async (query, field) => {
    const { body } = await request(server).get(`/api/shapes?${query}`).expect(400);
    expect(body.problems[0].path).toBe(field);
  });
});

describe('bad requests', () => {
  it.each([
    [{ ...song, tempo: 900 }, 'document.tempo'],
    [{ ...song, title: '  ' }, 'document.title'],
    [{ ...song, colour: 'red' }, 'document.colour'],
    [{ ...song, meter: { beats: 4, unit: 4, groups: [3] } }, 'document.meter.groups'],
    [
      {
        ...song,
        sections: [
          {
            name: '',
            lines: [{ bars: [{ chords: [{ at: -1, push: 0, symbol: 'A' }] }], times: 1 }],
          },
        ],
      },
      'document.sections[0].lines[0].bars[0].chords[0].at',
    ],
  ])('are refused with the path of the field (%#), and change nothing', async (document, field) => {
    const { id } = await create();
    const { body } = await request(server)
      .put(`/api/songs/${id}`)
      .send({ revision: 1, document })
      .expect(400);
    expect(body.problems[0].path).toBe(field);
    const read = await request(server).get(`/api/songs/${id}`);
    expect(read.body).toMatchObject({ revision: 1, document: song });
  });

  it('are refused when they are not JSON, too large, or go nowhere', async () => {
    const post = () => request(server).post('/api/songs').set('Content-Type', 'application/json');
    await post().send('{"document": ').expect(400);
    const large = JSON.stringify({ document: { ...song, title: 'x'.repeat(1_100_000) } });
    const { body } = await post().send(large).expect(413);
    expect(body.error).toContain('1 MB');
    await request(server).get('/api/nowhere').expect(404);
    await request(server).post('/api/songs').expect(400);
  });

  it('are refused from a foreign Host or Origin', async () => {
    const { port } = server.address() as { port: number };
    await request(server).get('/api/songs').set('Host', 'canal.example').expect(403);
    await request(server)
      .get('/api/songs')
      .set('Host', `127.0.0.1:${port + 1}`)
      .expect(403);
    await request(server).get('/api/songs').set('Origin', 'http://canal.example').expect(403);
    await request(server).get('/api/songs').set('Origin', 'null').expect(403);
    await request(server).get('/api/songs').set('Origin', `http://localhost:${port}`).expect(200);
  });
});

describe('instruments of the player’s own', () => {
  it('are kept, listed, and taken away', async () => {
    const instrument = { ...INSTRUMENTS.guitar, name: 'Tin boat', strings: [50, 55, 59, 62] };
    const made = await request(server).post('/api/instruments').send({ instrument }).expect(201);
    expect((await request(server).get('/api/instruments')).body).toEqual([made.body]);
    await request(server)
      .post('/api/instruments')
      .send({ instrument: { name: 'x' } })
      .expect(400);
    await request(server).delete(`/api/instruments/${made.body.id}`).expect(204);
    await request(server).delete(`/api/instruments/${made.body.id}`).expect(404);
    expect((await request(server).get('/api/instruments')).body).toEqual([]);
  });
});

describe('the database', () => {
  it('answers for its health and sends a strict content policy', async () => {
    const { headers } = await request(server).get('/api/health').expect(200, { status: 'ok' });
    expect(headers['content-security-policy']).toContain("default-src 'self'");
    expect(headers['content-security-policy']).not.toContain("script-src 'unsafe");
  });

  it('keeps a copy before it is migrated', async () => {
    const other = mkdtempSync(path.join(tmpdir(), 'plucky-old-'));
    const first = await openDatabase(other);
    await seedDemo(first);
    await first.sequelize.query('DELETE FROM SequelizeMeta');
    await first.sequelize.query('ALTER TABLE songs RENAME TO kept_songs');
    await first.sequelize.query('ALTER TABLE patterns RENAME TO kept_patterns');
    await first.sequelize.query('DROP INDEX songs_title');
    await first.sequelize.query('DROP INDEX patterns_name');
    await first.sequelize.query('DROP TABLE change_times');
    await first.sequelize.query('DROP TABLE takes');
    await first.sequelize.query('DROP TABLE take_sounds');
    await first.sequelize.query('DROP TABLE entries');
    await first.sequelize.query('DROP TABLE instruments');
    await first.close();
    await (await openDatabase(other)).close();
    const copy = readdirSync(other).find((file) => file.startsWith('before-001'))!;
    const opened = path.join(other, 'copy');
    rmSync(opened, { recursive: true, force: true });
    copyFileSync(path.join(other, copy), path.join(other, 'check.sqlite'));
    const again = new (await import('sequelize')).Sequelize({
      dialect: 'sqlite',
      storage: path.join(other, 'check.sqlite'),
      logging: false,
    });
    const [[count]] = await again.query('SELECT COUNT(*) AS songs FROM kept_songs');
    expect(count).toEqual({ songs: demoSongs.length });
    await again.close();
    rmSync(other, { recursive: true });
  });

  it('is seeded with the demo songs once', async () => {
    const other = mkdtempSync(path.join(tmpdir(), 'plucky-demo-'));
    const demo = await openDatabase(other);
    await seedDemo(demo);
    await seedDemo(demo);
    expect(await demo.songs.count()).toBe(demoSongs.length);
    await demo.close();
    rmSync(other, { recursive: true });
  });
});

describe('the demo songs', () => {
  it('have chords that can all be held, and an arm that goes with them', async () => {
    const { fretChord } = await import('#core/neck');
    const { armReport } = await import('#core/pattern');
    const { songChords } = await import('#core/song');
    for (const demo of demoSongs) {
      for (const symbol of songChords(demo)) expect(fretChord(symbol, demo), symbol).not.toBeNull();
      expect(armReport(demo.pattern, demo.tempo).findings, demo.title).toEqual([]);
    }
  });
});

describe('the web app', () => {
  const web = mkdtempSync(path.join(tmpdir(), 'plucky-web-'));
  const page = '<meta property="csp-nonce" nonce="__CSP_NONCE__"><p>Plucky</p>';
  let withWeb: Server;

  beforeAll(async () => {
    mkdirSync(path.join(web, 'assets'));
    writeFileSync(path.join(web, 'index.html'), page);
    writeFileSync(path.join(web, 'assets', 'app-1a2b.js'), 'export {};');
    const app = createApp({ database, host: '127.0.0.1', log, web });
    await new Promise<void>((resolve) => {
      withWeb = app.listen(0, '127.0.0.1', () => resolve());
    });
  });
  afterAll(async () => {
    await new Promise((resolve) => withWeb.close(resolve));
    rmSync(web, { recursive: true });
  });

  it('has the shelf asked for ahead where the shelf is shown, and nowhere else', async () => {
    const asked = async (address: string) =>
      (await request(withWeb).get(address).set('Accept', 'text/html').expect(200)).headers.link;
    expect(await asked('/')).toBe(
      '</api/songs>; rel=preload; as=fetch; crossorigin=anonymous, </api/patterns>; rel=preload; as=fetch; crossorigin=anonymous',
    );
    expect(await asked('/songs/any/strum')).toBeUndefined();
  });

  it('is one page at every address, with a nonce of its own each time', async () => {
    const nonces = new Set<string>();
    for (const address of ['/', '/songs/some-id/strum', '/new']) {
      const { text, headers } = await request(withWeb)
        .get(address)
        .set('Accept', 'text/html')
        .expect(200);
      const nonce = /nonce="([^"]+)"/.exec(text)![1]!;
      expect(headers['content-security-policy']).toContain(`'nonce-${nonce}'`);
      expect(headers['cache-control']).toBe('no-store');
      nonces.add(nonce);
    }
    expect(nonces.size).toBe(3);
  });

  it('lets files with a hash in their name be kept, and asks again for the others', async () => {
    const script = await request(withWeb).get('/assets/app-1a2b.js').expect(200);
    expect(script.headers['cache-control']).toContain('immutable');
    await request(withWeb).get('/assets/gone.js').set('Accept', '*/*;q=0').expect(404);
    await request(withWeb).get('/../server/index.js').set('Accept', 'application/json').expect(404);
  });

  it('does not answer for the API', async () => {
    const { body } = await request(withWeb)
      .get('/api/nowhere')
      .set('Accept', 'text/html')
      .expect(404);
    expect(body.error).toContain('/api/nowhere');
    await request(withWeb).post('/songs/some-id').expect(404);
  });
});

describe('instruments', () => {
  it('each answer for the shapes of a chord, all sounding it', async () => {
    for (const id of INSTRUMENT_IDS) {
      const { body } = await request(server)
        .get(`/api/shapes?instrument=${id}&chord=Dm&capo=1`)
        .expect(200);
      expect(body.shapes.length, id).toBeGreaterThan(0);
      const offset = 1 + INSTRUMENTS[id].offset;
      for (const shape of body.shapes) {
        const tones = shape.pitches
          .filter((pitch: number | null) => pitch !== null)
          .map((pitch: number) => (pitch - offset) % 12);
        expect(
          tones.every((tone: number) => [2, 5, 9].includes(tone)),
          id,
        ).toBe(true);
      }
    }
  });

  it('of the player’s own are kept with the song, and played', async () => {
    const own = {
      name: 'Lock five',
      family: 'ukulele',
      strings: [67, 50, 55, 59, 62],
      frets: 17,
      offset: 0,
    };
    const shape = { frets: [null, 0, 2, 3, 4], fingers: [0, 0, 1, 2, 3] };
    const document = {
      ...song,
      instrument: own,
      sections: [
        { name: '', lines: [{ bars: [{ chords: [{ at: 0, push: 0, symbol: 'D' }] }], times: 1 }] },
      ],
      ownShapes: [{ symbol: 'D', shape }],
      chosenShapes: [{ symbol: 'D', shape, locked: true }],
    };
    const { id } = await create(document);
    const arranged = await request(server).get(`/api/songs/${id}/performance`).expect(200);
    const pitches = arranged.body.strikes[0].notes.map((note: { midi: number }) => note.midi);
    expect(pitches).toEqual([50, 57, 62, 66]);
    const listed = await request(server).get('/api/songs');
    expect(listed.body.find((row: { id: string }) => row.id === id).instrument).toBe('Lock five');
  });

  it.each([
    [{ strings: [60, 64] }, 'document.instrument.strings'],
    [{ strings: [60, 64, 1] }, 'document.instrument.strings[2]'],
    [{ frets: 2 }, 'document.instrument.frets'],
    [{ family: 'harp' }, 'document.instrument.family'],
  ])('that cannot be are refused: %j', async (wrong, field) => {
    const document = { ...song, instrument: { ...song.instrument, ...wrong } };
    const { body } = await request(server).post('/api/songs').send({ document }).expect(400);
    expect(body.problems[0].path).toBe(field);
  });
});
