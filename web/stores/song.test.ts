// @vitest-environment happy-dom
import type { Song, StoredSong } from '#core/schema';
import { newSong } from '#core/song';
import { commands } from '#core/edit';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { api, Away, Refused } from '../remote/client';
import { findDraft, keepDraft } from './drafts';
import { useSongStore } from './song';

const document: Song = newSong({
  title: 'Winding hole',
  instrument: 'guitar',
  progression: 'G | C',
});
const stored = (revision: number, song: Song = document): StoredSong => ({
  id: 'one',
  revision,
  updatedAt: '2026-11-24T20:00:00.000Z',
  document: song,
});

/** A server that keeps one song and can be taken away. */
function fakeServer() {
  const server = {
    now: stored(1),
    away: false,
    full: false,
    writes: [] as number[],
    created: [] as Song[],
  };
  vi.spyOn(api, 'readSong').mockImplementation(async () => {
    if (server.away) throw new Away();
    return server.now;
  });
  vi.spyOn(api, 'createSong').mockImplementation(async (song) => {
    server.created.push(song);
    return { ...stored(1, song), id: 'two' };
  });
  vi.spyOn(api, 'replaceSong').mockImplementation(async (_id, revision, song) => {
    if (server.away) throw new Away();
    if (revision !== server.now.revision) throw new Refused(409, 'stale', server.now);
    if (song.tempo === 299) throw new Refused(400, 'Nothing was changed: tempo', undefined);
    server.writes.push(revision);
    if (server.full) throw new Refused(507, 'The disk is full.', undefined);
    server.now = stored(revision + 1, song);
    const { document: _, ...written } = server.now;
    return written;
  });
  return server;
}

let server: ReturnType<typeof fakeServer>;
const tempo = (value: number) => commands.setTempo(value);
const wait = (ms: number) => vi.advanceTimersByTimeAsync(ms);

beforeEach(() => {
  vi.useFakeTimers();
  localStorage.clear();
  setActivePinia(createPinia());
  server = fakeServer();
});

afterEach(() => {
  useSongStore().$dispose();
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
  vi.useRealTimers();
});

describe('saving', () => {
  it('sends an edit by itself, and many edits as one', async () => {
    const songs = useSongStore();
    await songs.open('one');
    for (const value of [81, 82, 83]) songs.run(tempo(value), true);
    expect(songs.state).toBe('saving');
    await wait(1000);
    expect(server.writes).toEqual([1]);
    expect(server.now.document.tempo).toBe(83);
    expect(songs.state).toBe('saved');
    expect(localStorage).toHaveLength(0);
  });

  it('does not wait for ever while someone goes on typing', async () => {
    const songs = useSongStore();
    await songs.open('one');
    for (let edit = 0; edit < 20; edit += 1) {
      songs.run(tempo(60 + edit));
      await wait(100);
    }
    expect(server.writes.length).toBeGreaterThanOrEqual(1);
    expect(server.writes.length).toBeLessThan(5);
    expect(findDraft('one')?.document.tempo ?? server.now.document.tempo).toBeGreaterThan(70);
  });

  it('sends what is edited while an earlier edit is on its way', async () => {
    const songs = useSongStore();
    await songs.open('one');
    songs.run(tempo(90));
    const first = songs.flush();
    songs.run(tempo(91));
    await first;
    await wait(1000);
    expect(server.now).toMatchObject({ revision: 3, document: { tempo: 91 } });
  });

  it('sends an undo like any edit', async () => {
    const songs = useSongStore();
    await songs.open('one');
    songs.run(tempo(90));
    await songs.flush();
    expect(songs.undoName).toBe('change the tempo');
    songs.stepBack();
    await songs.flush();
    expect(server.now).toMatchObject({ revision: 3, document: { tempo: document.tempo } });
    songs.stepForth();
    expect(songs.song?.tempo).toBe(90);
  });

  it('undoes typing in a field as one step, and a later change of it as another', async () => {
    const songs = useSongStore();
    await songs.open('one');
    for (const value of [81, 82, 83]) songs.run(tempo(value), true);
    await wait(5000);
    for (const value of [91, 92]) songs.run(tempo(value), true);
    songs.stepBack();
    expect(songs.song?.tempo).toBe(83);
    songs.stepBack();
    expect(songs.song?.tempo).toBe(document.tempo);
    expect(songs.undoName).toBeNull();
  });

  it('says what the server refused and keeps it in the browser', async () => {
    const songs = useSongStore();
    await songs.open('one');
    songs.run(tempo(299));
    await songs.flush();
    expect(songs.state).toBe('refused');
    expect(songs.notice).toContain('tempo');
    expect(findDraft('one')?.document.tempo).toBe(299);
    songs.run(tempo(98));
    await songs.flush();
    expect(songs.state).toBe('saved');
  });
});

