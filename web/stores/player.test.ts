// @vitest-environment happy-dom
import type { StoredSong } from '#core/schema';
import { METERS } from '#core/time';
import { newPattern } from '#core/pattern';
import { newSong } from '#core/song';
import { commands } from '#core/edit';
import { arrangement } from '#core/arrange';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { nextTick } from 'vue';
import { Engine, type Score } from '../audio/engine';
import { api } from '../remote/client';
import { keepDraft } from './drafts';
import { useMixerStore } from './mixer';
import { usePlayerStore } from './player';
import { useSongStore } from './song';

const document = newSong({
  title: 'Gongoozlers',
  instrument: 'ukulele',
  progression: 'C | F | (2/4) G7 | C~',
  tempo: 100,
});
const stored: StoredSong = {
  id: 'one',
  revision: 1,
  updatedAt: '2026-11-24T20:00:00.000Z',
  document,
};

let started: { score: Score; from: number; countIn: number }[] = [];
let updated: Score[] = [];
/** Whether a start comes to sound; not where it was stopped or overtaken before. */
let ready = true;
let songs: ReturnType<typeof useSongStore>;
let player: ReturnType<typeof usePlayerStore>;
let mixer: ReturnType<typeof useMixerStore>;

beforeEach(async () => {
  localStorage.clear();
  setActivePinia(createPinia());
  started = [];
  updated = [];
  ready = true;
  vi.spyOn(api, 'readSong').mockResolvedValue(stored);
  vi.spyOn(api, 'replaceSong').mockResolvedValue(stored);
  vi.spyOn(Engine.prototype, 'start').mockImplementation(async (score, from, countIn) => {
    started.push({ score, from, countIn });
    return ready;
  });
  vi.spyOn(Engine.prototype, 'update').mockImplementation((score) => void updated.push(score));
  vi.spyOn(Engine.prototype, 'stop').mockImplementation(() => undefined);
  vi.spyOn(Engine.prototype, 'position').mockReturnValue(null);
  songs = useSongStore();
  player = usePlayerStore();
  mixer = useMixerStore();
  await songs.open('one');
  await nextTick();
});
afterEach(() => {
  player.stop();
  vi.restoreAllMocks();
});

describe('playing', () => {
  it('begins at the chosen bar, after the count-in of the song', async () => {
    player.selectedBar = 2;
    await player.play();
    expect(started).toHaveLength(1);
    expect(started[0]).toMatchObject({ from: 7680, countIn: 1 });
    expect(player.playing).toBe(true);
    player.toggle();
    expect(player.playing).toBe(false);
  });

  it('says so where its parts cannot be loaded, until it plays', async () => {
    const away = new Error('the server is away, and this part of the app was not loaded yet.');
    vi.mocked(Engine.prototype.start).mockRejectedValueOnce(away);
    await player.play();
    expect(player.playing).toBe(false);
    expect(songs.notice).toBe('The sound could not be loaded.');
    await player.play();
    expect(player.playing).toBe(true);
    expect(songs.notice).toBeNull();
  });

  it('does not begin where it was stopped before its sounds were ready', async () => {
    ready = false;
    await player.play();
    expect(player.playing).toBe(false);
    expect(player.starting).toBe(false);
    await player.audition(player.performance!);
    expect(player.auditioning).toBe(false);
  });

  it('begins at the loop where the chosen bar lies outside it', async () => {
    player.loopBars = { first: 1, last: 2 };
    player.selectedBar = 0;
    await player.play();
    expect(started[0]!.from).toBe(3840);
    // Two bars, the second of two beats.
    expect(started[0]!.score.loop).toEqual({ from: 3840, to: 3840 + 3840 + 1920 });
  });

  it('keeps the loop inside a song that became shorter', async () => {
    player.loopBars = { first: 1, last: 3 };
    songs.run(commands.setProgression('C | F'));
    await nextTick();
    expect(player.loop).toEqual({ from: 3840, to: 7680 });
    player.looping = false;
    expect(player.loop).toBeNull();
  });

  it('hands edits to what plays', async () => {
    await player.play();
    songs.run(commands.setTempo(140));
    await nextTick();
    expect(updated.at(-1)!.performance.tempo).toBe(140);
    player.stop();
    songs.run(commands.setTempo(150));
    await nextTick();
    expect(updated).toHaveLength(1);
  });
});

