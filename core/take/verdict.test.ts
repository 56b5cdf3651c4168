import { describe, expect, it } from 'vitest';
import { arrangement } from '../arrange';
import { ANY_HAND, handReport } from '../hand';
import { newSong } from '../song';
import { PROGRESSION, take } from './evidence.test-kit';
import type { Judged } from './groups';
import { judgeOnsets } from './judge';

/** Every limit of what is said, tried on both sides. */

const said2 = ({ trouble, then }: ReturnType<typeof take>) => [trouble, then?.trouble];
const of = (all: Judged[], kind: string) => all.filter(({ strike }) => strike.kind === kind);
const CHUCKS = 'down down, chuck up, down up, chuck up';
const ring = (count: number) => (all: Judged[]) =>
  of(all, 'chuck')
    .slice(0, count)
    .forEach(({ heard }) => (heard!.rings = true));

describe('what sounds wrong', () => {
  it('is nothing in a take as it was meant', () => {
    for (const words of [
      CHUCKS,
      'bass up, down up, bass up, down up',
      's5 s4, s3 s2, s5 s4, s3 s2',
    ]) {
      expect(take(words, () => undefined).trouble).toBe('clean');
    }
  });

  it.each([
    // Of 24 chucks: fewer than two in five, and two in five.
    ['chucks', CHUCKS, (count: number) => ring(count), 9, 10],
    [
      'bass',
      'bass up, down up, bass up, down up',
      (count: number) => (all: Judged[]) =>
        of(all, 'bass')
          .slice(0, count)
          .forEach(({ heard }) => (heard!.bass = false)),
      7,
      8,
    ],
    [
      'strings',
      's5 down, s4 down, s5 down, down down',
      (count: number) => (all: Judged[]) =>
        of(all, 'pick')
          .slice(0, count)
          .forEach(({ heard }) => (heard!.bass = false)),
      14,
      15,
    ],
    [
      'chord-late',
      'down, down, down, down',
      (count: number) => (all: Judged[]) =>
        all
          .filter(({ strike, before }) => strike.landing && before)
          .slice(0, count)
          .forEach(({ heard }) => (heard!.chord = 'late')),
      3,
      4,
    ],
  ] as const)('%s: from so many on, and not before', (trouble, words, change, none, some) => {
    expect(take(words, change(none)).trouble).not.toBe(trouble);
    expect(take(words, change(some)).trouble).toBe(trouble);
  });

  it('is not said where hardly any is what was meant: it is the ear that does not know these strings', () => {
    const wrong = (count: number) => (all: Judged[]) =>
      of(all, 'pick')
        .slice(0, count)
        .forEach(({ heard }) => (heard!.bass = false));
    const words = 's5 down, s4 down, s5 down, down down';
    // Of 36 picked notes.
    expect(take(words, wrong(27)).trouble).toBe('strings');
    expect(take(words, wrong(28)).trouble).not.toBe('strings');
  });

  it('is said only where it is known which stroke was which', () => {
    const astray = (share: number, off: number) => (all: Judged[]) => {
      ring(24)(all);
      all.forEach(({ heard }, at) => {
        if (at % 10 >= 10 * share) heard!.off = off * (at % 2 ? 1 : -1);
      });
    };
    expect(said2(take(CHUCKS, astray(0.7, 300)))).toContain('chucks');
    expect(said2(take(CHUCKS, astray(0.5, 300)))).not.toContain('chucks');
    // About where they were meant is within twice the tolerance.
    expect(said2(take(CHUCKS, astray(0, 60)))).toContain('chucks');
    expect(said2(take(CHUCKS, astray(0, 100)))).not.toContain('chucks');
  });

  it('an arm that has turned round has done so at one place, or for a while', () => {
    const turn = (which: (at: number, one: Judged) => boolean) => (all: Judged[]) =>
      all.forEach((one, at) => {
        if (which(at, one)) one.heard!.direction = one.strike.dir === 'down' ? 'up' : 'down';
      });
    const words = 'down up, down up, down up, down up';
    expect(
      take(
        words,
        turn((at) => at >= 20 && at < 27),
      ).trouble,
    ).toBe('direction');
    expect(
      take(
        words,
        turn((at) => at >= 20 && at < 24),
      ).trouble,
    ).toBe('clean');
    expect(
      take(
        words,
        turn((_, { strike }) => strike.slot === 3),
      ).trouble,
    ).toBe('direction');
    // An ear that errs here and there tells nothing.
    expect(
      take(
        words,
        turn((at) => at % 4 === 1 && at % 16 !== 5),
      ).trouble,
    ).toBe('direction');
    expect(
      take(
        words,
        turn((at) => (at * 7) % 10 < 2),
      ).trouble,
    ).toBe('clean');
    const both = turn((at) => (at >= 20 && at < 27) || (at > 40 && at % 5 === 0));
    expect(take(words, both).trouble).toBe('clean');
  });
});

