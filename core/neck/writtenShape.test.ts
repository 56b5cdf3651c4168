import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { INSTRUMENTS, readShape, writeShape } from '.';

const { guitar, ukulele } = INSTRUMENTS;
const frets = (text: string, on = guitar) => {
  const read = readShape(text, on);
  return 'shape' in read ? read.shape.frets : read.problem;
};

describe('a shape as it is written', () => {
  it.each([
    ['x35500', [null, 3, 5, 5, 0, 0]],
    ['0 7 6 6 7 x', [0, 7, 6, 6, 7, null]],
    ['X-3-5-5-3-3', [null, 3, 5, 5, 3, 3]],
    ['10, 12, 12, 11, 10, 10', [10, 12, 12, 11, 10, 10]],
  ])('%s', (text, expected) => {
    expect(frets(text)).toEqual(expected);
  });

  it('has the usual fingers, or those that stand behind it', () => {
    expect(readShape('x32010', guitar)).toEqual({
      shape: { frets: [null, 3, 2, 0, 1, 0], fingers: [0, 3, 2, 0, 1, 0] },
    });
    expect(readShape('x13400/-13---', guitar)).toMatchObject({
      shape: { fingers: [0, 1, 3, 0, 0, 0] },
    });
    expect(readShape('x13300/-134--', guitar)).toMatchObject({
      shape: { fingers: [0, 1, 3, 4, 0, 0] },
    });
    expect(frets('0003', ukulele)).toEqual([0, 0, 0, 3]);
  });

  it('may have a finger that leans on a string and silences it', () => {
    const read = readShape('3x0003/22---3', guitar);
    const shape = { frets: [3, null, 0, 0, 0, 3], fingers: [2, 2, 0, 0, 0, 3] };
    expect(read).toEqual({ shape });
    expect(writeShape(shape)).toBe('3x0003/22---3');
  });

  it.each([
    ['x3201', 'There are 6 strings, and 5 of them are written.'],
    ['x3201o', '“o” is no fret: a number, or x where a string does not sound.'],
    ['x 3 2 0 1 99', '99 is beyond the neck: it has 20 frets.'],
    ['xxxxxx', 'No string sounds.'],
    ['x32010/-32', 'There are 6 strings, and 3 fingers are written.'],
    ['x32010/-32-1p', '“p” is no finger: 1 index to 4 little finger, or - for none.'],
    ['032010/132-1-', 'Finger 1 is on a string that is open.'],
    ['x32010/4-----', 'Finger 4 touches a string but presses none beside it.'],
    ['x32010/-32010/1', 'There is one stroke between frets and fingers.'],
  ])('says what is wrong with %s', (text, problem) => {
    expect(frets(text)).toBe(problem);
  });

  it('that is written is read as it was', () => {
    const string = fc.record({
      fret: fc.option(fc.integer({ min: 0, max: 20 }), { nil: null }),
      finger: fc.integer({ min: 0, max: 4 }),
    });
    fc.assert(
      fc.property(fc.array(string, { minLength: 6, maxLength: 6 }), (strings) => {
        fc.pre(strings.some(({ fret }) => fret !== null));
        const shape = {
          frets: strings.map(({ fret }) => fret),
          fingers: strings.map(({ fret, finger }) => (fret ? finger : 0)),
        };
        expect(readShape(writeShape(shape), guitar)).toEqual({ shape });
      }),
    );
  });
});
