// @vitest-environment happy-dom
import type { Song, StoredSong, TakeOnset, TakeSummary } from '#core/schema';
import { newSong } from '#core/song';
import { arrangement } from '#core/arrange';
import { judgeOnsets } from '#core/take';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { nextTick } from 'vue';
import { api, Away, Refused } from '../remote/client';
import { usePlayerStore } from './player';
import { useSongStore } from './song';
import { useTakesStore } from './takes';
import { useUnsentStore } from './unsent';

vi.mock('../workers/ear', () => ({
  earWorker: () => ({
    onsets: async (song: Song, onsets: TakeOnset[], bars: { first: number; last: number }) =>
      judgeOnsets(arrangement(song), onsets, bars),
    wav: async () => {
      throw new Error('it is no WAV file');
    },
  }),
}));

const document = newSong({
  title: 'Weir',
  instrument: 'guitar',
  progression: 'G | C | G | C',
  tempo: 100,
});
const stored: StoredSong = {
  id: 'one',
  revision: 1,
  updatedAt: '2026-11-24T20:00:00.000Z',
  document,
};
const onsets = arrangement(document).performance.strikes.map(({ seconds }) => ({ seconds }));
let kept: TakeSummary[] = [];

beforeEach(() => {
  localStorage.clear();
  setActivePinia(createPinia());
  kept = [];
  vi.spyOn(api, 'readSong').mockResolvedValue(stored);
  vi.spyOn(api, 'listChangeTimes').mockResolvedValue([]);
  vi.spyOn(api, 'listTakes').mockImplementation(async () => kept);
  vi.spyOn(api, 'createTake').mockImplementation(
    async (songId, { judgement, id: own, ...take }) => {
      const { trouble, sentence } = judgement.verdict;
      const made = { id: own ?? '', songId, madeAt: '2026-11-25T19:00:00.000Z' };
      const summary = { ...take, ...made, trouble, sentence };
      kept = [summary, ...kept];
      return summary;
    },
  );
});
afterEach(() => {
  vi.restoreAllMocks();
});

async function opened() {
  const songs = useSongStore();
  const player = usePlayerStore();
  const takes = useTakesStore();
  await songs.open('one');
  await nextTick();
  await Promise.resolve();
  return { songs, player, takes };
}

describe('takes', () => {
  it('are judged, shown, kept and listed', async () => {
    const { takes } = await opened();
    await takes.fromOnsets(onsets);
    expect(takes.shown).toMatchObject({ source: 'taps', tempo: 100, from: 1, to: 4 });
    expect(takes.shown!.id).toBe(kept[0]!.id);
    expect(takes.shown!.judgement.verdict.trouble).toBe('clean');
    expect(takes.list).toHaveLength(1);
    expect(takes.judging).toBe(false);
  });

  it('are of the bars that are looped', async () => {
    const { player, takes } = await opened();
    player.loopBars = { first: 1, last: 2 };
    expect(takes.part).toEqual({ from: 2, to: 3 });
    player.looping = false;
    expect(takes.part).toEqual({ from: 1, to: 4 });
    player.looping = true;
    await takes.fromOnsets(onsets.filter((_, index) => index >= 4 && index < 12));
    expect(takes.shown).toMatchObject({ from: 2, to: 3 });
    expect(takes.shown!.judgement.strokes[0]!.strike).toBe(4);
  });

  it('wait in the browser while the server is away, and are kept when it is back', async () => {
    const { takes } = await opened();
    const create = vi.mocked(api.createTake);
    const reached = create.getMockImplementation()!;
    create.mockRejectedValue(new Away());
    await takes.fromOnsets(onsets);
    expect(takes.shown).toMatchObject({ id: null });
    expect(takes.trouble).toContain('sent when the server is back');
    expect(takes.list).toEqual([]);

    create.mockImplementation(reached);
    await useUnsentStore().send();
    await vi.waitFor(() => expect(takes.list).toHaveLength(1));
    expect(takes.shown).toMatchObject({ id: takes.list[0]!.id });
    expect(takes.trouble).toBeNull();
  });

  it('are shown though they cannot be kept, and why is said', async () => {
    const { takes } = await opened();
    vi.mocked(api.createTake).mockRejectedValue(new Refused(404, 'There is no such song.', null));
    await takes.fromOnsets(onsets);
    expect(takes.shown).toMatchObject({ id: null });
    expect(takes.trouble).toBe('This verdict was not kept: There is no such song.');
  });

  it('leave the one before where they cannot be read', async () => {
    const { takes } = await opened();
    await takes.fromOnsets(onsets);
    await takes.fromWav(new Uint8Array(4));
    expect(takes.trouble).toBe('it is no WAV file');
    expect(takes.shown).toMatchObject({ source: 'taps' });
    expect(takes.judging).toBe(false);
  });

  it('are opened again and taken away', async () => {
    const { takes } = await opened();
    await takes.fromOnsets(onsets);
    const { id: first, ...take } = takes.shown!;
    const id = first!;
    vi.spyOn(api, 'readTake').mockResolvedValue({
      ...take,
      id,
      songId: 'one',
      madeAt: '2026-11-25T19:00:00.000Z',
    });
    vi.spyOn(api, 'deleteTake').mockResolvedValue(null);
    await takes.fromOnsets([]);
    expect(takes.shown!.judgement.verdict.trouble).toBe('unjudged');
    await takes.open(id);
    expect(takes.shown!.judgement.verdict.trouble).toBe('clean');
    await takes.remove(id);
    expect(takes.shown).toBeNull();
    expect(takes.list).toHaveLength(1);
    expect(takes.list[0]!.id).not.toBe(id);
  });

  it('go with their song', async () => {
    const { songs, takes } = await opened();
    await takes.fromOnsets(onsets);
    songs.close();
    await nextTick();
    expect(takes.shown).toBeNull();
    expect(takes.list).toEqual([]);
  });
});
