// @vitest-environment happy-dom
import type { Song } from '#core/schema';
import { parsePattern, say } from '#core/stroke';
import { newSong } from '#core/song';
import { createPinia, setActivePinia } from 'pinia';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { computed, effectScope, type EffectScope, nextTick } from 'vue';
import { api } from '../../remote/client';
import { useSongStore } from '../../stores/song';
import { usePatternEditor } from './patternEditor';

const CIRCLE = 'down miss, down up, miss up, down up';
const base = newSong({ title: 'Paddles', instrument: 'guitar', progression: 'G | C' });
const reading = parsePattern(CIRCLE, base.pattern);
if (!('pattern' in reading)) throw new Error('the circle is not read');
const document: Song = { ...base, pattern: reading.pattern };

let scope: EffectScope;
let songs: ReturnType<typeof useSongStore>;
let editor: ReturnType<typeof usePatternEditor>;

beforeEach(async () => {
  localStorage.clear();
  setActivePinia(createPinia());
  const updatedAt = '2026-11-24T20:00:00.000Z';
  const stored = { id: 'one', revision: 1, updatedAt, document };
  vi.spyOn(api, 'readSong').mockResolvedValue(stored);
  vi.spyOn(api, 'replaceSong').mockResolvedValue({ ...stored, revision: 2 });
  songs = useSongStore();
  await songs.open('one');
  scope = effectScope();
  editor = scope.run(() => usePatternEditor(computed(() => songs.rhythm!)))!;
});

afterEach(() => {
  scope.stop();
  vi.restoreAllMocks();
});

const words = () => say(songs.song!.pattern);
async function keys(...presses: string[]): Promise<void> {
  for (const press of presses) {
    const [key, ...held] = press.split('+').reverse() as [string, ...string[]];
    const known = editor.press({
      key,
      shiftKey: held.includes('Shift'),
      ctrlKey: held.includes('Control'),
    });
    expect(known, press).toBe(true);
    await nextTick();
  }
}

describe('the pattern editor', () => {
  it('places strokes and moves on, round to the start', async () => {
    await keys('c', 'b', 'Shift+ArrowUp');
    expect(words()).toBe('chuck bass, UP up, miss up, down up');
    expect(editor.cursor.value).toBe(3);
    await keys('End', 'm');
    expect(editor.cursor.value).toBe(0);
    await keys('ArrowLeft');
    expect(editor.cursor.value).toBe(7);
  });

  it('erases backwards, and each step is undone by its name', async () => {
    await keys('ArrowRight', 'Backspace');
    expect(words()).toBe('miss miss, down up, miss up, down up');
    expect(songs.undoName).toBe('place a stroke');
    songs.stepBack();
    expect(words()).toBe(CIRCLE);
  });

  it('divides the beat under the cursor, or every beat that is selected', async () => {
    await keys('4');
    expect(words()).toBe('down miss miss miss, down up, miss up, down up');
    await keys('Control+a', '1');
    expect(words()).toBe('down, down, miss, down');
    expect(editor.selected.value).toBeNull();
    expect(editor.cursor.value).toBe(0);
  });

  it('changes what is selected, and what is under the cursor where nothing is', async () => {
    await keys('a');
    expect(words()).toBe('DOWN miss, down up, miss up, down up');
    await keys('Shift+ArrowRight', 'Shift+ArrowRight', 'Shift+ArrowRight', 'l');
    expect(words()).toBe('palm-DOWN miss, palm-down palm-up, miss up, down up');
    expect(editor.span.value).toEqual({ from: 0, to: 4 });
    await keys('Delete');
    expect(words()).toBe('miss miss, miss miss, miss up, down up');
    await keys('Escape');
    expect(editor.selected.value).toBeNull();
  });

  it('cuts, pastes and says a span again', async () => {
    await keys('ArrowRight', 'ArrowRight', 'Shift+ArrowRight', 'Control+x');
    expect(words()).toBe('down miss, miss miss, miss up, down up');
    await keys('Home', 'Control+v');
    expect(words()).toBe('down up, miss miss, miss up, down up');
    expect(editor.cursor.value).toBe(2);
    await keys('Home', 'Shift+ArrowRight', 'e');
    expect(words()).toBe('down up, down up, miss up, down up');
  });

  it('pastes nothing where nothing was copied', async () => {
    await keys('Control+v');
    expect(words()).toBe(CIRCLE);
    expect(songs.undoName).toBeNull();
  });

  it('shifts a span and keeps it selected', async () => {
    await keys('ArrowRight', 'ArrowRight', 'Shift+ArrowRight', ',');
    expect(words()).toBe('down up, down miss, miss up, down up');
    expect(editor.selected.value).toEqual({ from: 1, to: 3 });
    await keys('.', '.');
    expect(editor.selected.value).toEqual({ from: 3, to: 5 });
  });

  it('takes fingers: a tap chooses, another changes, a swipe is a stroke, and a span', () => {
    editor.touch(1, 'tap', false);
    expect(words()).toBe(CIRCLE);
    expect(editor.cursor.value).toBe(1);
    editor.touch(1, 'tap', false);
    expect(words()).toBe('down up, down up, miss up, down up');
    editor.touch(1, 'tap', false);
    expect(words()).toBe(CIRCLE);
    editor.touch(4, 'down', true);
    expect(words()).toBe('down miss, down up, DOWN up, down up');
    editor.select(2, false);
    editor.select(5, true);
    expect(editor.selected.value).toEqual({ from: 2, to: 6 });
  });

  it('keeps its cursor inside a pattern that became shorter', async () => {
    await keys('End');
    songs.stepBack();
    await keys('Control+a', '1');
    await keys('End');
    expect(editor.cursor.value).toBe(3);
    expect(editor.grid.value).toHaveLength(4);
  });

  it('leaves other keys alone, the one for help among them', () => {
    expect(editor.press({ key: '?' })).toBe(false);
    expect(editor.press({ key: 'F5' })).toBe(false);
  });
});

describe('the rhythm that is edited', () => {
  const chord = { of: 'chord', symbol: 'C' } as const;

  it('is the song’s until another is there and chosen', async () => {
    songs.target = chord;
    await keys('m');
    expect(words()).toBe('miss miss, down up, miss up, down up');
  });

  it('is then the chord’s own, and the song’s is left alone', async () => {
    const own = { ...songs.song!.pattern, name: 'For C' };
    songs.run({
      name: 'give',
      apply: (song) => ({ ...song, chordPatterns: [{ symbol: 'C', pattern: own }] }),
    });
    songs.target = chord;
    await keys('c');
    expect(words()).toBe(CIRCLE);
    expect(say(songs.rhythm!)).toBe('chuck miss, down up, miss up, down up');
  });

  it('goes back to the song’s as another song is opened', async () => {
    songs.target = chord;
    scope.stop();
    songs.close();
    await songs.open('one');
    expect(songs.target).toEqual({ of: 'song' });
  });
});
