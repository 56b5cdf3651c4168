import { chmodSync, mkdtempSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs';
import type { Server } from 'node:http';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Song } from '#core/schema';
import { newSong } from '#core/song';
import { pino } from 'pino';
import request from 'supertest';
import { describe, expect, it } from 'vitest';
import { createApp } from './app';
import { openDatabase } from './database';
import { seedDemo } from './demo/seed';
import { startSentence, storageSentence } from './storage';

/** The data folder: what is found in it, what is said of it, and a disk that fails. */

const log = pino({ level: 'silent' });
const song: Song = newSong({ title: 'Sill', instrument: 'guitar', progression: 'A | D E7' });

describe('the data folder', () => {
  const made = () => mkdtempSync(path.join(tmpdir(), 'plucky-folder-'));
  const file = (folder: string) => path.join(folder, 'plucky-wrist.sqlite');
  const why = async (folder: string) =>
    openDatabase(folder).then(
      () => 'it started',
      (error: Error) => error.message,
    );

  it('is readable by its owner alone', async () => {
    const other = made();
    writeFileSync(file(other), '', { mode: 0o644 });
    chmodSync(file(other), 0o644);
    await (await openDatabase(other)).close();
    expect(statSync(file(other)).mode & 0o077).toBe(0);
    rmSync(other, { recursive: true });
  });

  it('that is empty beside a copy is not started anew without a word', async () => {
    const other = made();
    writeFileSync(file(other), '');
    writeFileSync(path.join(other, 'day-2031-05-08.sqlite'), 'a copy');
    expect(await why(other)).toMatch(/is empty, and the copy day-2031-05-08\.sqlite beside it/);
    expect(statSync(file(other)).size).toBe(0);
    rmSync(file(other));
    await (await openDatabase(other)).close();
    rmSync(other, { recursive: true });
  });

  it('is not opened where a later version wrote it, and says which', async () => {
    const other = made();
    const first = await openDatabase(other);
    await first.sequelize.query("INSERT INTO SequelizeMeta (name) VALUES ('999-later')");
    await first.sequelize.query("UPDATE about SET value = '9.9.0' WHERE name = 'version'");
    await first.close();
    expect(await why(other)).toMatch(
      /later version of Plucky Wrist, 9\.9\.0; .* start version 9\.9\.0 or newer/,
    );
    rmSync(other, { recursive: true });
  });

  it('is begun again after a migration that failed, with one copy and no more', async () => {
    const other = made();
    const first = await openDatabase(other);
    await seedDemo(first);
    await first.sequelize.query("DELETE FROM SequelizeMeta WHERE name = '002-about'");
    await first.sequelize.query('DROP TABLE about');
    // Something is in the way of the last step of the migration.
    await first.sequelize.query(
      "CREATE TRIGGER broken BEFORE INSERT ON SequelizeMeta BEGIN SELECT RAISE(ABORT, 'no'); END",
    );
    await first.close();
    for (let start = 0; start < 3; start += 1) expect(await why(other)).not.toBe('it started');
    expect(readdirSync(other).filter((name) => name.startsWith('before-'))).toHaveLength(1);
    const { Sequelize } = await import('sequelize');
    const raw = new Sequelize({ dialect: 'sqlite', storage: file(other), logging: false });
    await raw.query('DROP TRIGGER broken');
    const [tables] = await raw.query("SELECT 1 FROM sqlite_master WHERE name = 'about'");
    expect(tables).toEqual([]);
    await raw.close();
    const again = await openDatabase(other);
    expect(await again.songs.count()).toBeGreaterThan(0);
    await again.close();
    rmSync(other, { recursive: true });
  });

  it('is opened by two first starts at once', async () => {
    const other = made();
    const both = await Promise.all([openDatabase(other), openDatabase(other)]);
    await Promise.all(both.map((database) => seedDemo(database)));
    expect(await both[0].songs.count()).toBe(await both[1].songs.count());
    await Promise.all(both.map((database) => database.close()));
    rmSync(other, { recursive: true });
  });

  it('says in a sentence what is wrong with the file, and leaves it', async () => {
    const other = made();
    writeFileSync(
      file(other),
      'These are no songs at all, but a letter to the lock keeper. '.repeat(40),
    );
    expect(await why(other)).toMatch(/is not a database of this app\. It was left as it is/);
    writeFileSync(file(other), '');
    writeFileSync(`${file(other)}-wal`, 'x'.repeat(5000));
    expect(await why(other)).toMatch(/is empty, but the journal beside it still holds songs/);
    expect(statSync(`${file(other)}-wal`).size).toBe(5000);
    rmSync(other, { recursive: true });
    const inTheWay = path.join(made(), 'file');
    writeFileSync(inTheWay, '');
    expect(await why(inTheWay)).toMatch(/the data folder must be a folder/);
  });

  it('says so where pages of the file are damaged, and names the copy', async () => {
    const other = made();
    const first = await openDatabase(other);
    await seedDemo(first);
    await first.close();
    const { size } = statSync(file(other));
    const bytes = (await import('node:fs')).readFileSync(file(other));
    bytes.fill(0xa5, 4096, size);
    writeFileSync(file(other), bytes);
    writeFileSync(path.join(other, 'before-002-about.sqlite'), 'a copy');
    expect(await why(other)).toMatch(/is damaged\. .* rename before-002-about\.sqlite/);
    rmSync(other, { recursive: true });
  });

  it('has a sentence for everything that storage may answer', () => {
    for (const code of [
      'SQLITE_FULL',
      'SQLITE_READONLY',
      'SQLITE_IOERR',
      'SQLITE_BUSY',
      'ENOSPC',
    ]) {
      expect(storageSentence({ original: { code } })?.sentence, code).toMatch(/^[A-Z].*\.$/);
    }
    for (const code of ['SQLITE_NOTADB', 'SQLITE_CORRUPT', 'EACCES', 'EROFS', 'SQLITE_FULL']) {
      const sentence = startSentence(code, '/data/songs.sqlite', [])!;
      expect(sentence, code).toContain('/data/songs.sqlite');
      expect(sentence, code).not.toContain(code);
    }
    expect(storageSentence(new Error('of another kind'))).toBeNull();
  });
});

