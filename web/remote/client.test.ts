import { METERS } from '#core/time';
import { newPattern } from '#core/pattern';
import { newSong } from '#core/song';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { api, Away, Refused } from './client';

const answer = (status: number, body?: unknown) =>
  vi.stubGlobal(
    'fetch',
    vi.fn(async () => new Response(body === undefined ? null : JSON.stringify(body), { status })),
  );

const stored = {
  id: 'a b',
  revision: 3,
  updatedAt: '2026-11-24T20:00:00.000Z',
  document: newSong({ title: 'Sill', instrument: 'ukulele', progression: 'C' }),
};

afterEach(() => vi.unstubAllGlobals());

describe('the client', () => {
  it('asks for the right thing and checks what comes back', async () => {
    const written = { id: 'a b', revision: 3, updatedAt: stored.updatedAt };
    answer(200, written);
    expect(await api.replaceSong('a b', 2, stored.document, true)).toEqual(written);
    const [path, options] = vi.mocked(fetch).mock.calls[0]!;
    expect(path).toBe('/api/songs/a%20b');
    expect(options).toMatchObject({ method: 'PUT', keepalive: true });
    expect(JSON.parse(String(options!.body))).toEqual({ revision: 2, document: stored.document });
    answer(200, { ...stored, revision: 'three' });
    await expect(api.readSong('a')).rejects.toThrow();
  });

  it('takes no content for an answer', async () => {
    answer(204);
    await expect(api.deleteSong('a')).resolves.toBeNull();
    answer(201, { ...stored, document: newPattern(METERS['3/4']) });
    await expect(api.createPattern(newPattern(METERS['3/4']))).resolves.toMatchObject({
      revision: 3,
    });
  });

  it('tells a refusal, with its reason and the current document, from a server that is away', async () => {
    answer(409, { error: 'changed elsewhere', current: stored });
    const refused = await api.replaceSong('a', 1, stored.document).catch((error: unknown) => error);
    expect(refused).toBeInstanceOf(Refused);
    expect(refused).toMatchObject({ status: 409, message: 'changed elsewhere', current: stored });
    answer(500, 'no words');
    await expect(api.listSongs()).rejects.toMatchObject({ status: 500 });
    answer(502, 'bad gateway');
    await expect(api.listSongs()).rejects.toBeInstanceOf(Away);
    vi.stubGlobal('fetch', () => Promise.reject(new TypeError('network')));
    await expect(api.listPatterns()).rejects.toBeInstanceOf(Away);
  });
});
