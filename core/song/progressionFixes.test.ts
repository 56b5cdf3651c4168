import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { hasCrowdedLine, oneBarEach, progressionParts, withReading } from '.';

const problem = (from: number, to: number) => ({ from, to, message: 'is no chord' });

describe('a progression with problems', () => {
  it('is cut at them, in order, without what overlaps', () => {
    const parts = progressionParts('A | Hx | Qy', [problem(9, 11), problem(4, 6), problem(5, 7)]);
    expect(parts).toEqual([
      { text: 'A | ', bad: false },
      { text: 'Hx', bad: true },
      { text: ' | ', bad: false },
      { text: 'Qy', bad: true },
      { text: '', bad: false },
    ]);
    expect(progressionParts('A |', [problem(3, 3)])[1]).toEqual({ text: ' ', bad: true });
  });

  it('keeps every letter, whatever the problems are', () => {
    const places = fc.array(fc.tuple(fc.nat(30), fc.integer({ min: 1, max: 5 })), { maxLength: 6 });
    fc.assert(
      fc.property(fc.string({ minLength: 36, maxLength: 40 }), places, (text, found) => {
        const parts = progressionParts(
          text,
          found.map(([from, length]) => problem(from, from + length)),
        );
        expect(parts.map((part) => part.text).join('')).toBe(text);
      }),
    );
  });

  it('takes another reading in the place of one', () => {
    expect(withReading('A | Am77 | D', problem(4, 8), 'Am7')).toBe('A | Am7 | D');
  });
});

describe('chords without bar lines', () => {
  it('can have one bar each, but for lines that say their bars', () => {
    expect(hasCrowdedLine('C Am F G7')).toBe(true);
    expect(oneBarEach('C Am F G7 x2\nVerse:\nC . G .\nA D')).toBe(
      'C | Am | F | G7 x2\nVerse:\nC . G .\nA D',
    );
    for (const text of ['C Am', 'C | Am F G', 'C . Am .', 'C Am x2', '']) {
      expect(hasCrowdedLine(text)).toBe(false);
      expect(oneBarEach(text)).toBe(text);
    }
    expect(hasCrowdedLine(oneBarEach('C Am F G7'))).toBe(false);
  });
});
