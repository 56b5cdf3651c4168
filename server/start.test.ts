import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { start } from './start';

const folder = mkdtempSync(path.join(tmpdir(), 'plucky-start-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const begin = (env: Record<string, string>, demo = false) =>
  start({
    env: { PORT: '0', PLUCKY_DATA: folder, ...env },
    demo,
    built: path.join(folder, 'built'),
    logLevel: 'silent',
  });

describe('a start', () => {
  it('brings the demo songs, tells where it listens, and ends when asked', async () => {
    const running = begin({}, true);
    const url = await running.url;
    expect(url).toMatch(/^http:\/\/127\.0\.0\.1:\d+$/);
    const songs = (await (await fetch(`${url}/api/songs`)).json()) as unknown[];
    expect(songs.length).toBeGreaterThan(4);
    await running.stop();
    await expect(fetch(`${url}/api/songs`)).rejects.toThrow();
  });

  it('can be stopped before it listens', async () => {
    const running = begin({});
    await running.stop();
    expect(await running.url).toBeNull();
    await running.stop();
  });

  it('refuses a setting that cannot be used by its name, and a port that is taken by its code', async () => {
    expect(() => begin({ PORT: 'harbour' })).toThrow(/^PORT cannot be used: /);
    expect(() => begin({ PORT: '70000' })).toThrow(/^PORT cannot be used: /);
    const first = begin({});
    const { port } = new URL((await first.url)!);
    const second = begin({ PORT: port });
    await expect(second.url).rejects.toMatchObject({ code: 'EADDRINUSE' });
    await second.stop();
    await first.stop();
  });

  it('says in a sentence where the data folder cannot be used', async () => {
    const running = begin({ PLUCKY_DATA: '/dev/null/songs' });
    await expect(running.url).rejects.toThrow(/\/dev\/null\/songs/);
    await running.stop();
  });
});