describe('while the server is away', () => {
  it('keeps a draft and sends it when the server is back', async () => {
    const songs = useSongStore();
    await songs.open('one');
    server.away = true;
    songs.run(tempo(97));
    await wait(1000);
    expect(songs.state).toBe('away');
    expect(findDraft('one')).toMatchObject({ revision: 1, document: { tempo: 97 } });
    server.away = false;
    await wait(3000);
    expect(songs.state).toBe('saved');
    expect(server.now.document.tempo).toBe(97);
    expect(findDraft('one')).toBeNull();
  });

  it('says at once where the browser has no room either, asks on leaving, and sends it later', async () => {
    vi.stubGlobal('localStorage', {
      getItem: () => null,
      removeItem: () => undefined,
      setItem: () => {
        throw new DOMException('full', 'QuotaExceededError');
      },
    });
    const leaving = () => {
      const event = new Event('beforeunload', { cancelable: true });
      window.dispatchEvent(event);
      return event.defaultPrevented;
    };
    const songs = useSongStore();
    await songs.open('one');
    server.away = true;
    songs.run(tempo(97));
    await wait(1000);
    expect([songs.state, songs.onlyHere, leaving()]).toEqual(['away', true, true]);
    // Another song is opened and left: the edit is still there.
    expect(findDraft('one')).toMatchObject({ revision: 1, document: { tempo: 97 } });
    server.away = false;
    await wait(6000);
    expect(server.now.document.tempo).toBe(97);
    expect([songs.state, songs.onlyHere, leaving()]).toEqual(['saved', false, false]);
  });

  it('brings a draft back on opening, and sends it', async () => {
    keepDraft('one', 1, { ...document, tempo: 96 });
    const songs = useSongStore();
    await songs.open('one');
    expect(songs.song?.tempo).toBe(96);
    expect(server.now).toMatchObject({ revision: 2, document: { tempo: 96 } });
    expect(findDraft('one')).toBeNull();
  });

  it('drops a draft that says nothing new, and one that cannot be read', async () => {
    keepDraft('one', 1, document);
    const songs = useSongStore();
    await songs.open('one');
    expect(songs.state).toBe('saved');
    expect(server.writes).toEqual([]);
    localStorage.setItem('plucky-wrist:draft:two', '{"revision": 1, "document": {}}');
    expect(findDraft('two')).toBeNull();
    localStorage.setItem('plucky-wrist:draft:two', 'not JSON');
    expect(findDraft('two')).toBeNull();
  });
});

describe('where two versions have parted', () => {
  async function part(): Promise<ReturnType<typeof useSongStore>> {
    const songs = useSongStore();
    await songs.open('one');
    server.now = stored(2, { ...document, title: 'Theirs' });
    songs.run(commands.setTitle('Mine'));
    await songs.flush();
    return songs;
  }

  it('stops, overwrites nothing, and keeps both', async () => {
    const songs = await part();
    expect(songs.state).toBe('conflict');
    expect(server.now.document.title).toBe('Theirs');
    expect(songs.song?.title).toBe('Mine');
    songs.run(tempo(77));
    await wait(3000);
    expect(server.now.document.title).toBe('Theirs');
    expect(findDraft('one')?.document.title).toBe('Mine');
  });

  it('goes on with mine where the player says so', async () => {
    const songs = await part();
    await songs.keepMine();
    expect(server.now).toMatchObject({ revision: 3, document: { title: 'Mine' } });
    expect(server.created.map((song) => song.title)).toEqual(['Theirs (other window)']);
    expect(songs.state).toBe('saved');
  });

  it('takes the other and keeps mine as a song of its own', async () => {
    const songs = await part();
    await songs.keepBoth();
    expect(server.created.map((song) => song.title)).toEqual(['Mine (my copy)']);
    expect(songs.song?.title).toBe('Theirs');
    expect(songs.notice).toContain('my copy');
    expect(findDraft('one')).toBeNull();
  });

  it('is found on opening too, where a draft started from an older revision', async () => {
    keepDraft('one', 1, { ...document, title: 'Mine' });
    server.now = stored(4, { ...document, title: 'Theirs' });
    const songs = useSongStore();
    await songs.open('one');
    expect(songs.state).toBe('conflict');
    expect(server.writes).toEqual([]);
    expect(songs.song?.title).toBe('Mine');
  });
});

