import { describe, expect, it } from 'vitest';
import type { Song } from '../schema';
import { landings, newSong, playedBars, printProgression } from '../song';
import { plantChord } from './plantChord';

const song = newSong({ title: 'Paddle', instrument: 'guitar', progression: 'G | Em . C . | D' });

/** The line after a chord was planted at a beat of the song, from 0; or why it was not. */
function plant(symbol: string, beat: number, on: Song = song): string {
  const bars = playedBars(on);
  const landing = landings(bars).find((one) => one.symbol === symbol)!;
  const done = plantChord(bars, landing, beat * 960);
  if (typeof done === 'string') return done;
  const { sections, meter } = done.apply(on);
  return printProgression(sections, meter);
}

describe('a chord is planted', () => {
  it('over the bar line by an eighth or a sixteenth, and comes back', () => {
    expect(plant('Em', 3.5)).toContain('<Em');
    expect(plant('Em', 3.75)).toContain('<<Em');
    const pushed = newSong({ title: 'P', instrument: 'guitar', progression: 'G | <Em . C . | D' });
    expect(plant('Em', 4, pushed)).not.toContain('<');
    expect(plant('Em', 3.75, pushed)).toContain('<<Em');
  });

  it('inside its bar, a push staying a push', () => {
    expect(plant('C', 7)).toContain('Em . . C');
    expect(plant('C', 5)).toContain('Em C . .');
  });

  it('or it is said why not', () => {
    expect(plant('G', -0.5)).toBe('Nothing comes before the first bar: G stays on it.');
    expect(plant('C', 3.5)).toBe('C comes in the middle of its bar; it cannot land before it.');
    expect(plant('C', 8)).toMatch('Write it in the next one');
    expect(plant('Em', 3)).toMatch('Write it in the bar before to land earlier.');
  });
});
