// @vitest-environment happy-dom
import type { ChangeTime, Song, StoredSong } from '#core/schema';
import { newSong } from '#core/song';
import { commands } from '#core/edit';
import { arrangement } from '#core/arrange';
import { handFrom, songHand } from '#core/hand';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { api, Away, Refused } from '../remote/client';
import { useHandStore } from './hand';
import { useUnsentStore } from './unsent';
import { useSongStore } from './song';

const broken = { now: false };
vi.mock('../workers/hand', () => ({
  handWorker: () => ({
    changes: async (song: Song, timings: ChangeTime[]) => {
      if (broken.now) throw new Error('out of memory');
      return songHand(arrangement(song), handFrom(timings, song.instrument));
    },
  }),
}));

const document = newSong({
  title: 'Weir',
  instrument: 'guitar',
  progression: 'C | F | C | G',
  tempo: 120,
});
const stored: StoredSong = {
  id: 'one',
  revision: 1,
  updatedAt: '2026-11-24T20:00:00.000Z',
  document,
};
const { strings } = document.instrument;
const timing = (gaps: number[]) => {
  const [change] = songHand(arrangement(document)).changes;
  const { from, to, fromShape, toShape } = change!;
  return {
    from,
    to,
    fromShape,
    toShape,
    instrument: 'Guitar',
    strings,
    gaps,
    source: 'taps' as const,
  };
};
const wait = () => vi.advanceTimersByTimeAsync(300);

beforeEach(() => {
  vi.useFakeTimers();
  localStorage.clear();
  setActivePinia(createPinia());
  broken.now = false;
  vi.spyOn(api, 'readSong').mockResolvedValue(stored);
  vi.spyOn(api, 'replaceSong').mockResolvedValue({
    id: 'one',
    revision: 2,
    updatedAt: stored.updatedAt,
  });
  vi.spyOn(api, 'listChangeTimes').mockResolvedValue([]);
});
afterEach(() => {
  vi.restoreAllMocks();
  vi.useRealTimers();
});

async function opened() {
  const songs = useSongStore();
  const hand = useHandStore();
  await songs.open('one');
  await wait();
  return { songs, hand };
}

describe('what the hand has time for', () => {
  it('is worked out for the open song, and again after an edit', async () => {
    const { songs, hand } = await opened();
    expect(hand.found!.changes.map(({ to }) => to).sort()).toEqual(['C', 'F', 'G']);
    expect(hand.behind).toBe(false);
    songs.run(commands.setProgression('C | G'));
    await Promise.resolve();
    expect(hand.behind).toBe(true);
    await wait();
    expect(hand.found!.changes).toHaveLength(1);
  });

  it('warns where the tempo is above the ceiling, and not below it', async () => {
    const { songs, hand } = await opened();
    const ceiling = hand.found!.ceiling!;
    songs.run(commands.setTempo(Math.min(300, Math.ceil(ceiling) + 20)));
    await wait();
    expect(hand.over).toBe(Math.floor(ceiling));
    songs.run(commands.setTempo(Math.max(20, Math.floor(ceiling) - 20)));
    await wait();
    expect(hand.over).toBeNull();
  });

  it('takes a timing into account as soon as it is kept, and no more once it is taken away', async () => {
    const { hand } = await opened();
    const first = hand.found!.changes[0]!;
    const ceiling = () =>
      hand.found!.changes.find(({ from, to }) => from === first.from && to === first.to)!.ceiling!;
    const before = ceiling();
    const made: ChangeTime = {
      ...timing([120, 120, 120, 120]),
      id: 'a',
      madeAt: '2026-11-25T19:00:00.000Z',
    };
    vi.spyOn(api, 'createChangeTime').mockResolvedValue(made);
    vi.spyOn(api, 'deleteChangeTime').mockResolvedValue(null);
    await hand.keep(timing([120, 120, 120, 120]));
    await wait();
    expect(ceiling()).toBeGreaterThan(before);
    await hand.remove('a');
    await wait();
    expect(ceiling()).toBeCloseTo(before, 6);
  });

  it('counts a timing that waits for the server, and none that was refused', async () => {
    const { hand } = await opened();
    vi.spyOn(api, 'createChangeTime').mockRejectedValue(new Away());
    expect(await hand.keep(timing([500]))).toBe(false);
    // It counts already, and waits in the browser.
    expect(hand.timings).toHaveLength(1);
    // It can be taken out again without the server, and is not sent later.
    const deletes = vi.spyOn(api, 'deleteChangeTime').mockRejectedValue(new Away());
    const [waits] = hand.timings;
    await hand.remove(waits!.id);
    expect(hand.timings).toEqual([]);
    expect(useUnsentStore().count).toBe(0);
    expect(deletes).not.toHaveBeenCalled();
    expect(await hand.keep(timing([500]))).toBe(false);
    vi.spyOn(api, 'createChangeTime').mockRejectedValue(new Refused(400, 'gaps: too many', null));
    await expect(hand.keep(timing([500]))).rejects.toThrow('too many');
    expect(hand.timings).toHaveLength(1);
  });

  it('keeps what was worked out last where it fails, says so, and tries again', async () => {
    const { songs, hand } = await opened();
    broken.now = true;
    songs.run(commands.setTempo(90));
    await wait();
    expect(hand.trouble).toBe('out of memory');
    expect(hand.found!.tempo).toBe(120);
    broken.now = false;
    songs.run(commands.setTempo(80));
    await wait();
    expect(hand.trouble).toBeNull();
    expect(hand.found!.tempo).toBe(80);
  });

  it('is empty where no song is open', async () => {
    const { songs, hand } = await opened();
    songs.close();
    await wait();
    expect(hand.found).toBeNull();
    expect(hand.over).toBeNull();
  });
});
