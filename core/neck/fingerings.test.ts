import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  fingerings,
  INSTRUMENTS,
  parseChord,
  shapeChoices,
  shapesFor,
  smoothestSet,
  unusualFingers,
} from '.';

const guitar = INSTRUMENTS.guitar;
const shape = (symbol: string, instrument = guitar) =>
  shapesFor(instrument, parseChord(symbol)!)[0]!;
const sets = (symbol: string) =>
  fingerings(shape(symbol)).map(({ fingers }) => fingers.filter((finger) => finger > 0).join(''));

describe('fingerings', () => {
  it('give an open minor shape with first and second finger too', () => {
    expect(sets('Em').slice(0, 2)).toEqual(['23', '12']);
  });

  it('give three in a row flat under one finger, or each its own', () => {
    expect(sets('A')[0]).toBe('123');
    expect(sets('A')).toContain('234');
    expect(sets('A')).toContain('111');
    expect(sets('A')).not.toContain('122');
  });

  it('leave a barre of six strings the only way to hold it', () => {
    expect(sets('F').every((fingers) => fingers.startsWith('1') && fingers.endsWith('11'))).toBe(
      true,
    );
  });

  it('never cross, never stretch beyond a fret each, and keep the frets', () => {
    const chords = fc.constantFrom('A', 'Bm', 'C7', 'Dm', 'E', 'F#m7', 'G', 'Cadd9', 'Gm6');
    const instruments = fc.constantFrom('guitar' as const, 'ukulele' as const, 'mandolin' as const);
    fc.assert(
      fc.property(chords, instruments, fc.nat(11), (symbol, id, at) => {
        const all = shapesFor(INSTRUMENTS[id], parseChord(symbol)!);
        const given = all[at % all.length]!;
        const found = fingerings(given);
        expect(found[0]!.fingers).toEqual(given.fingers);
        const names = found.map(({ fingers }) => fingers.join());
        expect(new Set(names).size).toBe(names.length);
        for (const { frets, fingers } of found.slice(1)) {
          expect(frets).toEqual(given.frets);
          const pressed = frets.flatMap((fret, string) =>
            fret ? [{ fret, string, finger: fingers[string]! }] : [],
          );
          for (const one of pressed) {
            expect(one.finger).toBeGreaterThan(0);
            for (const other of pressed) {
              if (one.fret < other.fret) {
                expect(one.finger).toBeLessThan(other.finger);
                expect(other.fret - one.fret).toBeLessThanOrEqual(other.finger - one.finger + 1);
              }
            }
          }
        }
      }),
    );
  });
});

it('fingers are priced by how unusual they are', () => {
  const c = (fingers: number[]) => unusualFingers({ frets: [null, 3, 2, 0, 1, 0], fingers });
  expect(c([0, 3, 2, 0, 1, 0])).toBe(0);
  expect(c([0, 4, 3, 0, 1, 0])).toBeGreaterThan(2);
  const em = (fingers: number[]) => unusualFingers({ frets: [0, 2, 2, 0, 0, 0], fingers });
  expect(em([0, 1, 2, 0, 0, 0])).toBeLessThan(em([0, 2, 3, 0, 0, 0]));
});

it('Em and C share the second finger in the smoothest set', () => {
  const song = { instrument: guitar, capo: 0, bassSchool: 'root' as const };
  const { shapes } = smoothestSet(shapeChoices(['Em', 'C'], song), ['Em', 'C', 'Em', 'C']);
  expect(shapes.get('C')!.fingers).toEqual([0, 3, 2, 0, 1, 0]);
  expect(shapes.get('Em')!.fingers).toEqual([0, 1, 2, 0, 0, 0]);
});