describe('limits of one kind of fault', () => {
  const EIGHTHS = 'down up, down up, down up, down up';

  it('ups are soft from ten decibels on', () => {
    const softer = (by: number) => (all: Judged[]) =>
      all
        .filter(({ strike }) => strike.dir === 'up')
        .forEach(({ heard }) => (heard!.loudness -= by));
    expect(take(EIGHTHS, softer(9)).trouble).toBe('clean');
    expect(take(EIGHTHS, softer(11)).trouble).toBe('ups');
  });

  it('a chord is another one where most of a bar sounds so', () => {
    const other = (count: number) => (all: Judged[]) => {
      all.forEach(({ heard }) => (heard!.other = null));
      for (const bar of [2, 6, 10]) {
        const some = all.filter(({ strike }) => strike.bar === bar).slice(0, count);
        some.forEach(({ heard }) => (heard!.other = 'Am'));
      }
    };
    expect(take(EIGHTHS, other(4)).trouble).toBe('clean');
    expect(take(EIGHTHS, other(5)).trouble).toBe('chord');
  });

  it('directions are told of eight strums at least, and turned at a place where most are', () => {
    const turned = (one: Judged) =>
      (one.heard!.direction = one.strike.dir === 'down' ? 'up' : 'down');
    const few = (count: number) => (all: Judged[]) => {
      all.forEach(({ heard }) => (heard!.direction = null));
      all.slice(0, count).forEach(turned);
    };
    expect(take(EIGHTHS, few(7)).trouble).toBe('clean');
    expect(take(EIGHTHS, few(8)).trouble).toBe('direction');
    const atPlace = (count: number) => (all: Judged[]) =>
      all
        .filter(({ strike }) => strike.slot === 3)
        .slice(0, count)
        .forEach(turned);
    expect(take(EIGHTHS, atPlace(9)).trouble).toBe('clean');
    expect(take(EIGHTHS, atPlace(10)).trouble).toBe('direction');
  });

  it('the start of what hardly stands out is trusted half as much', () => {
    const faint = (off: number) => (all: Judged[]) =>
      all.forEach(({ heard }, at) => {
        heard!.faint = true;
        heard!.off = at % 2 ? off : -off;
      });
    expect(take('down, down, down, down', faint(89)).sentence).toMatch(/^Clean|48 of 48/);
    expect(take('down, down, down, down', faint(91)).sentence).not.toMatch(/48 of 48/);
  });

  it('what is a little beyond its limit is practised at the same tempo, what is far beyond it slower', () => {
    expect(take(CHUCKS, ring(12))).toMatchObject({ trouble: 'chucks', advice: 'stay', tempo: 100 });
    expect(take(CHUCKS, ring(24))).toMatchObject({ trouble: 'chucks', advice: 'down', tempo: 94 });
  });
});

describe('what to do next', () => {
  const song = newSong({ title: 'Weir', instrument: 'guitar', progression: PROGRESSION });
  const judge = (tempo: number, late: number) => {
    const arranged = arrangement({ ...song, tempo });
    const onsets = arranged.performance.strikes.map(({ seconds, landing }, at) => ({
      seconds: seconds + 1 + (landing && at > 0 ? late : 0),
    }));
    return judgeOnsets(arranged, onsets, { begins: 1 }).verdict;
  };

  it('from clean it goes up by some six in a hundred, two at least', () => {
    expect(judge(100, 0)).toMatchObject({ advice: 'up', tempo: 106 });
    expect(judge(150, 0)).toMatchObject({ advice: 'up', tempo: 159 });
    expect(judge(22, 0)).toMatchObject({ advice: 'up', tempo: 24 });
  });

  it('a change for which the hand has too little time is practised below what the hand can do', () => {
    const quick = {
      ...newSong({ title: 'Race', instrument: 'guitar', progression: 'C . Bm . | F . Gm .' }),
      tempo: 190,
    };
    const arranged = arrangement(quick);
    const onsets = arranged.performance.strikes.map(({ seconds, landing }, at) => ({
      seconds: seconds + 1 + (landing && at > 0 ? 0.1 : 0),
    }));
    const { sentence, tempo } = judgeOnsets(arranged, onsets, { begins: 1 }).verdict;
    const [, from, to] = /([A-G]m?) to ([A-G]m?)/.exec(sentence)!;
    const kind = handReport(arranged, ANY_HAND).kinds.find(
      (one) => one.from.symbol === from && one.to.symbol === to,
    )!;
    expect(kind.ceiling).toBeLessThan(190);
    expect(tempo).toBe(Math.floor(0.95 * kind.ceiling!));
  });

  it('from what is bad it goes down by as much, and never below twenty', () => {
    const { advice, tempo } = judge(100, 0.2);
    expect(advice).toBe('down');
    expect(tempo).toBeLessThanOrEqual(94);
    expect(judge(21, 0.6)).toMatchObject({ tempo: 20 });
  });
});
