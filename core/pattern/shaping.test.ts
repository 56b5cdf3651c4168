import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { said } from './said.test-kit';
import { patterns, strokes } from '../arbitraries.test-kit';
import { tries } from '../properties.test-kit';
import { type Pattern, patternSchema } from '../schema';
import { barTicks, METERS } from '../time';
import {
  addBeat,
  allDowns,
  armReport,
  bassOnStrong,
  beatsAndMarked,
  beatsOnly,
  betweenSixAndThree,
  betweenSixAndTwelve,
  buildSpan,
  busyness,
  changeSpan,
  chuckBackBeat,
  clearBuilds,
  clearSpan,
  copySpan,
  divideBeat,
  doubleTime,
  dropBeat,
  fitPattern,
  fuller,
  halfTime,
  halveForSplit,
  kickAtEnd,
  loosePass,
  newPattern,
  pasteClip,
  patternLengths,
  patternRows,
  repeatSpan,
  rotate,
  setLength,
  shiftSpan,
  VARIATIONS,
  anotherAfterRoot,
  comparePatterns,
  difficulty,
  partialSweep,
  pickedLeadIn,
  twoToThree,
  withoutLegato,
  withoutOrnaments,
} from '.';
import {
  chooseStrings,
  describeStroke,
  isLoud,
  nextBassNote,
  nextFinger,
  nextReach,
  nextTap,
  patternTicks,
  say,
  slots,
  stepAccent,
  togglePalm,
  turnStroke,
} from '../stroke';

const circle = said('down miss, DOWN up, miss up, down up');
const against = (pattern: Pattern) =>
  armReport(pattern, 90).findings.filter(({ kind }) => kind === 'against').length;

describe('spans', () => {
  it('copies strokes, and whole beats with their division', () => {
    const mixed = divideBeat(circle, 3, 4);
    const beats = copySpan(mixed, { from: 6, to: 10 });
    expect(beats.beats).toHaveLength(1);
    expect(say(pasteClip(mixed, 0, beats).pattern)).toBe(
      'down miss down miss, DOWN up, miss up, down miss down miss',
    );
    expect(copySpan(mixed, { from: 5, to: 7 }).beats).toBeNull();
  });

  it('turns pasted strokes with the arm, and stops at the end', () => {
    const clip = copySpan(circle, { from: 2, to: 3 });
    expect(say(pasteClip(circle, 1, clip).pattern)).toBe('down UP, DOWN up, miss up, down up');
    const { pattern, next } = pasteClip(circle, 7, copySpan(circle, { from: 0, to: 4 }));
    expect(next).toBe(8);
    expect(say(pattern)).toBe('down miss, DOWN up, miss up, down up');
  });

  it('repeats a span right after itself', () => {
    expect(say(repeatSpan(circle, { from: 2, to: 4 }).pattern)).toBe(
      'down miss, DOWN up, DOWN up, down up',
    );
  });

  it('shifts a span past its neighbour, and back', () => {
    const { pattern, span } = shiftSpan(circle, { from: 2, to: 4 }, -1);
    expect(say(pattern)).toBe('down UP, down miss, miss up, down up');
    expect(span).toEqual({ from: 1, to: 3 });
    expect(shiftSpan(pattern, span, 1).pattern).toEqual(circle);
  });

  it('comes back from any shift, and from a turn of the whole', () => {
    fc.assert(
      fc.property(patterns, fc.nat(), fc.nat(), (pattern, a, b) => {
        const { length } = slots(pattern);
        const from = a % length;
        const span = { from, to: from + 1 + (b % (length - from)) };
        const there = shiftSpan(pattern, span, 1);
        const moved = there.span.from !== span.from || span.to - span.from === length;
        const kinds = (of: Pattern) => slots(of).map(({ stroke }) => stroke.kind);
        if (moved)
          expect(kinds(shiftSpan(there.pattern, there.span, -1).pattern)).toEqual(kinds(pattern));
        expect(patternSchema.parse(there.pattern)).toEqual(there.pattern);
      }),
    );
  });

  it('clears, changes and builds over a span', () => {
    expect(say(clearSpan(circle, { from: 0, to: 4 }))).toBe(
      'miss miss, miss miss, miss up, down up',
    );
    expect(say(changeSpan(circle, { from: 0, to: 4 }, togglePalm))).toBe(
      'palm-down miss, palm-DOWN palm-up, miss up, down up',
    );
    const built = buildSpan(circle, { from: 2, to: 6 }, 'ghost', 'strong');
    expect(built.builds).toEqual([{ beat: 1, beats: 2, from: 'ghost', to: 'strong' }]);
    expect(clearBuilds(built, { from: 5, to: 6 })).toEqual(circle);
  });

  it('changes length by saying the pattern again, and offers half a bar to eight', () => {
    const two = setLength(circle, 8);
    expect(say(two)).toBe(`${say(circle)} | ${say(circle)}`);
    expect(setLength(two, 4)).toEqual(circle);
    expect(patternLengths(METERS['4/4']).map(({ beats }) => beats)).toEqual([
      2, 4, 8, 12, 16, 20, 24, 28, 32,
    ]);
    expect(patternLengths(METERS['7/8'])[0]).toEqual({ label: '1 bar', beats: 7 });
  });

  it('cuts rows that hold every beat once and no more slots than fit', () => {
    fc.assert(
      fc.property(patterns, fc.integer({ min: 8, max: 40 }), (pattern, most) => {
        const rows = patternRows(pattern, most);
        expect(rows.flatMap(({ beats }) => beats)).toEqual(pattern.beats);
        let slot = 0;
        for (const { beats, firstSlot } of rows) {
          expect(firstSlot).toBe(slot);
          const size = beats.reduce((sum, { division }) => sum + division, 0);
          expect(size).toBeLessThanOrEqual(most);
          slot += size;
        }
      }),
    );
  });
});

