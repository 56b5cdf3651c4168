import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { patterns } from '../arbitraries.test-kit';
import { type Pattern, patternSchema, type Stroke } from '../schema';
import { METERS } from '../time';
import {
  accentStroke,
  armReport,
  divideBeat,
  fitPattern,
  newPattern,
  placeStroke,
  strum,
} from '../pattern';
import { said } from '../pattern/said.test-kit';
import { armPasses, naturalDirections, patternTicks, slots, slotSentences } from '.';

const D = strum('down');
const U = strum('up');
const miss: Stroke = { kind: 'miss' };

/** A 4/4 pattern of eighths from eight strokes. */
function eighths(...strokes: Stroke[]): Pattern {
  return strokes.reduce(
    (pattern, stroke, slot) => placeStroke(pattern, slot, stroke),
    newPattern(METERS['4/4']),
  );
}

const short = (pattern: Pattern) =>
  naturalDirections(pattern)
    .map((dir) => (dir === 'down' ? 'D' : 'U'))
    .join('');

describe('natural directions', () => {
  it('puts numbers on down-swings and the &s on up-swings', () => {
    expect(short(newPattern(METERS['4/4']))).toBe('DUDUDUDU');
    expect(short(newPattern(METERS['6/8']))).toBe('DUDUDU');
  });

  it('doubles the arm in a beat of sixteenths', () => {
    expect(short(divideBeat(newPattern(METERS['4/4']), 3, 4))).toBe('DUDUDUDUDU');
  });

  it('makes eighths all downs under an arm of sixteenths', () => {
    const pattern = newPattern(METERS['4/4']);
    expect(short({ ...pattern, arm: { school: 'alternate', halfSwings: 4 } })).toBe('DDDDDDDD');
  });

  it('runs triplets on, or restarts them on each beat, by the school', () => {
    const triplets = [0, 1, 2, 3].reduce(
      (pattern, beat) => divideBeat(pattern, beat, 3),
      newPattern(METERS['4/4']),
    );
    expect(short(triplets)).toBe('DUDUDUDUDUDU');
    expect(short({ ...triplets, arm: { school: 'restart', halfSwings: 3 } })).toBe('DUDDUDDUDDUD');
    expect(short({ ...triplets, arm: { school: 'all-downs', halfSwings: 3 } })).toBe(
      'DDDDDDDDDDDD',
    );
  });

  it('comes back to its clock after a beat in three: no other beat is turned', () => {
    const mixed = divideBeat(newPattern(METERS['4/4']), 1, 3);
    expect(short(mixed)).toBe('DUDUDDUDU');
    const struck = said('down up, down up, down up, down up');
    const divided = divideBeat(divideBeat(struck, 1, 3), 1, 2);
    expect(divided.beats[0]).toBe(struck.beats[0]);
    expect(divided.beats.slice(2)).toEqual(struck.beats.slice(2));
    const three = divideBeat(struck, 1, 3);
    expect(three.beats.slice(2)).toEqual(struck.beats.slice(2));
    expect(armReport(three, 90).findings).toEqual([]);
    // Even where the arm comes otherwise to a beat in three beside it, that one stays as it was placed.
    const threes = said('down up down, miss miss, down up down, down up');
    expect(divideBeat(threes, 1, 3).beats[2]).toEqual(threes.beats[2]);
  });

  it('shuffles: of three a down and an up on the last, and waits below for it', () => {
    const shuffle = { school: 'shuffle', halfSwings: 2 } as const;
    const pattern = said('down miss up, down miss up, down up, down down up', {
      ...newPattern(METERS['4/4']),
      arm: shuffle,
    });
    expect(short(pattern)).toBe('DDUDDUDUDDU');
    expect(
      armPasses(pattern)
        .filter(({ rests }) => rests)
        .map(({ slot }) => slot),
    ).toEqual([1, 4]);
    expect(armReport(pattern, 90).findings.filter(({ kind }) => kind === 'against')).toEqual([]);
    const twelve = said('down, miss, up, down, miss, up, down, miss, up, down, down, up', {
      ...newPattern(METERS['12/8']),
      arm: { school: 'shuffle', halfSwings: 1 },
    });
    expect(short(twelve)).toBe('DDUDDUDDUDDU');
    expect(armPasses(twelve).filter(({ rests }) => rests)).toHaveLength(3);
  });

  it('restarts on each group of three in 6/8', () => {
    const six = newPattern(METERS['6/8']);
    expect(short({ ...six, arm: { school: 'restart', halfSwings: 1 } })).toBe('DUDDUD');
  });

  it('covers the pattern with swings, each slot on exactly one', () => {
    fc.assert(
      fc.property(patterns, (pattern) => {
        const swings = armPasses(pattern);
        expect(swings.reduce((sum, swing) => sum + swing.ticks, 0)).toBe(patternTicks(pattern));
        const grid = slots(pattern);
        const onSlots = swings.filter((swing) => swing.slot !== null);
        expect(onSlots.map((swing) => swing.slot)).toEqual(grid.map((slot) => slot.index));
        expect(onSlots.map((swing) => swing.tick)).toEqual(grid.map((slot) => slot.tick));
        expect(swings.every((swing) => Number.isInteger(swing.tick))).toBe(true);
      }),
    );
  });
});

