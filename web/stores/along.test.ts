// @vitest-environment happy-dom
import type { BeatMap, LaidPart, RecordingInfo, RecordingMap, StoredSong } from '#core/schema';
import { METERS } from '#core/time';
import { newSong } from '#core/song';
import { movePulse } from '#core/along';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { nextTick, watch } from 'vue';
import { api, Away } from '../remote/client';
import { useAlongStore } from './along';
import { useSongStore } from './song';

const pulses = Array.from({ length: 33 }, (_, beat) => 1 + beat / 2);
const map: BeatMap = {
  meter: METERS['4/4'],
  pulses,
  sure: pulses.map((_, beat) => (beat < 28 ? 1 : 0.2)),
  one: 0,
  set: [],
};
let answer: BeatMap | string = map;
/** How the song is found to lie on it. */
let laid: LaidPart[] | null = null;
let opened: { samples: number; sampleRate: number }[] = [];

vi.mock('../workers/along', () => ({
  alongWorker: () => ({
    open: async (samples: Float32Array, sampleRate: number) => {
      opened.push({ samples: samples.length, sampleRate });
    },
    map: async () => answer,
    again: async () => answer,
    lay: async () => laid,
    chords: async (stretches: unknown[]) => stretches.map(() => [{ symbol: 'Am', sure: 0.7 }]),
  }),
}));
vi.mock('../audio/capture', () => ({
  decode: async (bytes: ArrayBuffer, sampleRate: number) => {
    if (bytes.byteLength === 0) throw new Error('This file is no sound.');
    return { samples: new Float32Array(bytes.byteLength * sampleRate), sampleRate };
  },
}));

const document = newSong({ title: 'Weir', instrument: 'guitar', progression: 'G | C' });
const stored: StoredSong = {
  id: 'one',
  revision: 1,
  updatedAt: '2026-11-24T20:00:00.000Z',
  document,
};
const info = (known: RecordingMap): RecordingInfo => ({
  name: 'Evening',
  type: 'audio/wav',
  bytes: 2_400_000,
  madeAt: '2026-11-25T19:00:00.000Z',
  ...known,
});
let kept: RecordingMap[] = [];

beforeEach(async () => {
  setActivePinia(createPinia());
  answer = map;
  kept = [];
  opened = [];
  laid = null;
  vi.spyOn(api, 'readSong').mockResolvedValue(stored);
  vi.spyOn(api, 'readRecording').mockResolvedValue(info({ map, landings: [] }));
  vi.spyOn(api, 'mapRecording').mockImplementation(async (_, known) => {
    kept = [...kept, known];
    return info(known);
  });
  vi.spyOn(api, 'keepRecording').mockResolvedValue(info({ map: null, landings: [] }));
  vi.spyOn(api, 'deleteRecording').mockResolvedValue(null);
  vi.stubGlobal('fetch', async () => new Response(new Uint8Array(17)));
  await useSongStore().open('one');
});
afterEach(() => {
  vi.restoreAllMocks();
  vi.unstubAllGlobals();
});

async function entered() {
  const along = useAlongStore();
  await along.enter();
  return along;
}

describe('a recording beside the open song', () => {
  it('is read once, with its bars and how sure they are', async () => {
    const along = await entered();
    expect(along.busy).toBeNull();
    expect(opened).toEqual([{ samples: 17 * 22_050, sampleRate: 22_050 }]);
    expect(along.duration).toBe(17);
    expect(along.bars).toHaveLength(9);
    expect(along.unsure.map(({ number }) => number)).toEqual([8, 9]);
    expect(along.tempos!.least).toBeCloseTo(120, 3);
    expect(along.url).toContain('/api/songs/one/recording?of=2026');
  });

  it('is nothing of the next song, not even until that is looked for', async () => {
    const along = await entered();
    const songs = useSongStore();
    const addresses: (string | null)[] = [];
    watch(
      () => along.url,
      (url) => addresses.push(url),
      { flush: 'sync' },
    );
    vi.mocked(api.readSong).mockResolvedValue({ ...stored, id: 'two' });
    await songs.open('two');
    expect([along.info, along.map, along.peaks, along.url]).toEqual([null, null, [], null]);
    along.undo();
    expect(api.mapRecording).not.toHaveBeenCalled();
    expect(addresses.join()).not.toContain('two');
  });

  it('may not be there, and the server may be away', async () => {
    vi.spyOn(api, 'readRecording').mockResolvedValue(null);
    const along = await entered();
    expect([along.info, along.trouble, along.busy]).toEqual([null, null, null]);
    vi.spyOn(api, 'readRecording').mockRejectedValue(new Away());
    await along.enter();
    expect(along.trouble).toBe('The server cannot be reached.');
  });

  it('is not sent where the browser cannot read it, nor where it is too long', async () => {
    const along = await entered();
    await along.bring(new File([], 'nothing.mp3'));
    expect(along.trouble).toBe('This file is no sound.');
    await along.bring(new File([new Uint8Array(901)], 'long.wav'));
    expect(along.trouble).toBe('A recording may last fifteen minutes.');
    expect(api.keepRecording).not.toHaveBeenCalled();
    await along.bring(new File([new Uint8Array(20)], 'evening.wav'));
    expect(along.trouble).toBeNull();
    expect(api.keepRecording).toHaveBeenCalledOnce();
    expect([along.duration, along.map]).toEqual([20, null]);
    await along.remove();
    expect([along.info, along.peaks.length]).toEqual([null, 0]);
  });
});

