import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { progressions } from '../arbitraries.test-kit';
import { arrangement } from '../arrange';
import { commands, rhythmCommands } from '../edit';
import { fretChords, INSTRUMENTS, parseChord, shapesFor } from '../neck';
import { said } from '../pattern/said.test-kit';
import type { Shape, Song } from '../schema';
import { newSong } from '../song';
import { tries } from '../properties.test-kit';
import {
  adviceFor,
  ANY_HAND,
  describeReport,
  handCommand,
  handReport,
  changeDuration,
  songAnchors,
} from '.';

const shape = (frets: (number | null)[], fingers: number[]): Shape => ({ frets, fingers });
const C = shape([null, 3, 2, 0, 1, 0], [0, 3, 2, 0, 1, 0]);
const AM = shape([null, 0, 2, 2, 1, 0], [0, 0, 2, 3, 1, 0]);
const F = shape([1, 3, 3, 2, 1, 1], [1, 3, 4, 2, 1, 1]);

/** A song at 120: an eighth lasts 250 ms. */
function song(progression: string, words: string, tempo = 120): Song {
  const pattern = said(words);
  const start = newSong({ title: 'Weir', instrument: 'guitar', progression, tempo });
  return { ...start, pattern };
}
const reportOf = (of: Song) => handReport(arrangement(of));
const kind = (of: Song, from: string, to: string) =>
  reportOf(of).kinds.find((one) => one.from.symbol === from && one.to.symbol === to)!;
const finger = (of: Song, from: string, to: string, number: number) =>
  kind(of, from, to).tightest.fingers.find(({ move }) => move.finger === number);

const EIGHTHS = 'down up, down up, down up, down up';
const BASSES = 'bass miss, miss miss, bass miss, miss miss';

