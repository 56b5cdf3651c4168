import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { documents } from '../arbitraries.test-kit';
import { arrangement, asPlayed, barPatterns } from '../arrange';
import { tries } from '../properties.test-kit';
import { divideBeat, newPattern, placeStroke, strum } from '../pattern';
import { said } from '../pattern/said.test-kit';
import type { Pattern, Stroke } from '../schema';
import { armPasses, slotSentences } from '../stroke';
import { METERS } from '../time';
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
  said('down miss up, down miss up, down down up, up down up', {
    ...newPattern(METERS['4/4']),
    arm: { school: 'shuffle', halfSwings: 2 },
  }),
];

describe('a sweep of the hand', () => {
  const words = 'down.i miss, down.i sweep-down.p sweep-up.i, down.i miss, down.i up.i';

  it('is drawn as one: with a bracket under it, and no kink', () => {
    const { sweeps, slots, arm } = draw(said(words));
    const [first, last] = [slots[2]!, slots[4]!];
    expect(sweeps).toHaveLength(1);
    const corners = numbers(sweeps[0]!);
    expect([corners[0], corners.at(-2)]).toEqual([first.x, last.x]);
    expect(Math.max(corners[1]!, corners[3]!)).toBeGreaterThan(frame.bandBottom);
    expect(slots.some(({ against }) => against)).toBe(false);
    expect(arm.some(({ kind }) => kind === 'kink')).toBe(false);
    expect(slotSentences(said(words))[3]).toMatch(/in one sweep with the stroke before$/);
  });

  it('has no bracket where nothing sounds before it', () => {
    expect(draw(said('down miss, sweep-down up, down up, down up')).sweeps).toEqual([]);
  });
});

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
    for (const swing of armPasses(pattern)) {
      const middle = handAt(swing.tick);
      expect(middle.y).toBeCloseTo(100, 3);
      expect(middle.x).toBeCloseTo(xOf(swing.tick), 6);
      const later = handAt(swing.tick + 60);
      expect(later.y > middle.y).toBe(swing.dir === 'down');
    }
    expect(slots.map((slot) => slot.x)).toEqual(armPasses(pattern).map((swing) => xOf(swing.tick)));
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
    expect(slots[0]!.brushes).toHaveLength(1);
    expect(slots[0]!.accents).toHaveLength(2);
    expect(slots[1]).toMatchObject({ brushes: [], hatches: null, dots: [] });
    expect(slots[2]!.dots[0]!.y).toBeCloseTo(70, 3);
    expect(slots[3]!.hatches).not.toBeNull();
    expect(arm.filter((piece) => piece.kind === 'rest')).toHaveLength(2);
  });

  it('covers only the strings that a stroke reaches', () => {
    const pattern = eighths(strum('down'));
    const reach = { first: 2, last: 5, bass: null, touched: [2, 3, 4, 5] };
    const { slots, strings } = drawPath(pattern, frame, () => reach, 1);
    const heights = numbers(slots[0]!.brushes[0]!).filter((_, index) => index % 2 === 1);
    expect(Math.min(...heights)).toBeGreaterThan(strings[1]!);
    expect(Math.min(...heights)).toBeLessThan(strings[2]!);
    expect(Math.max(...heights)).toBeGreaterThan(strings[5]!);
  });

  it('draws picks and basses as dots on their strings, with what they are', () => {
    const { slots, strings } = draw(said('R+s1 s3, fifth alternate, bass:s5f3 bass, miss miss'));
    expect(slots[0]!.dots.map(({ label, open }) => [label, open])).toEqual([
      ['R', false],
      ['1', true],
    ]);
    expect(slots[0]!.dots[1]!.y).toBeCloseTo(strings[5]!, 3);
    expect(slots[1]!.dots[0]!.y).toBeCloseTo(strings[3]!, 3);
    expect(slots.slice(2, 6).map(({ dots: [dot] }) => dot!.label)).toEqual(['5', 'A', '3', 'R']);
  });

  it('fans a roll, rings a tap below the band, leaves a transition hollow, blurs a palm', () => {
    const { slots } = draw(said('roll3 tap, slap+down open-up, palm-down down:i, chuck (chuck)'));
    expect(slots[0]!.brushes).toHaveLength(3);
    expect(slots[1]!.ring!.y).toBeGreaterThan(frame.bandBottom);
    expect(slots[1]!.ring!.slap).toBe(false);
    expect(slots[2]).toMatchObject({ ring: { slap: true }, brushes: [expect.any(String)] });
    expect(slots[3]!.hollow).toBe(true);
    expect(slots[4]!.blur).not.toBeNull();
    const heights = (d: string) => numbers(d).filter((_, index) => index % 2 === 1);
    const reachOf = (slot: number) => Math.max(...heights(slots[slot]!.brushes[0]!));
    expect(reachOf(4)).toBeLessThan(reachOf(5) - 20);
    expect(slots[5]!.fingers!.letters).toBe('i');
    const width = (slot: number) => {
      const [left, , right] = numbers(slots[slot]!.hatches!);
      return right! - left!;
    };
    expect(width(6)).toBeGreaterThan(width(7));
  });

  it('mirrors everything when the band is turned over', () => {
    const { top, bottom, bandTop, bandBottom } = frame;
    const over = { ...frame, top: bottom, bottom: top, bandTop: bandBottom, bandBottom: bandTop };
    const pattern = said('low-down up, R chuck, down tap, DOWN up');
    const plain = drawPath(pattern, frame, () => null, 1);
    const turned = drawPath(pattern, over, () => null, 1);
    const mirror = (y: number) => top + bottom - y;
    expect(turned.strings.map(mirror)).toEqual(plain.strings);
    for (const tick of [0, 300, 960, 2000]) {
      expect(mirror(turned.handAt(tick).y)).toBeCloseTo(plain.handAt(tick).y, 6);
    }
    expect(mirror(turned.slots[2]!.dots[0]!.y)).toBeCloseTo(plain.slots[2]!.dots[0]!.y, 6);
    expect(mirror(turned.slots[6]!.accents[0]!.y)).toBeCloseTo(plain.slots[6]!.accents[0]!.y, 6);
    expect(turned.slots[5]!.ring!.y).toBeGreaterThan(frame.bandBottom);
  });

  it('goes on with the arm where a row before it ended', () => {
    const seven = newPattern({ beats: 7, unit: 8, groups: [2, 2, 3] });
    const first = drawPath(seven, frame, () => null, 1);
    const second = drawPath(seven, frame, () => null, 1, 7);
    expect(first.handAt(100).y).toBeGreaterThan(100);
    expect(second.slots[0]!.against).toBe(true);
    expect(first.slots[0]!.against).toBe(false);
  });
});

it('draws every bar of any valid song, as it is written and as it is played', () => {
  fc.assert(
    fc.property(documents, (song) => {
      const { bars, rhythms, performance } = arrangement(song);
      const strings = song.instrument.strings.length;
      const drawings = barPatterns(rhythms);
      bars.forEach((bar, index) => {
        const { pattern, phase } = drawings[index]!;
        const strikes = performance.strikes.filter((strike) => strike.bar === index);
        for (const shown of [pattern, asPlayed(pattern, strikes, bar, strings)]) {
          const { arm } = drawPath(shown, { ...frame, strings }, () => null, 1, phase);
          expect(arm.every(({ d }) => !/NaN|Infinity|undefined/.test(d))).toBe(true);
        }
      });
    }),
    tries(60),
  );
});
