import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { tries } from '../properties.test-kit';
import type { LegatoHow, Shape } from '../schema';
import { type LineNote, lineFingers, lineWords } from './lineFingers';

const G: Shape = { frets: [3, 2, 0, 0, 0, 3], fingers: [2, 1, 0, 0, 0, 3] };
const Em: Shape = { frets: [0, 2, 2, 0, 0, 0], fingers: [0, 2, 3, 0, 0, 0] };
const D: Shape = { frets: [null, null, 0, 2, 3, 2], fingers: [0, 0, 0, 1, 3, 2] };

/** Notes as string, fret and how they are sounded, all over one shape. */
const path = (notes: [number, number, LegatoHow?][], shape: Shape | null) =>
  lineFingers(
    notes.map(([string, fret, how]) => ({ string, fret, how })),
    notes.map(() => shape),
  );
const fingers = (...of: Parameters<typeof path>) => path(...of).map(({ finger }) => finger);

describe('fingers of a line', () => {
  it('hammers with the next finger, and not with the one that is there', () => {
    const line: [number, number, LegatoHow?][] = [
      [0, 0],
      [0, 2],
      [0, 3, 'hammer'],
      [0, 4, 'hammer'],
    ];
    expect(fingers(line, null)).toEqual([0, 2, 3, 4]);
    expect(fingers(line, Em)).toEqual([0, 1, 3, 4]);
  });

  it('lets the little finger step over rather than lift one of the chord', () => {
    expect(path([[4, 3]], G)).toEqual([{ finger: 4, lifts: [] }]);
  });

  it('pulls off to a finger that lies there, and lifts it for the open string', () => {
    const pulled = path(
      [
        [5, 3],
        [5, 2, 'pull'],
        [5, 0, 'pull'],
      ],
      D,
    );
    expect(pulled.map(({ finger }) => finger)).toEqual([4, 2, 0]);
    expect(lineWords(pulled, D)).toBe('Play these without lifting: first and third stay.');
  });

  it('slides on one finger, and the hand goes along', () => {
    const slid: [number, number, LegatoHow?][] = [
      [2, 2],
      [2, 4, 'slide'],
      [2, 7, 'slide'],
      [2, 9, 'hammer'],
    ];
    expect(fingers(slid, null)).toEqual([1, 1, 1, 3]);
  });

  it('keeps a finger a fret in a place of the neck', () => {
    const up: [number, number][] = [
      [0, 5],
      [0, 8],
      [1, 5],
      [1, 7],
      [2, 5],
      [2, 7],
      [4, 5],
      [4, 8],
    ];
    expect(fingers(up, null)).toEqual([1, 4, 1, 3, 1, 3, 1, 4]);
  });

  it('holds notes at once with one hand: fingers in their order, or one of them flat', () => {
    const [low, high] = lineFingers(
      [
        { string: 1, fret: 5 },
        { string: 4, fret: 7, together: true },
      ],
      [null, null],
    );
    expect(high!.finger).toBeGreaterThan(low!.finger);
    const flat = lineFingers(
      [
        { string: 4, fret: 5 },
        { string: 5, fret: 5, together: true },
      ],
      [null, null],
    );
    expect(flat[0]!.finger).toBeLessThanOrEqual(flat[1]!.finger);
  });

  it('gives every fretted note a finger that can sound it, whatever the line', () => {
    const note: fc.Arbitrary<LineNote> = fc.record({
      string: fc.nat({ max: 5 }),
      fret: fc.nat({ max: 12 }),
      how: fc.constantFrom<(LegatoHow | undefined)[]>(undefined, undefined, 'hammer', 'slide'),
    });
    fc.assert(
      fc.property(
        fc.array(note, { minLength: 1, maxLength: 12 }),
        fc.constantFrom(null, G, Em, D),
        (raw, shape) => {
          // A hammer goes up and a slide somewhere, on a string that sounds under a finger.
          const notes = raw.map((one, index): LineNote => {
            const before = raw[index - 1];
            const from = before && before.string === one.string ? before.fret : 0;
            if (!one.how || from === 0) return { string: one.string, fret: one.fret };
            if (one.how === 'hammer' && one.fret <= from) {
              return { string: one.string, fret: one.fret };
            }
            return one.fret === 0 || one.fret === from ? { ...one, how: undefined } : one;
          });
          const found = lineFingers(
            notes,
            notes.map(() => shape),
          );
          expect(found).toHaveLength(notes.length);
          found.forEach(({ finger }, index) => {
            const now = notes[index]!;
            expect(finger === 0).toBe(now.fret === 0);
            const before = found[index - 1];
            if (!now.how || !before || before.finger === 0) return;
            if (now.how === 'slide') expect(finger).toBe(before.finger);
            // A little finger that is followed by a hammer on its string is the one thing that no hand can do.
            else if (before.finger < 4) expect(finger).toBeGreaterThan(before.finger);
          });
        },
      ),
      tries(150),
    );
  });
});
