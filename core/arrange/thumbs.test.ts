import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { said } from '../pattern/said.test-kit';
import { newSong } from '../song';
import { arrange, arrangement } from './arrange';

/** Picking on strings whose first is not the lowest. */

const strings = (
  words: string,
  progression = 'C | F | G7 | Am',
  instrument = 'ukulele' as const,
) => {
  const song = { ...newSong({ title: 'Pegs', instrument, progression }), pattern: said(words) };
  return arrangement(song).performance.strikes.map(({ notes }) =>
    notes.map(({ string }) => string),
  );
};
const perBar = (all: number[][], count: number) =>
  Array.from({ length: all.length / count }, (_, bar) => all.slice(bar * count, (bar + 1) * count));

describe('picking on a re-entrant ukulele', () => {
  it('has the thumb on g or C and the fingers beyond it, counted across the neck', () => {
    for (const [root, first, second] of perBar(
      strings('R R+1, R+2 R+1').map(([at]) => [at!]),
      4,
    )) {
      expect([0, 1]).toContain(root![0]);
      expect(first![0]).toBeGreaterThan(root![0]!);
      expect(second![0]).toBeGreaterThan(first![0]!);
    }
  });

  it('with a finger for every string leaves the thumb the one that is left', () => {
    const bars = perBar(strings('R.p s3.i, s2.m s1.a'), 4);
    for (const bar of bars) expect(bar.flat()).toEqual([0, 1, 2, 3]);
  });

  it('is the same on a pattern that a guitar has played before', () => {
    const pattern = said('R.p s3.i, s2.m s1.a');
    const of = (instrument: 'guitar' | 'ukulele') =>
      arrangement({ ...newSong({ title: 'Pegs', instrument, progression: 'C | F' }), pattern })
        .performance.strikes.slice(0, 4)
        .flatMap(({ notes }) => notes.map(({ string }) => string));
    expect(of('guitar').slice(1)).toEqual([3, 4, 5]);
    expect(of('ukulele')).toEqual([0, 1, 2, 3]);
  });

  it('never strikes two strings of a pinch as one', () => {
    for (const [first] of perBar(strings('R.p+s1.a s2.m, R.p s3.i, R.p+s2.m s1.a, R.p s3.i'), 8)) {
      expect(new Set(first).size).toBe(2);
    }
  });

  it('goes to and fro between the thumb’s strings in bass and strum', () => {
    const struck = strings('bass down, alternate down, bass down, alternate down');
    const basses = struck.filter(({ length }) => length === 1).map(([at]) => at!);
    expect(basses).toHaveLength(16);
    basses.forEach((at, index) => {
      if (index % 2) expect(at).toBe(1 - basses[index - 1]!);
    });
  });

  it('never crosses the fingers, whatever the chords', () => {
    const chords = fc.constantFrom('C', 'Am', 'F', 'G7', 'Dm', 'Em', 'Bb', 'A', 'E', 'D/F#', 'Gm');
    const pinches = fc.constantFrom(
      'R.p+R+1.i',
      'R.p+R+2.m',
      'R.p+R+1.i+R+2.m',
      'R.p+R+1.i+R+2.m+R+3.a',
    );
    const instruments = fc.constantFrom('ukulele' as const, 'ukulele-low' as const);
    fc.assert(
      fc.property(
        fc.array(chords, { minLength: 1, maxLength: 4 }),
        fc.array(pinches, { minLength: 4, maxLength: 4 }),
        instruments,
        (some, words, instrument) => {
          const start = newSong({ title: 'Cut', instrument, progression: some.join(' | ') });
          const song = {
            ...start,
            pattern: said(words.join(', ')),
          };
          for (const { kind, notes } of arrange(song).strikes) {
            if (kind !== 'pick') continue;
            // Notes are in the order in which they were said: thumb, index, middle, ring.
            const strings = notes.map(({ string }) => string);
            expect(new Set(strings).size).toBe(strings.length);
            expect([...strings].sort((a, b) => a - b)).toEqual(strings);
          }
        },
      ),
    );
  });
});
