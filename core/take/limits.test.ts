import { describe, expect, it } from 'vitest';
import { PROGRESSION, take } from './evidence.test-kit';
import { type Judged, toleranceOf } from './groups';

/** Limits of the clock and of landings, each on both sides of it. Strokes are in time within 45 ms here. */

const QUARTERS = 'down, down, down, down';
const ONCE = 'C | Am | F | G';
const asItWas = () => undefined;
const isLanding = ({ strike, before }: Judged) =>
  before !== null && before.chord !== strike.chord && strike.landing;
/** Each stroke off by so much, early in one bar and late in the next. */
const scattered = (by: number) => (all: Judged[]) =>
  all.forEach(({ heard, strike }) => (heard!.off = strike.bar % 2 ? by : -by));
const clock = (tempo: { start: number; mean: number; end: number }, tempoError = 0.1) =>
  take(QUARTERS, asItWas, undefined, 100, { tempo, tempoError }).trouble;

describe('what is in time', () => {
  it('strokes within 20 ms belong together: their gap is not that of the pattern', () => {
    expect(toleranceOf([0, 0.018, 0.4, 0.8])).toBe(45);
    expect(toleranceOf([0, 0.022, 0.4, 0.8])).toBe(30);
  });
});

describe('limits of the clock', () => {
  it('another tempo is one that changes by less than 2.5 per cent, or three fifths of what it is beside', () => {
    const other = (mean: number, changes: number) =>
      clock({ start: mean - changes / 2, mean, end: mean + changes / 2 });
    expect(other(6, 3.5)).toBe('tempo');
    expect(other(6, 3.7)).not.toBe('tempo');
    expect(other(3.6, 2.4)).toBe('tempo');
    expect(other(3.6, 2.6)).not.toBe('tempo');
  });

  it('somebody rushes from 1.4 per cent at the end, and three times what is not sure', () => {
    const ends = (end: number, error?: number) => clock({ start: 0, mean: end / 2, end }, error);
    expect(ends(1.3)).toBe('clean');
    expect(ends(1.5)).toBe('rushing');
    expect(ends(-1.5)).toBe('dragging');
    expect(ends(2, 0.7)).toBe('clean');
    expect(ends(2, 0.6)).toBe('rushing');
  });

  const stops = (at: number[], seconds: number, change: (all: Judged[]) => void = asItWas) =>
    take(QUARTERS, change, undefined, 100, { stops: at.map((one) => ({ at: one, seconds })) });

  it('a stop is one from 80 ms on, and from four deviations of the strokes', () => {
    expect(stops([8], 0.07).trouble).toBe('clean');
    expect(stops([8], 0.09).trouble).toBe('waits');
    // 20 ms to either side are 30 of deviation.
    expect(stops([8], 0.11, scattered(20)).trouble).toBe('clean');
    expect(stops([8], 0.13, scattered(20)).trouble).toBe('waits');
  });

  it('three stops are told one by one, and how many more there are', () => {
    expect(stops([4, 8, 12], 0.3).sentence).not.toMatch(/more/);
    expect(stops([4, 8, 12, 16, 20], 0.3).sentence).toMatch(/, and 2 more\./);
  });

  it('strokes are uneven where more than 15 of 100 are out of time', () => {
    const out = (share: number) => (all: Judged[]) => {
      scattered(18)(all);
      all.forEach(({ heard }, at) => {
        if ((at * 7) % 48 < share * 48) heard!.off = at % 2 ? 60 : -60;
      });
    };
    expect(take(QUARTERS, out(0.1)).trouble).toBe('nearly');
    expect(take(QUARTERS, out(0.26)).trouble).toBe('uneven');
  });
});

describe('limits of landings', () => {
  const lateAt =
    (by: number, others = 0, which: (one: Judged) => boolean = isLanding) =>
    (all: Judged[]) => {
      scattered(others)(all);
      all.filter(which).forEach(({ heard }) => (heard!.off = by));
    };
  const oneChange = (one: Judged) => isLanding(one) && one.strike.chord === 'F';

  it('a change that comes once is late by six deviations of the others, and clearly out of time', () => {
    const once = (by: number, others: number) =>
      take(QUARTERS, lateAt(by, others, oneChange), ONCE).sentence;
    expect(once(48, 0)).not.toMatch(/lands/);
    expect(once(55, 0)).toMatch(/Am to F lands 55 ms late/);
    // 8 ms to either side are 12 of deviation.
    expect(once(60, 8)).not.toMatch(/lands/);
    expect(once(80, 8)).toMatch(/lands/);
  });

  it('one that comes again is late by four, and stands apart from what is late by itself', () => {
    const twice = (by: number, others: number, high = 0) =>
      take(
        QUARTERS,
        (all) => {
          lateAt(by, others, oneChange)(all);
          all
            .filter((one) => !isLanding(one))
            .slice(0, high)
            .forEach(({ heard }) => (heard!.off = 70));
        },
        'C | Am | F | G | C | Am | F | G',
      ).sentence;
    expect(twice(44, 9.5)).not.toMatch(/lands/);
    expect(twice(52, 9.5)).toMatch(/Am to F lands/);
    expect(twice(62, 0)).toMatch(/Am to F lands/);
    expect(twice(62, 0, 4)).not.toMatch(/lands/);
  });

  it('landings from which the player hurries need few others beside them, where two in five are so', () => {
    const hurried = (count: number) =>
      take(
        QUARTERS,
        (all) => {
          const landings = all.filter(isLanding);
          landings.forEach((one, at) => {
            one.heard!.off = 100;
            one.hurried = at < count;
          });
          all
            .filter((one) => !isLanding(one))
            .slice(4)
            .forEach((one) => Object.assign(one, { heard: null, counts: false }));
        },
        ONCE,
      ).sentence;
    expect(hurried(1)).not.toMatch(/3 of 3 landings/);
    expect(hurried(2)).toMatch(/3 of 3 landings/);
  });

  it('strokes after a miss are told late where there are four of them', () => {
    const after = (count: number) =>
      take(
        'down, miss down, down down, down',
        (all) => {
          const some = all.filter(
            ({ strike, before }) =>
              before && strike.tick - before.tick > before.ticks && !strike.landing,
          );
          some.forEach((one, at) => {
            if (at < count) one.heard!.off = 80;
            else Object.assign(one, { heard: null, counts: false });
          });
        },
        `${PROGRESSION} | ${PROGRESSION}`,
      ).trouble;
    expect(after(3)).not.toBe('after-miss');
    expect(after(4)).toBe('after-miss');
  });
});

