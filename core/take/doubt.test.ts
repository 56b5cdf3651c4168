import { describe, expect, it } from 'vitest';
import type { Strike } from '../arrange';
import type { Alignment } from './align';
import {
  chucksBesideStrums,
  LEAST_OF_USUAL,
  LEAST_RIGHT_THERE,
  LIKELY,
  knownWays,
  missedByEar,
  secondLook,
  SOFT,
} from './doubt';
import type { Judged } from './groups';
import type { Heard } from './onsets';

/** What a microphone may miss, and what it may take for a stroke, on both sides of each limit. */

const USUAL = 10;
const moment = (seconds: number, share: number): Heard => ({
  seconds,
  strength: share * USUAL,
  loudness: -6,
  rings: 0.8,
});
/** Three strokes half a second apart, the middle one left out. */
const alignment = {
  matches: [
    { heard: 0, expected: 0 },
    { heard: 1, expected: 2 },
  ],
  at: (place: number) => place * 0.5,
} as Pick<Alignment, 'matches' | 'at'> as Alignment;
const found = (...maybe: Heard[]) => secondLook(['a', 'b', 'c'], alignment, maybe, USUAL).get(1);

describe('a second look', () => {
  it('finds what is nearly half as strong within 45 ms', () => {
    expect(found(moment(0.544, LEAST_OF_USUAL))).toBeDefined();
    expect(found(moment(0.546, LEAST_OF_USUAL))).toBeUndefined();
    expect(found(moment(0.456, LEAST_OF_USUAL))).toBeDefined();
    expect(found(moment(0.53, LEAST_OF_USUAL - 0.01))).toBeUndefined();
    expect([LEAST_RIGHT_THERE, LEAST_OF_USUAL, LIKELY]).toEqual([0.33, 0.45, 0.55]);
  });

  it('finds what is fainter only right where it was meant', () => {
    expect(found(moment(0.512, LEAST_RIGHT_THERE))).toBeDefined();
    expect(found(moment(0.514, LEAST_RIGHT_THERE))).toBeUndefined();
  });

  it('takes the strongest, and leaves alone what is there', () => {
    const [weak, strong] = [moment(0.5, 0.46), moment(0.52, 0.6)];
    expect(found(weak, strong)).toBe(strong);
    expect(secondLook(['a', 'b', 'c'], alignment, [moment(0, 0.5)], USUAL).size).toBe(0);
  });
});

/** Strokes so many seconds apart; those at the places named were not heard. */
function played(
  kind: Strike['kind'],
  count: number,
  apart: number,
  out: number[],
  velocity = 0.6,
): Judged[] {
  const all = Array.from({ length: count }, (_, at) => ({
    index: at,
    strike: { kind, velocity } as Strike,
    seconds: at * apart,
    before: null,
    heard: out.includes(at) ? null : ({ off: 0 } as Judged['heard']),
    counts: true,
    hurried: false,
  }));
  missedByEar(all);
  return all;
}
const uncounted = (all: Judged[]) => all.filter(({ counts }) => !counts).length;

describe('what a microphone may miss', () => {
  it('is what is soft', () => {
    expect(uncounted(played('strum', 4, 0.5, [1], SOFT - 0.01))).toBe(1);
    expect(uncounted(played('strum', 4, 0.5, [1], SOFT))).toBe(0);
    expect(SOFT).toBe(0.45);
  });

  it('is what follows within a tenth of a second', () => {
    expect(uncounted(played('strum', 12, 0.09, [3]))).toBe(1);
    expect(uncounted(played('strum', 12, 0.11, [3]))).toBe(0);
  });

  it('are chucks, as long as two in three of them are heard', () => {
    expect(uncounted(played('chuck', 12, 0.5, [1, 4, 7, 9]))).toBe(4);
    expect(uncounted(played('chuck', 12, 0.5, [1, 4, 7, 9, 11]))).toBe(0);
  });
});