describe('what is heard beside the strings', () => {
  const score = async () => {
    await player.play();
    player.stop();
    return started.at(-1)!.score;
  };

  it('is the click as it was chosen, or none', async () => {
    expect((await score()).click).toBe('all');
    mixer.clickMode = 'fading';
    expect((await score()).click).toBe('fading');
    player.click = false;
    expect((await score()).click).toBeNull();
  });

  it('is no drum, the one that goes with the pattern, or a chosen one', async () => {
    expect((await score()).groove).toBeNull();
    mixer.drums = 'auto';
    expect((await score()).groove).toBe('eighths');
    songs.run(
      commands.takePattern({
        ...newPattern(METERS['4/4']),
        feel: { on: 'eighths', percent: 67 },
      }),
    );
    expect((await score()).groove).toBe('shuffle');
    mixer.drums = 'waltz';
    expect((await score()).groove).toBe('waltz');
    expect(player.usualGroove).toBe('shuffle');
  });

  it('follows speed, climb and faders while it plays, and they are kept', async () => {
    await player.play();
    mixer.speed = 0.5;
    mixer.climbs = true;
    mixer.climb = { every: 1, by: 10, until: 130, back: true };
    mixer.levels = { ...mixer.levels, drums: 0.1 };
    await nextTick();
    expect(updated.at(-1)).toMatchObject({
      speed: 0.5,
      ramp: { every: 1, by: 10, until: 130, back: true },
      levels: { drums: 0.1 },
    });
    await nextTick();
    setActivePinia(createPinia());
    const again = useMixerStore();
    expect(again.speed).toBe(0.5);
    expect(again.ramp).toMatchObject({ until: 130 });
    expect(again.levels.drums).toBe(0.1);
  });

  it('is left out where something outside the song is heard', async () => {
    mixer.drums = 'auto';
    mixer.climbs = true;
    await player.audition(player.performance!, { click: true, loop: true });
    expect(started.at(-1)).toMatchObject({ from: 0, countIn: 1 });
    expect(started.at(-1)!.score).toMatchObject({ groove: null, ramp: null, click: 'all' });
    expect(player.auditioning).toBe(true);
    player.stop();
    await player.audition(player.performance!);
    expect(started.at(-1)).toMatchObject({ countIn: 0 });
    expect(started.at(-1)!.score).toMatchObject({ loop: null, click: null });
  });
});

describe('a song that is about to be opened', () => {
  const other = newSong({ title: 'Wharf', instrument: 'guitar', progression: 'G | D | Em | C' });
  const two: StoredSong = { ...stored, id: 'two', document: other };

  /** The pointer rests on the name of the other song, until it is worked out. */
  async function foreseen() {
    vi.mocked(api.readSong).mockResolvedValue(two);
    songs.foresee('two');
    await vi.waitFor(() => expect(songs.foreseen).toEqual(other));
    await new Promise((resolve) => setTimeout(resolve, 80));
  }
  const shown = () => player.arranged!.changes.map(({ symbol }) => symbol);

  it('changes nothing of what is open, and is there as any song where it is opened', async () => {
    await foreseen();
    expect(shown()).toEqual(['C', 'F', 'G7', 'C']);
    await songs.open('two');
    expect(shown()).toEqual(['G', 'D', 'Em', 'C']);
    expect(player.arranged).toEqual(arrangement(other));
    expect(songs.foreseen).toBeNull();
    songs.run(commands.setProgression('G | A'));
    expect(shown()).toEqual(['G', 'A']);
  });

  it('is opened as it was edited here, and not as it was foreseen', async () => {
    keepDraft('two', 1, commands.setProgression('Am | E').apply(other));
    await foreseen();
    await songs.open('two');
    expect(shown()).toEqual(['Am', 'E']);
  });

  it('leaves another song that is opened in its place as that is', async () => {
    await foreseen();
    const three = newSong({ title: 'Lock', instrument: 'guitar', progression: 'Dm | A7' });
    vi.mocked(api.readSong).mockResolvedValue({ ...stored, id: 'three', document: three });
    await songs.open('three');
    expect(shown()).toEqual(['Dm', 'A7']);
  });
});
