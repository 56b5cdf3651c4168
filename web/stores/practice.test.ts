// @vitest-environment happy-dom
import type { Entry, NewEntry, Song, StoredSong, TakeOnset } from '#core/schema';
import { newSong } from '#core/song';
import { commands } from '#core/edit';
import { arrangement } from '#core/arrange';
import { judgeOnsets } from '#core/take';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { nextTick } from 'vue';
import { api, Away, Refused } from '../remote/client';
import { usePlayerStore } from './player';
import { usePracticeStore } from './practice';
import { useSongStore } from './song';
import { useTakesStore } from './takes';
import { useUnsentStore } from './unsent';

vi.mock('../workers/ear', () => ({
  earWorker: () => ({
    onsets: async (song: Song, onsets: TakeOnset[], bars: { first: number; last: number }) =>
      judgeOnsets(arrangement(song), onsets, bars),
  }),
}));
vi.mock('../workers/hand', () => ({
  handWorker: () => ({ changes: async () => ({ ceiling: null, changes: [] }) }),
}));

const songId = '00000000-0000-4000-8000-000000000001';
const document = newSong({
  title: 'Weir',
  instrument: 'guitar',
  progression: 'G | C | G | C | G | C | G | C',
  tempo: 100,
});
const stored: StoredSong = {
  id: songId,
  revision: 1,
  updatedAt: '2031-05-08T20:00:00.000Z',
  document,
};
const row = (rest: Partial<Entry>): Entry => ({
  id: '00000000-0000-4000-8000-000000000009',
  madeAt: '2031-05-08T19:00:00.000Z',
  kind: 'take',
  songId,
  song: 'Weir',
  instrument: 'Guitar',
  rung: 'song',
  hands: 'both',
  from: 1,
  to: 8,
  whole: true,
  tempo: 80,
  seconds: 60,
  source: 'taps',
  trouble: 'clean',
  within: 0.9,
  median: 2,
  spread: 10,
  change: null,
  place: null,
  text: null,
  ...rest,
});
let rows: Entry[] = [];
let added: NewEntry[] = [];

beforeEach(() => {
  localStorage.clear();
  setActivePinia(createPinia());
  rows = [];
  added = [];
  vi.spyOn(api, 'readSong').mockResolvedValue(stored);
  vi.spyOn(api, 'listTakes').mockResolvedValue([]);
  vi.spyOn(api, 'listChangeTimes').mockResolvedValue([]);
  vi.spyOn(api, 'replaceSong').mockImplementation(async (id, revision) => ({
    id,
    revision: revision + 1,
    updatedAt: stored.updatedAt,
  }));
  vi.spyOn(api, 'createTake').mockRejectedValue(new Away());
  vi.spyOn(api, 'readLog').mockImplementation(async () => ({
    entries: rows,
    total: rows.length,
    next: null,
  }));
  vi.spyOn(api, 'addEntry').mockImplementation(async (entry) => {
    added.push(entry);
    return row({});
  });
});
afterEach(() => {
  vi.restoreAllMocks();
});

async function entered() {
  const songs = useSongStore();
  const player = usePlayerStore();
  const practice = usePracticeStore();
  await songs.open(songId);
  practice.enter();
  await vi.waitFor(() => expect(practice.ready).toBe(true));
  await nextTick();
  return { songs, player, practice, takes: useTakesStore() };
}

describe('practice', () => {
  it('begins at the foot of the ladder, and plays that rung in place of the song', async () => {
    const { practice, player } = await entered();
    expect(practice.rung).toBe('arm');
    expect(practice.tempo).toBe(75);
    expect(player.activeSong?.tempo).toBe(75);
    expect(player.performance?.strikes).toEqual([]);
    expect(player.bars).toHaveLength(8);
    practice.choose('landings');
    expect(player.performance?.strikes).toHaveLength(8);
  });

  it('goes on where the log says that the last evening ended', async () => {
    rows = [row({ tempo: 80 }), row({ tempo: 80 }), row({ tempo: 72, trouble: 'landings' })];
    const { practice } = await entered();
    expect(practice).toMatchObject({ rung: 'song', tempo: 84 });
    expect(practice.fresh).toBe(false);
  });

  it('goes round the place after the same trouble twice, and takes that loop off when it leaves', async () => {
    const place = { from: 2, to: 4 };
    rows = [row({ trouble: 'landings', place }), row({ trouble: 'landings', place })];
    const { practice, player } = await entered();
    expect(practice.loop).toEqual(place);
    expect(player.loopBars).toEqual({ first: 1, last: 3 });
    practice.leave();
    expect(player.loopBars).toBeNull();
    expect(player.activeSong).toEqual(document);
  });

  it('counts a take that was heard, though the server is away', async () => {
    const { practice, takes, player } = await entered();
    practice.choose('song');
    const onsets = player.performance!.strikes.map(({ seconds }) => ({ seconds }));
    await takes.fromOnsets(onsets);
    await nextTick();
    expect(practice.fresh).toBe(true);
    expect(practice.taken.at(-1)).toMatchObject({
      rung: 'song',
      tempo: 75,
      trouble: 'clean',
      loop: null,
    });
    expect(practice.next).toMatchObject({ does: 'again' });
    await takes.fromOnsets(onsets);
    await nextTick();
    expect(practice.next).toMatchObject({ does: 'up', tempo: 79 });
    practice.go(practice.next!);
    expect(practice.fresh).toBe(false);
    expect(player.activeSong?.tempo).toBe(79);
  });

  it('takes the player’s own word', async () => {
    const { practice } = await entered();
    await practice.say('clean', 42);
    expect(added).toEqual([
      expect.objectContaining({
        kind: 'take',
        songId,
        rung: 'arm',
        tempo: 75,
        seconds: 42,
        trouble: 'clean',
        whole: true,
      }),
    ]);
    vi.mocked(api.addEntry).mockRejectedValueOnce(new Away());
    await practice.say('so-so', 40);
    expect(practice.trouble).toBeNull();
    expect(useUnsentStore().count).toBe(1);
    expect(practice.taken).toHaveLength(2);
    vi.mocked(api.addEntry).mockRejectedValueOnce(new Refused(404, 'There is no such song.', null));
    await practice.say('so-so', 40);
    expect(practice.trouble).toBe('This was not kept in the log: There is no such song.');
  });

  it('sets the tempo of the rung and not of the song', async () => {
    const { practice, player, songs } = await entered();
    player.setTempo(66);
    expect(practice.tempo).toBe(66);
    expect(songs.song!.tempo).toBe(100);
    practice.leave();
    player.setTempo(90);
    expect(songs.song!.tempo).toBe(90);
  });

  it('climbs the rungs that the player wishes, in their order', async () => {
    const { practice, songs } = await entered();
    songs.run(commands.setPractice({ rungs: ['song', 'landings'] }));
    expect(practice.rungs.map(({ id }) => id)).toEqual(['song', 'landings']);
    practice.choose('song');
    practice.stepRung(1);
    expect(practice.rung).toBe('landings');
    practice.stepRung(1);
    expect(practice.rung).toBe('landings');
  });

  it('does what the plan of the evening wishes, once', async () => {
    const practice = usePracticeStore();
    practice.wish = { songId, rung: 'damped', tempo: 63 };
    await entered();
    expect(practice).toMatchObject({ rung: 'damped', tempo: 63, wish: null });
  });
});