describe('one-press changes', () => {
  it('go round and come back', () => {
    fc.assert(
      fc.property(strokes, (stroke) => {
        const again = (change: (now: typeof stroke) => typeof stroke, times: number) =>
          Array.from({ length: times }).reduce<typeof stroke>((now) => change(now), stroke);
        expect(turnStroke(turnStroke(stroke))).toEqual(stroke);
        expect(togglePalm(togglePalm(stroke))).toEqual(stroke);
        expect(describeStroke(again(nextTap, stroke.kind === 'tap' ? 2 : 3))).toBe(
          describeStroke(stroke),
        );
        if (stroke.kind === 'strum' && !Array.isArray(stroke.reach))
          expect(again(nextReach, 3)).toEqual(stroke);
        if (stroke.kind === 'bass' && typeof stroke.note !== 'object')
          expect(again(nextBassNote, 3)).toEqual(stroke);
        if (stroke.kind === 'chuck') expect(again(nextFinger, 6)).toEqual(stroke);
      }),
    );
  });

  it('steps loudness between its ends, and chooses strings', () => {
    expect(stepAccent({ kind: 'bass', accent: 'strong' }, 1)).toEqual({
      kind: 'bass',
      accent: 'strong',
    });
    expect(stepAccent({ kind: 'miss' }, 1)).toEqual({ kind: 'miss' });
    const strum = { kind: 'strum', dir: 'down', accent: 'normal' } as const;
    expect(chooseStrings(strum, ['2', '4', '3'])).toEqual({ ...strum, reach: [4, 3, 2] });
    expect(chooseStrings({ ...strum, reach: [1] }, [])).toEqual(strum);
    const pick = {
      kind: 'pick',
      dir: 'down',
      accent: 'normal',
      strings: [{ string: 'R', finger: 'p' as const }],
    } as const;
    expect(chooseStrings({ ...pick, strings: [...pick.strings] }, ['R', 's1'])).toMatchObject({
      strings: [{ string: 'R', finger: 'p' }, { string: 's1' }],
    });
  });
});