describe('the time that a finger has', () => {
  // C to Am: the third finger goes from the A string, fret 3, to the G string, fret 2. The up on the & of 4
  // sounds the A string last of five, a rake after its start; the down on 1 reaches the G string third.
  // So it has the eighth, 250 ms, less the rake and a little.
  it('is an eighth from the last up to the landing', () => {
    const third = finger(song('C | Am', EIGHTHS), 'C', 'Am', 3)!;
    expect(third.window).toBeGreaterThan(185);
    expect(third.window).toBeLessThan(250);
  });

  it('is a quarter where the last up is a miss: the down on 4 is the last to need it', () => {
    const withMiss = finger(song('C | Am', 'down up, down up, down up, down miss'), 'C', 'Am', 3)!;
    const without = finger(song('C | Am', EIGHTHS), 'C', 'Am', 3)!;
    // The last strike is a down, which sounds the A string first, not last.
    expect(withMiss.window - without.window).toBeGreaterThan(250);
    expect(withMiss.window - without.window).toBeLessThan(320);
  });

  // Bass strikes have no rake. C: the third finger holds the bass, struck on 1 and 3, so it is free from 3 on.
  // Am: its bass is the open A string; nothing else is struck, so no finger is wanted at all.
  it('leaves out fingers that no stroke needs', () => {
    const bassOnly = song('C | Am | C', BASSES);
    expect(kind(bassOnly, 'C', 'Am').tightest.fingers).toEqual([]);
    expect(kind(bassOnly, 'C', 'Am').ceiling).toBeNull();
    expect(reportOf(bassOnly).idle.get('C')).toEqual([1, 2]);
    expect(reportOf(bassOnly).idle.get('Am')).toEqual([1, 2, 3]);
  });

  it('counts a finger that a pick says, wherever the chord has it', () => {
    const song = {
      ...newSong({ title: 'T', instrument: 'guitar', progression: 'G | C' }),
      pattern: said('s6f3.2+s2f3.3 miss, miss miss, miss miss, miss miss'),
    };
    // G is 2 1 0 0 0 3: the second is on its string, the third is said; only the first is idle.
    expect(reportOf(song).idle.get('G')).toEqual([1]);
  });

  // Am to C with bass strikes alone: the string that the third finger holds in Am is not struck, but the A string
  // that it goes to sounds open on 3; from there to the bass of C on 1 are two beats, 1000 ms.
  it('begins for a free finger when its string has sounded without it', () => {
    const third = finger(song('Am | C', BASSES), 'Am', 'C', 3)!;
    expect(third.window).toBeCloseTo(1000, 6);
    // Over two strings and one fret it needs 315 ms: room up to 120 * 1000 / 315.
    expect(third.ms).toBe(315);
    expect(third.ceiling).toBeCloseTo((120 * 1000) / 315, 6);
  });

  it('wants one finger at a bass landing and the others with the strum after it', () => {
    const boom = song('G | C', 'bass up, down up, bass up, down up');
    const bass = finger(boom, 'G', 'C', 3)!;
    const first = finger(boom, 'G', 'C', 1)!;
    // The bass of C is struck on 1; the second string is first reached by the up after it.
    expect(first.wantedAt - bass.wantedAt).toBeGreaterThan(0.2);
  });

  it('needs nothing of an anchor', () => {
    const second = finger(song('C | Am', EIGHTHS), 'C', 'Am', 2)!;
    expect(second).toMatchObject({ ms: 0, ceiling: null, move: { kind: 'stays' } });
  });

  it('ends earlier for a pushed chord in a split bar', () => {
    const pushed = kind(song('C . <Am .', EIGHTHS), 'C', 'Am').tightest;
    expect(pushed.tick).toBe(1440);
    // The down on 2 before it, the up on the & of 2 to land with: the treble strings come first.
    const third = pushed.fingers.find(({ move }) => move.finger === 3)!;
    expect(third.window).toBeLessThan(250 + 60);
  });

  it('is longer on the beat than off it where eighths swing', () => {
    const straight = song('C | Am', EIGHTHS);
    const swung = {
      ...straight,
      pattern: { ...straight.pattern, feel: { on: 'eighths' as const, percent: 67 } },
    };
    const window = (of: Song) => finger(of, 'C', 'Am', 3)!.window;
    // The & of 4 comes later: 33 % of the beat of 500 ms are left in place of 50 %.
    expect(window(straight) - window(swung)).toBeCloseTo(85, 0);
  });

  it('ends for a held chord a beat before the next, since it rings until then', () => {
    const stopped = rhythmCommands
      .setBarRules({ section: 0, line: 0, bar: 0 }, { stop: 0 })
      .apply(song('C | Am', EIGHTHS));
    const third = finger(stopped, 'C', 'Am', 3)!;
    expect(third.window).toBeGreaterThan(480);
    expect(third.window).toBeLessThan(560);
  });

  it('scales with the tempo, and so the ceiling stays', () => {
    const slow = kind(song('C | Am', BASSES.replace('miss miss', 'down miss'), 60), 'C', 'Am');
    const fast = kind(song('C | Am', BASSES.replace('miss miss', 'down miss'), 120), 'C', 'Am');
    expect(fast.ceiling! / slow.ceiling!).toBeCloseTo(1, 1);
  });
});