describe('limits of what is left out, and of places', () => {
  const EIGHTHS = 'down up, down up, down up, down up';
  const isUp = ({ strike }: Judged) => strike.dir === 'up';
  const without = (some: Judged[]) => some.forEach((one) => (one.heard = null));
  /** Every so many-th of the ups, and of the downs, left out. */
  const out =
    (ups: number, downs = 0) =>
    (all: Judged[]) => {
      const spread = (some: Judged[], count: number) =>
        without(
          some.filter(
            (_, at) =>
              Math.floor((at * count) / some.length) !==
              Math.floor(((at - 1) * count) / some.length),
          ),
        );
      if (ups > 0) spread(all.filter(isUp), ups);
      if (downs > 0)
        spread(
          all.filter((one) => !isUp(one)),
          downs,
        );
    };

  it('a kind that is all that is missing is named from 15 of 100 of it on', () => {
    // Of 48 ups.
    expect(take(EIGHTHS, out(7)).trouble).not.toBe('ups');
    expect(take(EIGHTHS, out(9)).trouble).toBe('ups');
  });

  it('and where chance would hardly leave out that kind alone', () => {
    // Half of the strokes are ups: four of them in a row are one chance in sixteen, five one in thirty-two.
    const few = (count: number) => take(EIGHTHS, out(count), 'C | Am | F | G | C | Am').trouble;
    expect(few(4)).not.toBe('ups');
    expect(few(5)).toBe('ups');
  });

  /** So many strokes of one place left out, so many ups elsewhere, and so many downs. */
  const placed = (here: number, ups: number, downs: number) => (all: Judged[]) => {
    const some = (of: (one: Judged) => boolean, count: number) =>
      without(all.filter(of).filter((_, at, { length }) => at % Math.ceil(length / count) === 0));
    without(all.filter(({ strike }) => strike.slot === 7).slice(0, here));
    if (ups > 0) some((one) => isUp(one) && one.strike.slot !== 7, ups);
    if (downs > 0) some((one) => !isUp(one), downs);
  };

  it('ups are ups where nine in ten of what is missing are, and a place holds less than eight in ten', () => {
    expect(take(EIGHTHS, placed(9, 4, 1)).trouble).toBe('ups');
    expect(take(EIGHTHS, placed(10, 3, 2)).trouble).toBe('missing');
    expect(take(EIGHTHS, placed(11, 2, 0)).trouble).toBe('missing');
  });

  it('a place holds three in five of what is missing, and a kind is missing nearly twice as often as the rest', () => {
    expect(take(EIGHTHS, placed(8, 4, 4)).trouble).not.toBe('missing');
    expect(take(EIGHTHS, placed(9, 3, 2)).trouble).toBe('missing');
    expect(take(EIGHTHS, out(15, 9)).trouble).not.toBe('ups');
    expect(take(EIGHTHS, out(17, 8)).trouble).toBe('ups');
  });

  it('unless others are missing too', () => {
    expect(take(EIGHTHS, out(9, 3)).trouble).not.toBe('ups');
  });

  it('a place is off where three in five of it are, the same way', () => {
    const off = (share: number) => (all: Judged[]) => {
      const some = all.filter(({ strike }) => strike.slot === 3);
      some.forEach(({ heard }, at) => (heard!.off = at < share * some.length ? 70 : 18));
    };
    expect(take(EIGHTHS, off(0.55)).trouble).not.toBe('slot');
    expect(take(EIGHTHS, off(0.65)).trouble).toBe('slot');
  });

  it('what one finger picks is named by it, though it has several places', () => {
    const picks = 'R.p 2.i, 3.m 2.i, R.p 2.i, 3.m 2.i';
    const left = (share: number) => (all: Judged[]) =>
      without(all.filter((_, at) => at % 2).filter((__, at) => at % 4 < share * 4));
    expect(take(picks, left(1)).sentence).toMatch(/^All 48 index notes are left out\./);
    expect(take(picks, left(0.5)).sentence).toMatch(
      /^24 of 48 index notes are left out\.|^The & of/,
    );
    expect(take('R.p 2, 3.m 2, R.p 2, 3.m 2', left(1)).sentence).not.toMatch(/index/);
  });

  it('more than one in twenty added is too many', () => {
    const added = (count: number) =>
      take(QUARTERS, asItWas, undefined, 100, {
        added: Array.from({ length: count }, (_, at) => ({ seconds: at, after: at * 3 })),
      }).trouble;
    // Of 48.
    expect(added(2)).toBe('clean');
    expect(added(3)).toBe('added');
    const twice = (count: number) =>
      take(EIGHTHS, asItWas, undefined, 100, {
        added: Array.from({ length: count }, (_, at) => ({ seconds: at, after: at * 3 })),
      }).trouble;
    // Of 96.
    expect(twice(4)).toBe('clean');
    expect(twice(5)).toBe('added');
  });
});