describe('variations', () => {
  it('are easier in three steps', () => {
    const full = said('tap+down (up), palm-down UP, roll4 up, down tap');
    expect(say(withoutOrnaments(full))).toBe('down miss, down UP, down up, down miss');
    expect(say(beatsAndMarked(full))).toBe('down miss, down UP, down miss, down miss');
    expect(say(beatsOnly(full))).toBe('down miss, down miss, down miss, down miss');
  });

  it('are fuller by weight, one weight at a press', () => {
    const sparse = said(
      'down miss miss miss, miss miss miss miss, down miss miss miss, miss miss up miss',
      {
        ...newPattern(METERS['4/4']),
        arm: { school: 'alternate', halfSwings: 4 },
      },
    );
    const once = fuller(sparse);
    expect(say(once)).toBe(
      'down miss miss miss, down miss miss miss, down miss miss miss, down miss up miss',
    );
    expect(say(fuller(once))).toBe(
      'down miss down miss, down miss down miss, down miss down miss, down miss up miss',
    );
    expect(fuller(said('down up, down up, down up, down up'))).toEqual(
      said('down up, down up, down up, down up'),
    );
  });

  it('take twice or half the time, each the way back from the other', () => {
    expect(say(halfTime(circle)!)).toBe('down, miss, DOWN, up | miss, up, down, up');
    expect(doubleTime(halfTime(circle)!)!.beats).toEqual(setLength(circle, 4).beats);
    expect(say(doubleTime(circle)!)).toBe(
      'down miss DOWN up, miss up down up, down miss DOWN up, miss up down up',
    );
    expect(halfTime(divideBeat(circle, 0, 3))).toBeNull();
  });

  it('drop and add beats, and relate 3/4, 6/8 and 12/8', () => {
    const three = dropBeat(circle)!;
    expect(three.meter).toEqual(METERS['3/4']);
    expect(say(three)).toBe('down miss, DOWN up, miss up');
    expect(say(addBeat(three)!)).toBe('down miss, DOWN up, miss up, miss up');
    const six = said('DOWN, up, down, DOWN, miss, up', newPattern(METERS['6/8']));
    const two = betweenSixAndThree(six)!;
    expect(say(two)).toBe('DOWN, up, down | DOWN, miss, up');
    expect(betweenSixAndThree(two)).toEqual(six);
    const twelve = betweenSixAndTwelve(six)!;
    expect(twelve.meter).toEqual(METERS['12/8']);
    expect(patternTicks(twelve)).toBe(barTicks(METERS['12/8']) / 2);
    expect(betweenSixAndTwelve(setLength(twelve, 12))).toEqual(setLength(six, 12));
    expect(say(addBeat(six)!)).toBe('DOWN, up, down, DOWN, miss, up, DOWN, miss, down');
  });

  it('put basses, chucks and a kick where they belong', () => {
    expect(say(bassOnStrong(said('DOWN up, down up, down up, down up')))).toBe(
      'BASS up, down up, alternate up, down up',
    );
    expect(say(chuckBackBeat(circle))).toBe('down miss, CHUCK up, miss up, chuck up');
    expect(say(kickAtEnd(circle)!)).toBe('down miss, DOWN up, miss up, down miss down up');
    expect(say(halveForSplit(circle)!)).toBe('down miss, DOWN up');
    expect(say(allDowns(circle))).toBe('down miss, DOWN down, miss down, down down');
    expect(against(allDowns(circle))).toBe(0);
    expect(say(rotate(circle))).toBe('miss UP, down miss, down up, down up');
  });

  it('leave out what the fretting hand sounds, and only that', () => {
    const tag = said('s3f0 hammer:s3f2, pull:s3f0 down, down up, down up');
    expect(say(withoutLegato(tag))).toBe('s3f0 miss, miss down, down up, down up');
    const plain = said('down up, down up, down up, down up');
    expect(withoutLegato(plain)).toBe(plain);
    expect(difficulty(tag, 90).parts.map(({ what }) => what)).toContain(
      '2 hammer-ons, pull-offs and slides',
    );
    expect(difficulty(tag, 90).score).toBeGreaterThan(difficulty(withoutLegato(tag), 90).score);
    expect(comparePatterns(tag, withoutLegato(tag))).toEqual([
      'On the & of 1: hammer-on to s3f2, the arm passes → miss, the arm passes.',
      'On 2: pull-off to s3f0, the arm passes → miss, the arm passes.',
    ]);
  });

  it('vary what is picked: other strings, more of them, a brush, a way into the change', () => {
    const picked = said('R 1, 2 1, R 1+2, 2 3');
    expect(say(anotherAfterRoot(picked))).toBe('R 2, 2 1, R 1+2, 2 3');
    expect(say(anotherAfterRoot(anotherAfterRoot(picked)))).toBe('R 3, 2 1, R 1+2, 2 3');
    expect(say(twoToThree(picked))).toBe('R 1, 2 1, R 1+2+3, 2 3');
    expect(say(twoToThree(said('R+R+1 2+1, 2 1, R 1, 2 3')))).toBe(
      'R+R+1+R+2 2+1+3, 2 1, R 1, 2 3',
    );
    expect(say(partialSweep(picked))).toBe('R 1, 2 1, R high-up, 2 3');
    expect(say(pickedLeadIn(picked)!)).toBe('R 1, 2 1, R 1+2, 2 miss 3 4');
    expect(pickedLeadIn(said('R s3, s2 s1, R s3, s2 s1'))!.beats[3]!.slots[3]).toMatchObject({
      strings: [{ string: 's2' }],
    });
    const strummed = said('down up, down up, down up, down up');
    expect(anotherAfterRoot(strummed)).toBe(strummed);
    expect(twoToThree(strummed)).toBe(strummed);
    expect(pickedLeadIn(strummed)).toBeNull();
  });

  it('stay valid for any pattern, and never turn a stroke against the arm', () => {
    fc.assert(
      fc.property(patterns, (pattern) => {
        for (const { id, apply } of VARIATIONS) {
          const varied = apply(pattern);
          if (varied === null) continue;
          expect(patternSchema.parse(varied), id).toEqual(varied);
          if (against(pattern) === 0 && pattern.arm.school === 'alternate' && id !== 'downs') {
            const basses = (of: Pattern) => slots(of).some(({ stroke }) => stroke.kind === 'bass');
            if (!basses(varied)) expect(against(varied), id).toBe(0);
          }
        }
      }),
      tries(60),
    );
  });

  it('fit quarters to eighths and back', () => {
    const seven = fitPattern(circle, METERS['7/8']);
    expect(say(seven)).toBe('down, miss, DOWN, up, miss, up, down');
    expect(
      say(
        fitPattern(
          said('DOWN, up, down, DOWN, miss, up', newPattern(METERS['6/8'])),
          METERS['3/4'],
        ),
      ),
    ).toBe('DOWN up, down DOWN, miss up');
  });
});