describe('ways of the hand', () => {
  type Ways = ('down' | 'up' | null)[];
  /** Eighths: downs and ups in turn, eight to the bar. */
  const known = (ways: Ways, asked = ways.length) =>
    knownWays(
      ways,
      ways.map((_, at) => ({ dir: at % 2 ? ('up' as const) : ('down' as const), slot: at % 8 })),
      asked,
    );
  const asMeant = (count: number): Ways =>
    Array.from({ length: count }, (_, at) => (at % 2 ? 'up' : 'down'));
  const turned = (ways: Ways, ...places: number[]): Ways =>
    ways.map((way, at) => (places.includes(at) ? (way === 'up' ? 'down' : 'up') : way));

  it('are told where half of those that were meant so are heard so', () => {
    const half = turned(asMeant(16), 8, 9, 10, 11, 12, 13, 14, 15);
    expect(known(half)).toEqual(half);
    const most = turned(half, 7);
    expect(known(most).filter((way, at) => at % 2 && way !== null)).toEqual([]);
    expect(known(most).filter((way) => way === null)).toHaveLength(8);
  });

  it('are not, where one goes the other way by itself', () => {
    const alone = known(turned(asMeant(16), 5));
    expect(alone[5]).toBeNull();
    expect(alone.filter((way) => way === null)).toHaveLength(1);
    const three = turned(asMeant(16), 5, 6, 7);
    expect(known(three)).toEqual(three);
    expect(known(turned(asMeant(16), 5, 6)).filter((way) => way === null)).toHaveLength(2);
  });

  it('are told at a place of the bar where three in five go the other way, of four', () => {
    const atPlace = (bars: number, times: number) =>
      turned(asMeant(bars * 8), ...Array.from({ length: times }, (_, bar) => 3 + 8 * bar));
    expect(known(atPlace(5, 3))).toEqual(atPlace(5, 3));
    expect(known(atPlace(5, 2)).filter((way) => way === null)).toHaveLength(2);
    expect(known(atPlace(4, 3))).toEqual(atPlace(4, 3));
    expect(known(atPlace(3, 3)).filter((way) => way === null)).toHaveLength(3);
  });

  it('are not, where hardly any strum is told at all', () => {
    expect(known(asMeant(15), 100)).toEqual(asMeant(15));
    expect(known(asMeant(14), 100)).toEqual(asMeant(14).map(() => null));
  });

  it('are passed over where nobody heard them', () => {
    expect(known([null, 'up', null, 'up'])).toEqual([null, 'up', null, 'up']);
  });
});

describe('whether chucks ring', () => {
  const heard = [0, 1].map((at) => moment(at, 1));
  /** Chucks of which some are damped, and strums that ring by so much. */
  const told = (damped: number, rings: number, strums: number, left: number) => {
    const listened = new Map(
      Array.from({ length: rings }, (_, at) => [at, { rings: at >= damped }] as const),
    ) as Map<number, { rings: boolean | null }>;
    const strikes = [
      ...Array.from({ length: rings }, () => ({ kind: 'chuck' })),
      ...Array.from({ length: strums }, () => ({ kind: 'strum' })),
    ] as Strike[];
    const sounds = strikes.map(({ kind }, at) => ({
      ...heard[0]!,
      rings: kind === 'chuck' ? 0.7 + at * 1e-4 : left + at * 1e-4,
    }));
    const matches = strikes.map((_, at) => ({ heard: at, expected: at }));
    chucksBesideStrums(listened, (at) => strikes[at]!, { matches } as Alignment, sounds);
    return [...listened.values()].some(({ rings: is }) => is !== null);
  };

  it('is told where a quarter of them surely does not', () => {
    expect(told(3, 12, 0, 0)).toBe(true);
    expect(told(2, 12, 0, 0)).toBe(false);
  });

  it('or where they ring as the strums do, of which there are four', () => {
    expect(told(0, 12, 8, 0.6988)).toBe(true);
    // Strums that ring on longer say that chucks are damped here, as far as they go.
    expect(told(0, 12, 24, 0.95)).toBe(false);
    expect(told(0, 12, 4, 0.6988)).toBe(true);
    expect(told(0, 12, 3, 0.6988)).toBe(false);
  });
});