describe('what a change needs', () => {
  it('is that of its slowest finger', () => {
    // C to Am: over two strings and one fret: 110 + 35 + 2 * 25 + 35 + 85.
    expect(changeDuration(C, AM, 65).ms).toBe(315);
  });

  it('counts a barre: F lies down where one string was held', () => {
    const first = changeDuration(C, F, 65).fingers.find(({ move }) => move.finger === 1)!;
    // 110 to start, 130 to lie down, 4 strings beyond two at 14; two fingers go their own ways: 20 each beyond one.
    expect(first.ms).toBe(110 + 130 + 4 * 14 + 2 * 20);
  });

  const shapes = fc
    .tuple(fc.constantFrom('A', 'C', 'D', 'Em', 'F', 'G', 'Bm', 'E7'), fc.nat(7))
    .map(([symbol, at]) => {
      const all = shapesFor(INSTRUMENTS.guitar, parseChord(symbol)!);
      return all[at % all.length]!;
    });

  it('is nothing for a kept shape, always the same, and never less for one finger more', () => {
    fc.assert(
      fc.property(shapes, shapes, fc.integer({ min: 1, max: 4 }), (from, to, left) => {
        expect(changeDuration(from, from, 65).ms).toBe(0);
        const whole = changeDuration(from, to, 65);
        expect(changeDuration(from, to, 65)).toEqual(whole);
        const fewer = changeDuration(from, to, 65, ({ finger: one }) => one !== left);
        expect(fewer.ms).toBeLessThanOrEqual(whole.ms);
        for (const { move, ms } of whole.fingers) {
          const kept =
            move.kind === 'stays' && move.from!.strings.length === move.to!.strings.length;
          expect(ms === 0).toBe(kept);
        }
      }),
    );
  });

  describe('on a ukulele', () => {
    const uke = (symbol: string) => shapesFor(INSTRUMENTS.ukulele, parseChord(symbol)!)[0]!;
    const need = (from: string, to: string, scale: number) =>
      changeDuration(uke(from), uke(to), scale).ms;

    it('is markedly more from A to E than from A to D, the more the smaller it is', () => {
      const harder = (scale: number) => need('A', 'E', scale) / need('A', 'D', scale);
      expect(uke('E').frets).toEqual([4, 4, 4, 2]);
      expect(harder(43)).toBeGreaterThan(1.05);
      expect(harder(38)).toBeGreaterThan(1.1);
      expect(harder(33)).toBeGreaterThan(harder(38));
    });

    it('is less for the way along a shorter neck, and where nobody is crowded never more', () => {
      // The third finger from the A string, third fret, to the second.
      expect(need('C', 'G', 33)).toBeLessThanOrEqual(need('C', 'G', 43));
      expect(need('D', 'A', 33)).toBeLessThan(need('D', 'A', 43));
    });
  });

  it('is never less for a shape farther up the neck', () => {
    fc.assert(
      fc.property(shapes, fc.nat(5), (from, by) => {
        const up = (frets: number) => ({
          ...from,
          frets: from.frets.map((fret) => (fret ? fret + frets : fret)),
        });
        fc.pre(from.fingers.some((one) => one > 0));
        const near = changeDuration(from, up(by + 1), 65).ms;
        expect(changeDuration(from, up(by + 2), 65).ms).toBeGreaterThan(near);
      }),
    );
  });
});

describe('ceilings', () => {
  const busy = ['down miss, down miss', 'down up, down miss', 'down up, down up'];

  it('fall as the pattern gets denser before the landing', () => {
    const of = busy.map((half) => kind(song('C | G', `${half}, ${half}`), 'C', 'G').ceiling!);
    expect(of[0]).toBeGreaterThan(of[2]!);
    expect(of[1]).toBeGreaterThan(of[2]!);
  });

  it('never fall when strokes before it are opened, damped or left out', () => {
    fc.assert(
      fc.property(
        progressions,
        fc.constantFrom<1 | 2 | 3>(1, 2, 3),
        fc.constantFrom<'open' | 'damped' | 'left out'>('open', 'damped', 'left out'),
        (text, count, how) => {
          const plain = song(text, EIGHTHS);
          const before = reportOf(plain);
          const after = reportOf(rhythmCommands.setOpenStrokes(count, how).apply(plain));
          for (const one of after.kinds) {
            const was = before.kinds.find(
              ({ from, to }) =>
                from === one.from ||
                (from.symbol === one.from.symbol && to.symbol === one.to.symbol),
            )!;
            expect(one.ceiling ?? Infinity).toBeGreaterThanOrEqual(
              (was.ceiling ?? Infinity) - 1e-6,
            );
          }
        },
      ),
      tries(60),
    );
  });

  it('say what holds a song, and what is missing where nothing can be said', () => {
    const said = describeReport(reportOf(song('C | F', EIGHTHS, 88)));
    expect(said).toMatch(
      /^(C to F|F to C) is too quick at 88: your \w+ finger gets \d+ ms and needs \d+\. OK up to \d+\.$/,
    );
    expect(describeReport(reportOf(song('', EIGHTHS)))).toMatch(/^One chord, no change/);
    expect(describeReport(reportOf(song('C', EIGHTHS)))).toMatch(/^One chord, no change/);
    const strange = reportOf(song('C | N.C. | Qx | C', EIGHTHS));
    expect(strange.unknown.map(({ symbol }) => symbol)).toEqual(['N.C.', 'Qx']);
    expect(describeReport(strange)).toContain('N.C.: no chord is held');
  });
});

