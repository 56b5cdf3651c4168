import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { arrangement } from '../arrange';
import { INSTRUMENTS } from '../neck';
import type { ChangeTime, Shape } from '../schema';
import { newSong } from '../song';
import { gapsOf, handFrom, handReport, changeDuration, pairOf, timedChange } from '.';

const C: Shape = { frets: [null, 3, 2, 0, 1, 0], fingers: [0, 3, 2, 0, 1, 0] };
const AM: Shape = { frets: [null, 0, 2, 2, 1, 0], fingers: [0, 0, 2, 3, 1, 0] };
const { guitar } = INSTRUMENTS;
const { strings } = guitar;

const timing = (gaps: number[], day = 1, parts: Partial<ChangeTime> = {}): ChangeTime => ({
  id: String(day),
  madeAt: `2026-10-0${day}T19:30:00.000Z`,
  from: 'C',
  to: 'Am',
  fromShape: C,
  toShape: AM,
  instrument: 'Guitar',
  strings,
  gaps,
  source: 'taps',
  ...parts,
});

describe('a timed change', () => {
  it('leaves slips out and says how many', () => {
    expect(timedChange([500, 520, 480, 510, 2400])).toEqual({
      changes: 4,
      left: 1,
      median: 505,
      spread: 18,
    });
  });

  it('is the same in any order, and lies within what was counted', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 5000 }), { minLength: 1 }), (gaps) => {
        const found = timedChange(gaps);
        expect(timedChange([...gaps].reverse())).toEqual(found);
        expect(found.changes + found.left).toBe(gaps.length);
        expect(found.median).toBeGreaterThanOrEqual(Math.min(...gaps));
        expect(found.median).toBeLessThanOrEqual(Math.max(...gaps));
      }),
    );
  });

  it('comes from the times of its taps', () => {
    expect(gapsOf([1, 1.5, 2.25])).toEqual([500, 750]);
    expect(gapsOf([1])).toEqual([]);
  });
});

describe('a hand', () => {
  it('takes the latest timing of a pair, there and back', () => {
    const hand = handFrom([timing([600], 2), timing([900], 1)], guitar);
    expect(hand.measured.get(pairOf(AM, C))).toBe(600);
    const model = (changeDuration(C, AM, 65).ms + changeDuration(AM, C, 65).ms) / 2;
    expect(hand.factor).toBeCloseTo(600 / model, 9);
  });

  it('knows nothing from other strings', () => {
    const other = timing([600], 1, { strings: [67, 60, 64, 69] });
    expect(handFrom([other], guitar)).toEqual({ factor: 1, measured: new Map() });
  });

  it('puts what was measured in place of the model, and scales the rest', () => {
    const song = newSong({ title: 'Weir', instrument: 'guitar', progression: 'C | Am | F' });
    const arranged = arrangement(song);
    const plain = handReport(arranged);
    const hand = handFrom([timing([2 * changeDuration(C, AM, 65).ms])], guitar);
    const slow = handReport(arranged, hand);
    const of = ({ kinds }: typeof plain, to: string) =>
      kinds.find((kind) => kind.to.symbol === to)!;
    expect(of(slow, 'Am').measured).toBe(true);
    expect(of(slow, 'Am').ceiling).toBeCloseTo(of(plain, 'Am').ceiling! / 2, 6);
    expect(of(slow, 'F').measured).toBe(false);
    expect(of(slow, 'F').ceiling).toBeCloseTo(of(plain, 'F').ceiling! / hand.factor, 6);
  });
});
