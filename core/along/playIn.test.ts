import { describe, expect, it } from 'vitest';
import { arrangement } from '../arrange';
import { fretChords } from '../neck';
import { newPattern } from '../pattern';
import { said } from '../pattern/said.test-kit';
import { newSong } from '../song';
import { say } from '../stroke';
import { playTake, takeSound } from '../take';
import { METERS } from '../time';
import { playIn } from '.';

const RATE = 22_050;

/** A pattern as somebody plays it over some bars, at a tempo, with a room around it. */
function played(words: string, { tempo = 90, bars = 4, meter = METERS['4/4'], jitter = 6 } = {}) {
  const song = {
    ...newSong({
      title: 'Lock',
      instrument: 'guitar',
      progression: Array.from({ length: bars }, () => 'A').join(' | '),
      tempo,
      meter,
    }),
    pattern: said(words, newPattern(meter)),
  };
  const { performance } = arrangement(song);
  const take = playTake(performance, meter, { jitter, seed: 7 });
  const samples = takeSound(take, meter, 'guitar', RATE, { lead: 0.7, noise: 36, seed: 3 });
  return { recording: { samples, sampleRate: RATE }, chord: fretChords(song)('A')! };
}

describe('a pattern that is played in', () => {
  it('is what was played: strokes, chucks, misses, on the grid that it needs', () => {
    for (const words of [
      'down miss, down up, miss up, down up',
      'down up, chuck up, down up, chuck up',
      'down miss miss up, miss up down up, down miss down up, down up miss up',
    ]) {
      const { recording, chord } = played(words);
      const heard = playIn(recording, 90, newPattern(METERS['4/4']), chord)!;
      expect(say(heard.pattern).toLowerCase(), words).toBe(words);
      expect(heard.bars).toBeGreaterThanOrEqual(3);
    }
  });

  it('may be played slower or faster than it was counted in', () => {
    const words = 'down miss, down up, miss up, down up';
    for (const counted of [84, 96]) {
      const { recording } = played(words, { tempo: 90, bars: 6 });
      const heard = playIn(recording, counted, newPattern(METERS['4/4']), null)!;
      expect(say(heard.pattern).toLowerCase()).toBe(words);
      expect(Math.abs(heard.tempo - 90)).toBeLessThan(1.5);
    }
  });

  it('is in the meter and as long as is asked for', () => {
    const waltz = played('down miss, down up, down up', { meter: METERS['3/4'], bars: 6 });
    const heard = playIn(waltz.recording, 90, newPattern(METERS['3/4']), null)!;
    expect(say(heard.pattern).toLowerCase()).toBe('down miss, down up, down up');
    expect(heard.pattern.meter).toEqual(METERS['3/4']);
    const two = played(
      'down miss, down up, miss up, down up | down miss, down miss, down miss, down up',
      {
        bars: 8,
      },
    );
    const base = newPattern(METERS['4/4']);
    const long = { ...base, beats: [...base.beats, ...base.beats] };
    expect(say(playIn(two.recording, 90, long, null)!.pattern).toLowerCase()).toBe(
      'down miss, down up, miss up, down up | down miss, down miss, down miss, down up',
    );
  });

  it('marks what is struck in some turns only, and is nothing where nothing is heard', () => {
    const { recording } = played('down miss, down up, miss up, down up', { bars: 4 });
    // The last stroke of one bar of four is cut out of the sound.
    const cut = recording.samples.slice();
    const beat = 60 / 90;
    const from = Math.round((0.7 + 8 * beat - 0.36) * RATE);
    cut.fill(0, from, from + Math.round(0.3 * RATE));
    const heard = playIn({ samples: cut, sampleRate: RATE }, 90, newPattern(METERS['4/4']), null)!;
    expect(heard.unsure).toContain(7);
    const silence = { samples: new Float32Array(RATE * 3), sampleRate: RATE };
    expect(playIn(silence, 90, newPattern(METERS['4/4']), null)).toBeNull();
  });
});