describe('advice', () => {
  const fast = song('C | F | C | G', EIGHTHS, 140);

  it('ranks what helps, the stroke before the landing first, and keeps what it promises', () => {
    const arranged = arrangement(fast);
    const report = handReport(arranged);
    const first = report.kinds[0]!;
    const advice = adviceFor(arranged, report, first, ANY_HAND);
    expect(advice.length).toBeGreaterThan(4);
    for (const { edits, ceiling, label } of advice) {
      const after = reportOf(handCommand(label, edits).apply(fast));
      const same = after.kinds.find(
        ({ from, to }) => from.symbol === first.from.symbol && to.symbol === first.to.symbol,
      );
      expect(same?.ceiling ?? null, label).toSatisfy(
        (found: number | null) =>
          (found === null && ceiling === null) || Math.abs(found! - ceiling!) < 0.5,
      );
    }
  });

  it('keeps its promise on any progression', () => {
    fc.assert(
      fc.property(progressions, fc.nat(9), (text, pick) => {
        const any = song(text, 'bass up, down up, miss up, down up', 150);
        const arranged = arrangement(any);
        const report = handReport(arranged);
        const chosen = report.kinds[0];
        if (!chosen) return;
        const advice = adviceFor(arranged, report, chosen, ANY_HAND);
        const one = advice[pick % Math.max(1, advice.length)];
        if (!one) return;
        const after = reportOf(handCommand(one.label, one.edits).apply(any));
        const same = after.kinds.find(
          ({ from, to }) => from.symbol === chosen.from.symbol && to.symbol === chosen.to.symbol,
        );
        if (same)
          expect(same.ceiling ?? 1e6).toBeGreaterThanOrEqual(
            Math.min(1e6, (one.ceiling ?? 1e6) - 1),
          );
      }),
      tries(60),
    );
  });

  it('never proposes what is ruled out', () => {
    const ruled = rhythmCommands
      .setRuledOut(['open strokes', 'damped strokes', 'strokes left out', 'other landings'])
      .apply(commands.lockShape('F', F, true).apply(fast));
    const arranged = arrangement(ruled);
    const report = handReport(arranged);
    for (const one of report.kinds) {
      for (const { edits } of adviceFor(arranged, report, one, ANY_HAND)) {
        for (const edit of edits) {
          expect(['shape', 'slow']).toContain(edit.do);
          if (edit.do === 'shape') expect(edit.symbol).not.toBe('F');
        }
      }
    }
  });
});

describe('anchors through a song', () => {
  it('are fingers that stay on a string through three chords or more', () => {
    const hold = fretChords(
      commands
        .chooseShape('G', shape([3, 2, 0, 0, 3, 3], [2, 1, 0, 0, 3, 4]))
        .apply(
          commands
            .chooseShape('Cadd9', shape([null, 3, 2, 0, 3, 3], [0, 2, 1, 0, 3, 4]))
            .apply(song('D | G | Cadd9', EIGHTHS)),
        ),
    );
    const found = songAnchors(['D', 'G', 'Cadd9', 'G', 'D'].map(hold));
    expect(found[0]).toMatchObject({ finger: 3, string: 4, fret: 3, chords: ['D', 'G', 'Cadd9'] });
  });
});
