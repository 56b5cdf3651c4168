import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { MAX_TUNE_NOTES, type TuneNote, tuneSchema } from '../schema';
import { tries } from '../properties.test-kit';
import { barTicks, METERS } from '../time';
import { addNote, nearestPlace, placeNote, removeNote, TUNE_PARTS, tuneGrid } from '.';

const note = (at: number, fret = 0): TuneNote => ({ at, string: 3, fret });

describe('notes written one by one', () => {
  it('have the places of their meter, named as they are counted', () => {
    expect(tuneGrid(METERS['4/4'], 1).map(({ at }) => at)).toEqual([0, 960, 1920, 2880]);
    expect(tuneGrid(METERS['3/4'], 2).map(({ name }) => name)).toEqual([
      '1',
      'the & of 1',
      '2',
      'the & of 2',
      '3',
      'the & of 3',
    ]);
    expect(tuneGrid(METERS['4/4'], 3)[1]).toMatchObject({ at: 320 });
    expect(tuneGrid(METERS['6/8'], 1)).toHaveLength(6);
  });

  it('lie on the nearest place of the grid, whenever they are tapped', () => {
    expect(nearestPlace(METERS['4/4'], 2, 250)).toBe(480);
    expect(nearestPlace(METERS['4/4'], 2, 230)).toBe(0);
    expect(nearestPlace(METERS['4/4'], 4, -90)).toBe(0);
    // Just before the next bar line is still of this bar.
    expect(nearestPlace(METERS['4/4'], 2, 3839)).toBe(3360);
    fc.assert(
      fc.property(
        fc.constantFrom(...Object.values(METERS)),
        fc.constantFrom(...TUNE_PARTS),
        fc.double({ min: -4000, max: 20_000, noNaN: true }),
        (meter, parts, tick) => {
          const place = nearestPlace(meter, parts, tick);
          expect(tuneGrid(meter, parts).map(({ at }) => at)).toContain(place);
          expect(place).toBeLessThan(barTicks(meter));
        },
      ),
      tries(200),
    );
  });

  it('have no place where a pick-up is not played', () => {
    expect(tuneGrid(METERS['4/4'], 2, 2880).map(({ at }) => at)).toEqual([2880, 3360]);
    expect(nearestPlace(METERS['4/4'], 2, 100, 2880)).toBe(2880);
  });

  it('sound at once with those that are there, each on its string', () => {
    const at = (string: number, fret: number, how?: 'hammer') => ({
      at: 0,
      string,
      fret,
      ...(how && { how }),
    });
    const two = addNote(addNote([], at(2, 1)), at(5, 3));
    expect(two).toEqual([at(5, 3), at(2, 1)]);
    expect(addNote(two, at(5, 2))).toEqual([at(5, 2), at(2, 1)]);
    expect(addNote(two, at(5, 3))).toEqual([at(2, 1)]);
    expect(addNote(two, at(1, 0, 'hammer'))).toEqual([at(5, 3), at(2, 1), at(1, 0)]);
    expect(addNote([at(3, 2, 'hammer')], at(1, 0))).toEqual([at(1, 0)]);
  });

  it('take the place of what lies on their time, stay in order, and are no more than a bar holds', () => {
    const line = placeNote(placeNote([note(480, 2)], note(0, 5)), note(480, 7));
    expect(line).toEqual([note(0, 5), note(480, 7)]);
    expect(removeNote(line, 480)).toEqual([note(0, 5)]);
    expect(removeNote(line, 960)).toEqual(line);
    const full = Array.from({ length: MAX_TUNE_NOTES }, (_, index) => note(index * 10));
    expect(placeNote(full, note(5))).toBe(full);
    expect(placeNote(full, note(10, 4))).toHaveLength(MAX_TUNE_NOTES);
    expect(tuneSchema.parse({ notes: line })).toEqual({ notes: line });
  });
});
