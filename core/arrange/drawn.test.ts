import { describe, expect, it } from 'vitest';
import { drawPath, FRAMES } from '../path';
import { said } from '../pattern/said.test-kit';
import { newSong } from '../song';
import { arrangement, struckStrings } from '.';

describe('picks and basses on the strings of their chord', () => {
  it('lie where they are struck, and strums go over all', () => {
    const song = {
      ...newSong({ title: 'T', instrument: 'guitar', progression: 'C | G' }),
      pattern: said('R R+1, down up, bass miss, down up'),
    };
    const { performance, bars } = arrangement(song);
    const strings = (bar: number) => {
      const from = bars[bar]!.tick;
      const own = performance.strikes.filter((strike) => strike.bar === bar);
      return [...struckStrings(song.pattern, own, from)].map(([slot, { touched }]) => [
        slot,
        touched,
      ]);
    };
    // C has its root on the fifth string, G on the sixth; strings are counted from the thumb, from 0.
    expect(strings(0)).toEqual([
      [0, [1]],
      [1, [2]],
      [4, [1]],
    ]);
    expect(strings(1)).toEqual([
      [0, [0]],
      [1, [1]],
      [4, [0]],
    ]);
  });

  it('a string said by its number keeps its label, whatever the chord', () => {
    const pattern = said('R+s6 miss, miss, miss, miss');
    const frame = { ...FRAMES.middle, width: 400, strings: 6 };
    const reach = { first: 0, last: 1, bass: null, touched: [0, 1] };
    const { slots: drawn } = drawPath(pattern, frame, (slot) => (slot === 0 ? reach : null), 1);
    expect(drawn[0]!.dots.map(({ label }) => label)).toEqual(['6', 'R']);
  });
});
