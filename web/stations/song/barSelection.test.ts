// @vitest-environment happy-dom
import type { Song, StoredSong } from '#core/schema';
import { newSong, printProgression } from '#core/song';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope, type EffectScope, nextTick } from 'vue';
import { api } from '../../remote/client';
import { useClipStore } from '../../stores/clip';
import { usePlayerStore } from '../../stores/player';
import { useSongStore } from '../../stores/song';
import { useBarSelection } from './barSelection';

const progression = 'Verse:\nA | D | E7\nF#m | Bm\nChorus:\nD | A x2';
const stored = (id: string, text: string): StoredSong => ({
  id,
  revision: 1,
  updatedAt: '2026-11-24T20:00:00.000Z',
  document: newSong({ title: 'Paddle gear', instrument: 'guitar', progression: text }),
});
const text = ({ sections, meter, order }: Song) => printProgression(sections, meter, order);

let scope: EffectScope;
let songs: ReturnType<typeof useSongStore>;
let player: ReturnType<typeof usePlayerStore>;
let selection: ReturnType<typeof useBarSelection>;

beforeEach(async () => {
  setActivePinia(createPinia());
  vi.spyOn(api, 'readSong').mockImplementation(async (id) =>
    stored(id, id === 'one' ? progression : 'G | C'),
  );
  vi.spyOn(api, 'replaceSong').mockImplementation(async (id) => stored(id, progression));
  scope = effectScope();
  songs = useSongStore();
  player = usePlayerStore();
  await songs.open('one');
  await nextTick();
  scope.run(() => (selection = useBarSelection()));
});
afterEach(() => {
  scope.stop();
  vi.restoreAllMocks();
});

const choose = (bar: number, extend = false) => selection.choose(player.bars[bar]!, extend);
const press = (key: string, ctrlKey = false) =>
  selection.key(new KeyboardEvent('keydown', { key, ctrlKey }));
const symbols = () => selection.chosen.value.map(({ chords }) => chords[0]!.symbol);

describe('the chosen bars', () => {
  it('are one at first, and a span from where choosing began, either way', () => {
    expect(symbols()).toEqual(['A']);
    choose(3);
    choose(1, true);
    expect(symbols()).toEqual(['D', 'E7', 'F#m']);
    choose(4, true);
    expect(symbols()).toEqual(['F#m', 'Bm']);
    choose(2);
    expect(symbols()).toEqual(['E7']);
  });

  it('go over the end of a section, and pass over bars that are not played', () => {
    choose(4);
    choose(5, true);
    expect(symbols()).toEqual(['Bm', 'D']);
    selection.choose({ ...player.bars[0]!, index: -1 }, false);
    expect(player.selectedBar).toBe(5);
  });

  it('go round and round by the key L, in the order they are played', () => {
    choose(4);
    choose(2, true);
    player.looping = false;
    expect(press('l')).toBe(true);
    expect(player.loopBars).toEqual({ first: 2, last: 4 });
    expect(player.looping).toBe(true);
  });

  it('are copied and pasted before the chosen one, and stay chosen', () => {
    choose(0);
    choose(1, true);
    press('c', true);
    choose(5);
    expect(press('v', true)).toBe(true);
    expect(text(songs.song!)).toContain('Chorus:\nA | D | % | A x2');
    expect(symbols()).toEqual(['A', 'D']);
    expect(songs.undoName).toBe('paste bars');
  });

  it('are cut, and the bar that was before is chosen', () => {
    choose(1);
    choose(2, true);
    press('x', true);
    expect(text(songs.song!)).toMatch(/^Verse:\nA\nF#m/);
    expect(player.selectedBar).toBe(1);
    expect(useClipStore().bars).toHaveLength(2);
    selection.pasteOver();
    expect(text(songs.song!)).toMatch(/^Verse:\nA\nD \| E7 \| Bm/);
  });

  it('are repeated, or taken out by the Delete key', () => {
    choose(2);
    press('d', true);
    expect(text(songs.song!)).toMatch(/^Verse:\nA \| D \| E7 \| %/);
    press('Delete');
    expect(text(songs.song!)).toMatch(/^Verse:\nA \| D \| E7\n/);
    songs.stepBack();
    songs.stepBack();
    expect(text(songs.song!)).toBe(progression);
  });

  it('leave other keys to others, and paste nothing where nothing was copied', () => {
    expect(press('v', true)).toBe(true);
    expect(press('q')).toBe(false);
    expect(press('c')).toBe(false);
    expect(text(songs.song!)).toBe(progression);
    expect(songs.undoName).toBeNull();
  });

  it('are carried to another song', async () => {
    choose(1);
    selection.copy();
    await songs.open('two');
    await nextTick();
    expect(player.selectedBar).toBe(0);
    selection.paste();
    expect(text(songs.song!)).toBe('D | G | C');
  });
});