describe('what is done to it', () => {
  it('is kept in the order in which it was done, and undone', async () => {
    const along = await entered();
    along.setMap(movePulse(map, 4, 3.1));
    along.land(3.12, 0);
    along.land(1.02, 0);
    expect(along.landings.map(({ tick }) => tick)).toEqual([0, 3840]);
    along.name(0, 'G');
    expect(along.line).toBe('G');
    along.name(3840, 'C');
    expect(along.line).toBe('G | C');
    along.drop(0);
    along.undo();
    expect(along.line).toBe('G | C');
    along.undo();
    along.redo();
    expect(along.line).toBe('G | C');
    await vi.waitFor(() => expect(kept).toHaveLength(9));
    expect(kept.at(-1)!.landings.map(({ symbol }) => symbol)).toEqual(['G', 'C']);
    expect(kept.at(-1)!.map!.pulses[4]).toBe(3.1);
  });

  it('a second press at a place takes the place of the first, and waits for its name', async () => {
    const along = await entered();
    along.land(3.0, 0);
    along.name(3840, 'C');
    along.land(3.03, 0);
    expect(along.landings).toEqual([{ tick: 3840, moved: -30, symbol: null }]);
    expect(along.line).toBeNull();
    await nextTick();
    await vi.waitFor(() => expect(along.guesses.get(3840)?.[0]?.symbol).toBe('Am'));
  });

  it('says why no beats were found, and keeps those that were', async () => {
    const along = await entered();
    answer = 'Tap at least four beats in a row, evenly.';
    await along.findBeats([1, 2], METERS['4/4']);
    expect(along.trouble).toBe('Tap at least four beats in a row, evenly.');
    expect(along.map).toEqual(map);
    answer = { ...map, one: 2 };
    await along.findBeats([1, 2, 3, 4], METERS['4/4']);
    expect([along.trouble, along.map!.one]).toEqual([null, 2]);
  });

  it('that cannot be sent is told', async () => {
    const along = await entered();
    vi.spyOn(api, 'mapRecording').mockRejectedValue(new Away());
    along.land(3, 0);
    await vi.waitFor(() => expect(along.trouble).toBe('The server cannot be reached.'));
    expect(along.landings).toHaveLength(1);
  });

  it('lays the song after its intro where the chords tell, and moves its bar lines', async () => {
    const along = useAlongStore();
    await along.enter();
    laid = [
      { pulse: 0, bar: null },
      { pulse: 8, bar: 0 },
    ];
    await along.findBeats([1, 2, 3, 4], METERS['4/4']);
    expect(along.bars.map(({ song }) => song).slice(0, 5)).toEqual([null, null, 1, 2, null]);
    expect(kept.at(-1)!.layout).toEqual(laid);
    along.setDownbeatHere(9);
    expect(along.layout[1]).toEqual({ pulse: 9, bar: 0 });
    expect(along.map!.one).toBe(0);
    // What was laid stays when the beats are found again.
    laid = null;
    await along.findBeats([1, 2, 3, 4], METERS['4/4']);
    expect(along.layout[1]).toEqual({ pulse: 9, bar: 0 });
    await along.findSong();
    expect(along.trouble).toMatch(/may as well begin with the first bar/);
    expect(along.layout).toHaveLength(2);
  });

  it('takes off what all presses are late, and asks once about those between the beats', async () => {
    const along = useAlongStore();
    await along.enter();
    [1, 3, 5, 7.125, 9, 11].forEach((seconds) => along.land(seconds + 0.07, 0));
    expect(along.landings.map(({ tick }) => tick)).toEqual([0, 3840, 7680, 11_760, 15_360, 19_200]);
    expect(along.odd.map(({ tick }) => tick)).toEqual([11_760]);
    along.leaveOdd();
    expect(along.odd).toEqual([]);
    along.land(13.195, 0);
    along.oddToBeats();
    expect(along.landings.map(({ tick }) => tick).slice(-2)).toEqual([19_200, 23_040]);
  });
});
