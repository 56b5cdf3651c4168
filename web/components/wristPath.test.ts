import {
  armSwings,
  divideBeat,
  METERS,
  newPattern,
  type Pattern,
  placeStroke,
  strum,
  type Stroke,
} from '#core';
import { describe, expect, it } from 'vitest';
import { drawPath, type PathFrame } from './wristPath';

const frame: PathFrame = {
  width: 1000,
  top: 0,
  bottom: 200,
  bandTop: 50,
  bandBottom: 150,
  strings: 6,
  pad: 10,
};
const draw = (pattern: Pattern) => drawPath(pattern, frame, () => null, 1);
const numbers = (d: string) => [...d.matchAll(/-?\d+(\.\d+)?/g)].map((match) => Number(match[0]));

function eighths(...strokes: Stroke[]): Pattern {
  return strokes.reduce<Pattern>(
    (pattern, stroke, slot) => placeStroke(pattern, slot, stroke),
    newPattern(METERS['4/4']),
  );
}

const hold: Stroke = { kind: 'hold' };
const anyArm = [
  eighths(strum('down'), strum('up'), strum('up'), strum('down')),
  eighths(strum('up'), hold, hold, hold, strum('up')),
  eighths(hold),
  divideBeat(divideBeat(newPattern(METERS['4/4']), 1, 3), 2, 4),
  { ...newPattern(METERS['3/4']), arm: { school: 'all-downs', halfSwings: 2 } as const },
];

describe('the wrist path', () => {
  it.each(anyArm.map((pattern, index) => [index, pattern] as const))(
    'is one unbroken curve from edge to edge (%i)',
    (_, pattern) => {
      const ends = draw(pattern).arm.map(({ d }) => {
        const all = numbers(d);
        return { start: all.slice(0, 2), end: all.slice(-2) };
      });
      expect(ends[0]!.start[0]).toBeCloseTo(frame.pad, 6);
      expect(ends.at(-1)!.end[0]).toBeCloseTo(frame.width - frame.pad, 6);
      ends.slice(1).forEach(({ start }, index) => {
        expect(start[0]).toBeCloseTo(ends[index]!.end[0]!, 2);
        expect(start[1]).toBeCloseTo(ends[index]!.end[1]!, 2);
      });
    },
  );

  it('turns at the edges and crosses the strings on the slot, in the arm’s direction', () => {
    const pattern = newPattern(METERS['4/4']);
    const { handAt, slots, xOf } = draw(pattern);
    for (const swing of armSwings(pattern)) {
      const middle = handAt(swing.tick);
      expect(middle.y).toBeCloseTo(100, 3);
      expect(middle.x).toBeCloseTo(xOf(swing.tick), 6);
      const later = handAt(swing.tick + 60);
      expect(later.y > middle.y).toBe(swing.dir === 'down');
    }
    expect(slots.map((slot) => slot.x)).toEqual(armSwings(pattern).map((swing) => xOf(swing.tick)));
  });

  it('brings the hand from the end of the pattern back to its start', () => {
    const { handAt } = draw(newPattern(METERS['4/4']));
    expect(handAt(3840 - 1).x).toBeLessThan(frame.width / 4);
    expect(handAt(3840 - 1).y).toBeCloseTo(handAt(0).y - 0.83, 1);
  });

  it('kinks where a stroke goes against the arm, and only there', () => {
    const { arm, slots } = draw(eighths(strum('down'), strum('down')));
    expect(arm.filter((piece) => piece.kind === 'kink')).toHaveLength(2);
    expect(slots.filter((slot) => slot.against).map((slot) => slot.index)).toEqual([1]);
  });

  it('draws each stroke in its own form', () => {
    const { slots, arm } = draw(
      eighths(
        { kind: 'strum', dir: 'down', accent: 'strong' },
        { kind: 'miss' },
        { kind: 'bass', accent: 'normal' },
        { kind: 'chuck', dir: 'up', accent: 'normal' },
        hold,
        hold,
      ),
    );
    expect(slots[0]!.brush).not.toBeNull();
    expect(slots[0]!.accent).not.toBeNull();
    expect(slots[1]).toMatchObject({ brush: null, hatches: null, dot: null });
    expect(slots[2]!.dot!.y).toBeCloseTo(50, 3);
    expect(slots[3]!.hatches).not.toBeNull();
    expect(arm.filter((piece) => piece.kind === 'rest')).toHaveLength(2);
  });

  it('covers only the strings that a stroke reaches', () => {
    const pattern = eighths(strum('down'));
    const reach = { first: 2, last: 5, bass: null };
    const { slots, strings } = drawPath(pattern, frame, () => reach, 1);
    const heights = numbers(slots[0]!.brush!).filter((_, index) => index % 2 === 1);
    expect(Math.min(...heights)).toBeGreaterThan(strings[1]!);
    expect(Math.min(...heights)).toBeLessThan(strings[2]!);
    expect(Math.max(...heights)).toBeGreaterThan(strings[5]!);
  });
});
