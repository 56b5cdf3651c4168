import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { tries } from '../properties.test-kit';
import { DIVISIONS } from '../schema';
import { noteValues } from './notated';

const beat = fc.constantFrom(1920, 960, 480, 240);
const division = fc.constantFrom(...DIVISIONS);

describe('note values', () => {
  it('fill any stretch between two places of any grids, exactly', () => {
    fc.assert(
      fc.property(
        beat,
        division,
        division,
        fc.nat(16),
        fc.nat(7),
        fc.nat(16),
        fc.nat(7),
        (ticks, one, other, beats, slot, more, end) => {
          const from = beats * ticks + ((slot % one) * ticks) / one;
          const to = (beats + more) * ticks + ((end % other) * ticks) / other;
          if (to <= from) return;
          const values = noteValues(from, to - from, ticks);
          expect(values.reduce((sum, value) => sum + value.ticks, 0)).toBeCloseTo(to - from, 9);
          expect(values.length).toBeLessThan(24);
        },
      ),
      tries(400),
    );
  });

  it('are whole notes and beats where they begin on a beat, and none for nothing', () => {
    expect(noteValues(0, 3840, 960).map(({ type }) => type)).toEqual(['whole']);
    expect(noteValues(960, 1920, 960).map(({ type }) => type)).toEqual(['half']);
    expect(noteValues(960, 0, 960)).toEqual([]);
    expect(noteValues(720, 480, 960).map(({ type }) => type)).toEqual(['16th', '16th']);
  });
});
