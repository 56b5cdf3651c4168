import { describe, expect, it } from 'vitest';
import { said } from './said.test-kit';
import type { Pattern, Stroke } from '../schema';
import { METERS } from '../time';
import { armReport, setIntended, applyFix, newPattern, placeStroke, wristLimit } from '.';
import { say } from '../stroke';

const base = newPattern(METERS['4/4']);

const kinds = (pattern: Pattern, tempo = 90, limit?: number) =>
  armReport(pattern, tempo, limit).findings.map(({ kind }) => kind);

/** The pattern with its first finding mended, in words. */
function mended(pattern: Pattern, tempo = 90, limit?: number): string {
  return say(applyFix(pattern, armReport(pattern, tempo, limit).findings[0]!.fix));
}

describe('what the arm finds', () => {
  it('turns a stroke that goes against it, and strikes a bass upwards', () => {
    expect(mended(said('down down, down up, down up, down up'))).toBe(
      'down up, down up, down up, down up',
    );
    const bass = said('down bass, down up, down up, down up');
    expect(kinds(bass)).toEqual(['against']);
    expect(mended(bass)).toBe('down R, down up, down up, down up');
    expect(kinds(applyFix(bass, armReport(bass, 90).findings[0]!.fix))).toEqual([]);
  });

  it('names an up in a row of downs by its school', () => {
    const downs = said('down up, down down, down down, down down', {
      ...base,
      arm: { school: 'all-downs', halfSwings: 2 },
    });
    expect(armReport(downs, 90).findings[0]!.reason).toMatch(
      'The up on the & of 1 breaks the row of downs',
    );
  });

  it('takes a short hold for a miss, leaves a held beat alone, and sees a long gap', () => {
    const short = said('down hold, down up, down up, down up');
    expect(kinds(short)).toEqual(['stopped']);
    expect(armReport(short, 90).findings[0]!.reason).toMatch(
      'The arm rests on the & of 1 for half a beat',
    );
    expect(mended(short)).toBe('down miss, down up, down up, down up');
    expect(kinds(said('down up, hold hold, down up, down up'))).toEqual([]);
    const gap = said('down up, hold hold, hold hold, hold up');
    expect(armReport(gap, 90).findings[0]).toMatchObject({
      kind: 'stopped',
      slots: [2, 3, 4, 5, 6],
    });
  });

  it('joins a rest over the end of the pattern, which goes round', () => {
    const round = said('hold up, down up, down up, down hold');
    expect(armReport(round, 90).findings).toEqual([]);
    expect(kinds(said('down up, down up, down up, down hold'))).toEqual(['stopped']);
  });

  describe('a sweep of the hand', () => {
    const triplet = said('down.i miss, down.i sweep-down.p sweep-up.i, down.i miss, down.i up.i');

    it('is one movement: nothing in it is against the arm, and the arm is no quicker for it', () => {
      expect(armReport(triplet, 90).findings).toEqual([]);
      const plain = said('down miss, down up, down miss, down up');
      expect(armReport(triplet, 90).rate).toBe(armReport(plain, 90).rate);
      expect(armReport(triplet, 90).busiest).toBe(armReport(plain, 90).busiest);
    });

    it('is none where the strokes are by themselves', () => {
      const free = { ...base, arm: { ...base.arm, school: 'free' as const } };
      const apart = said('down.i miss, down.i down.p up.i, down.i miss, down.i up.i', free);
      const arm = { ...apart, arm: base.arm };
      expect(kinds(arm)).toContain('against');
      expect(armReport(arm, 90).busiest).toBeGreaterThan(armReport(triplet, 90).busiest);
    });

    it('begins by itself after what does not sound, and goes over into what follows', () => {
      const split = said('down:43 sweep-down:21, down up, down:43 sweep-down:21, down up');
      expect(kinds(split)).toEqual([]);
      const after = said('down miss, sweep-down up, down up, down up');
      expect(kinds(after)).toEqual([]);
      expect(kinds(said('down miss, down up, miss sweep-down, down up'))).toEqual(['against']);
    });
  });

  it('sees a jump from the bass only at speed', () => {
    const pattern = said('bass down, miss up, down up, down up', {
      ...base,
      arm: { school: 'free', halfSwings: 2 },
    });
    expect(kinds(pattern, 90)).toEqual([]);
    expect(kinds(pattern, 200, 99)).toEqual(['jump']);
    expect(armReport(pattern, 200, 99).findings[0]!.slots).toEqual([0, 1]);
    expect(mended(pattern, 200, 99)).toBe('bass miss, miss up, down up, down up');
  });

  it('says where the arm is too fast for the player, and from which tempo', () => {
    const report = armReport(said('down up, down up, down up, down up'), 180, 5);
    expect(report.rate).toBeCloseTo(6, 9);
    expect(report.tempoAtLimit).toBeCloseTo(150, 9);
    expect(report.findings[0]).toMatchObject({ kind: 'fast', fix: { does: 'tempo', tempo: 150 } });
    expect(kinds(base, 150, 5)).toEqual([]);
  });

  it('lets an arm that swings finer than its strokes swing half as fast', () => {
    const fine: Pattern = { ...base, arm: { school: 'alternate', halfSwings: 4 } };
    const [finding] = armReport(fine, 120, 5).findings;
    expect(finding!.fix).toMatchObject({ does: 'arm', halfSwings: 2 });
    expect(kinds(applyFix(fine, finding!.fix), 120, 5)).toEqual([]);
  });

  it('is quiet about what is meant, and speaks again', () => {
    const pattern = said('down down, down up, down up, down up');
    const meant = setIntended(pattern, 'against', true);
    expect(armReport(meant, 90).findings[0]).toMatchObject({ kind: 'against', quiet: true });
    expect(setIntended(meant, 'against', false)).toEqual(pattern);
  });

  it('has no opinion on the way of a tap', () => {
    const tap: Stroke = { kind: 'tap', accent: 'normal', on: 'body' };
    expect(kinds(placeStroke(base, 1, tap))).toEqual([]);
  });
});

describe('the wrist test', () => {
  const taps = (rates: [seconds: number, perSecond: number][]) => {
    const onsets: number[] = [];
    let now = 0;
    for (const [seconds, rate] of rates) {
      const end = now + seconds;
      for (; now < end; now += 1 / rate) onsets.push(now);
    }
    return onsets;
  };

  it('counts two half-swings a tap, in the slowest five seconds', () => {
    expect(wristLimit(taps([[20, 4]]))).toBeCloseTo(8, 1);
    expect(
      wristLimit(
        taps([
          [10, 5],
          [10, 3],
        ]),
      ),
    ).toBeCloseTo(6, 1);
  });

  it('cannot tell from a few taps', () => {
    expect(wristLimit([])).toBeNull();
    expect(wristLimit(taps([[6, 5]]))).toBeNull();
  });
});