describe('the arm report', () => {
  it('measures straight eighths at 90 as 3.0 moves a second', () => {
    const report = armReport(eighths(D, U, D, U, D, U, D, U), 90);
    expect(report.rate).toBeCloseTo(3, 9);
    expect(report.busiest).toBeCloseTo(3, 9);
    expect(report.findings).toEqual([]);
  });

  it('finds two downs in neighbouring eighths: 6.0 at that moment', () => {
    const report = armReport(eighths(D, D, D, U, D, U, D, U), 90);
    expect(report.busiest).toBeCloseTo(6, 9);
    expect(report.findings.map((finding) => finding.slots)).toEqual([[1]]);
    expect(report.findings[0]!.reason).toBe(
      'The down on the & of 1 goes against the arm, which is going up there: ' +
        'it has to double back, 6.0 moves a second instead of 3.0.',
    );
  });

  it('makes 6.0 throughout of all downs in eighths, and finds nothing wrong with it', () => {
    const pattern = eighths(D, D, D, D, D, D, D, D);
    const report = armReport({ ...pattern, arm: { school: 'all-downs', halfSwings: 2 } }, 90);
    expect(report.rate).toBeCloseTo(6, 9);
    expect(report.findings).toEqual([]);
  });

  it('hears no judgement in a free arm, and takes a miss for a passing arm', () => {
    const pattern = eighths(U, miss, U, miss, U, miss, U, miss);
    expect(armReport(pattern, 90).findings).toHaveLength(4);
    const free: Pattern = { ...pattern, arm: { school: 'free', halfSwings: 2 } };
    expect(armReport(free, 90).findings).toEqual([]);
    expect(armReport(eighths(D, miss, D, miss, D, miss, D, miss), 90).busiest).toBeCloseTo(3, 9);
  });

  it('never reports less than the arm makes all the time', () => {
    fc.assert(
      fc.property(patterns, fc.integer({ min: 20, max: 300 }), (pattern, tempo) => {
        const report = armReport(pattern, tempo);
        expect(report.busiest).toBeGreaterThanOrEqual(report.rate);
        expect(Number.isFinite(report.busiest)).toBe(true);
      }),
    );
  });
});

describe('editing a pattern', () => {
  it('gives back what it was when a beat is halved and joined again', () => {
    const pattern = eighths(D, U, D, miss, D, U, D, U);
    const finer = divideBeat(pattern, 1, 4);
    expect(finer.beats[1]!.slots.map((stroke) => stroke.kind)).toEqual([
      'strum',
      'miss',
      'miss',
      'miss',
    ]);
    expect(divideBeat(finer, 1, 2)).toEqual(pattern);
  });

  it('turns strokes that went with the arm as the arm turns', () => {
    const finer = divideBeat(eighths(D, U, D, U, D, U, D, U), 0, 4);
    expect(finer.beats[0]!.slots[2]).toEqual(D);
    expect(armReport(finer, 90).findings).toEqual([]);
  });

  it('stays valid under any edit', () => {
    fc.assert(
      fc.property(
        patterns,
        fc.nat(),
        fc.constantFrom<1 | 2 | 3 | 4>(1, 2, 3, 4),
        (pattern, at, division) => {
          const beat = at % pattern.beats.length;
          const edited = divideBeat(pattern, beat, division);
          expect(patternSchema.parse(edited)).toEqual(edited);
          expect(patternTicks(edited)).toBe(patternTicks(pattern));
          const louder = accentStroke(edited, 0, 'strong');
          expect(patternSchema.parse(louder)).toEqual(louder);
        },
      ),
    );
  });

  it('fits another meter by dropping beats or saying the last again', () => {
    const pattern = eighths(D, U, D, U, D, U, D, miss);
    const three = fitPattern(pattern, METERS['3/4']);
    expect(three.beats).toEqual(pattern.beats.slice(0, 3));
    expect(fitPattern(three, METERS['4/4']).beats[3]).toEqual(pattern.beats[2]);
    expect(fitPattern(pattern, METERS['6/8']).beats).toHaveLength(6);
  });

  it('names a slot that is not there', () => {
    expect(() => placeStroke(newPattern(METERS['3/4']), 6, D)).toThrow(RangeError);
    expect(() => divideBeat(newPattern(METERS['3/4']), 3, 2)).toThrow('no beat 4');
  });
});

describe('words', () => {
  it('tells every slot in a sentence', () => {
    const pattern = eighths(
      D,
      D,
      { kind: 'bass', accent: 'accent' },
      U,
      miss,
      { kind: 'hold' },
      D,
      U,
    );
    const sentences = slotSentences(pattern);
    expect(sentences[0]).toBe('beat 1: down, all strings');
    expect(sentences[1]).toBe('beat 1, and: down, all strings, against the arm');
    expect(sentences[2]).toBe('beat 2: bass note, down, accented');
    expect(sentences[4]).toBe('beat 3: miss, the arm passes');
    expect(sentences[5]).toBe('beat 3, and: hold, the arm rests');
  });
});