describe('loose', () => {
  const loose: Pattern = { ...circle, loose: { density: 0.5, seed: 11 } };

  it('keeps accents and landings, and gives the same strokes for the same seed and turn', () => {
    const kept = (density: number) =>
      Array.from({ length: 40 }, (_, turn) =>
        loosePass({ ...loose, loose: { density, seed: 11 } }, turn, new Set([4])),
      );
    for (const turn of kept(0.4)) {
      expect(slots(turn)[2]!.stroke).toEqual(slots(circle)[2]!.stroke);
      expect(slots(turn)[4]!.stroke.kind).toBe('strum');
      expect(against(turn)).toBe(0);
    }
    expect(loosePass(loose, 3, new Set())).toEqual(loosePass(loose, 3, new Set()));
    const mean = (density: number) =>
      kept(density).reduce((sum, turn) => sum + busyness(turn), 0) / 40;
    expect(mean(0.2)).toBeLessThan(mean(0.6));
    expect(mean(0.6)).toBeLessThan(mean(1));
  });

  it('leaves only what is fixed at no density', () => {
    const bare = loosePass({ ...loose, loose: { density: 0, seed: 1 } }, 0, new Set());
    expect(
      slots(bare)
        .filter(({ stroke }) => stroke.kind !== 'miss')
        .every(({ stroke }) => isLoud(stroke)),
    ).toBe(true);
  });
});