describe('while the disk fails', () => {
  it('a write is answered with what to do, and health is not ok without its tables', async () => {
    const other = mkdtempSync(path.join(tmpdir(), 'plucky-full-'));
    const full = await openDatabase(other);
    const app = createApp({ database: full, host: '127.0.0.1', log });
    const listening = await new Promise<Server>((resolve) => {
      const made = app.listen(0, '127.0.0.1', () => resolve(made));
    });
    const sent = () => request(listening).post('/api/songs').send({ document: song });
    await sent().expect(201);
    const [[pages]] = (await full.sequelize.query('PRAGMA page_count')) as [
      { page_count: number }[],
      unknown,
    ];
    await full.sequelize.query(`PRAGMA max_page_count = ${pages!.page_count}`);
    const title = 'x'.repeat(100);
    const large = { ...song, ownShapes: [], sections: song.sections, title };
    let answer = await sent();
    for (let more = 0; more < 40 && answer.status === 201; more += 1) {
      answer = await request(listening).post('/api/songs').send({ document: large });
    }
    expect(answer.status).toBe(507);
    expect(answer.body.error).toMatch(/^The disk is full, so this could not be saved/);
    await request(listening).get('/api/songs').expect(200);
    await full.sequelize.query('DROP TABLE patterns');
    const health = await request(listening).get('/api/health');
    expect(health.status).toBeGreaterThanOrEqual(500);
    await new Promise((resolve) => listening.close(resolve));
    await full.close();
    rmSync(other, { recursive: true });
  });
});