describe('two windows', () => {
  it('show the newest when they come to the front, unless they have an edit of their own', async () => {
    const songs = useSongStore();
    await songs.open('one');
    server.now = stored(2, { ...document, title: 'Theirs' });
    await songs.catchUp();
    expect(songs.song?.title).toBe('Theirs');
    expect(songs.notice).toContain('another window');
    server.now = stored(3, { ...document, title: 'Newer' });
    songs.run(tempo(70));
    await songs.catchUp();
    expect(songs.song?.title).toBe('Theirs');
  });

  it('put back a song that the other deleted, as it is here', async () => {
    const songs = useSongStore();
    await songs.open('one');
    vi.mocked(api.replaceSong).mockRejectedValueOnce(new Refused(404, 'no such song', undefined));
    songs.run(tempo(71));
    await songs.flush();
    expect(songs.state).toBe('gone');
    expect(findDraft('one')?.document.tempo).toBe(71);
    expect(await songs.putBack()).toBe('two');
    expect(server.created[0]?.tempo).toBe(71);
    expect(songs.state).toBe('saved');
    expect(findDraft('one')).toBeNull();
  });
});

it('keeps an edit while the disk is full, and says what undo did', async () => {
  const songs = useSongStore();
  await songs.open('one');
  server.full = true;
  songs.run(tempo(72));
  await songs.flush();
  expect(songs.state).toBe('full');
  expect(songs.notice).toBe('The disk is full.');
  expect(findDraft('one')?.document.tempo).toBe(72);
  server.full = false;
  await wait(3000);
  expect(songs.state).toBe('saved');
  songs.stepBack();
  expect(songs.told).toBe('Undone: change the tempo.');
  await wait(5000);
  expect(songs.told).toBeNull();
});

it('does not take a change that unfolds too far, and says so', async () => {
  const songs = useSongStore();
  await songs.open('one');
  const line = Array.from({ length: 200 }, () => 'A').join(' | ');
  songs.run({
    name: 'far too long',
    apply: (song) => ({
      ...song,
      sections: newSong({ title: 'x', instrument: 'guitar', progression: `${line} x20` }).sections,
      order: undefined as never,
    }),
  });
  const before = songs.song;
  songs.run({
    name: 'far too long',
    apply: (song) => ({
      ...song,
      sections: song.sections.map((section) => ({
        ...section,
        lines: section.lines.map((one) => ({ ...one, times: 32 })),
      })),
    }),
  });
  expect(songs.song).toBe(before);
  expect(songs.notice).toBe(
    'That was not done: the song then unfolds to 6,400 bars; 4,000 is the most.',
  );
});

it('lets go of a song that was deleted, with its draft', async () => {
  const songs = useSongStore();
  await songs.open('one');
  keepDraft('one', 1, { ...document, tempo: 70 });
  songs.close();
  expect(songs.song).toBeNull();
  expect(findDraft('one')).toBeNull();
  songs.run(tempo(70));
  await wait(2000);
  expect(server.writes).toEqual([]);
});

describe('a song that is about to be opened', () => {
  const asked = () => vi.mocked(api.readSong).mock.calls.length;

  it('is asked for once, and opened as it came', async () => {
    const songs = useSongStore();
    songs.foresee('one');
    songs.foresee('one');
    await wait(100);
    await songs.open('one');
    expect(asked()).toBe(1);
    expect(songs.title).toBe('Winding hole');
  });

  it('is read again where that was a while ago, or has failed', async () => {
    const songs = useSongStore();
    songs.foresee('one');
    await wait(3000);
    server.now = stored(2, { ...document, tempo: 120 });
    await songs.open('one');
    expect(songs.song!.tempo).toBe(120);

    setActivePinia(createPinia());
    const again = useSongStore();
    server.away = true;
    again.foresee('one');
    await wait(100);
    server.away = false;
    await again.open('one');
    expect(again.song!.tempo).toBe(120);
  });

  it('is not asked for while it is open: its edits may be on their way', async () => {
    const songs = useSongStore();
    await songs.open('one');
    songs.run(tempo(90));
    songs.foresee('one');
    expect(asked()).toBe(1);
    await wait(1000);
    await songs.hold(document);
    await songs.open('one');
    expect(songs.song!.tempo).toBe(90);
  });
});
