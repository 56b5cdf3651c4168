import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { tries } from '../properties.test-kit';
import type { RungId, SaidTrouble } from '../schema';
import { troublesomePlace } from './place';
import { beginTempo, cleanTempo, nextStep, type RungTake, stepRules, stepUp } from './steps';
import { describeRung, nextCall } from './words';

const RUNGS: RungId[] = ['landings', 'beats', 'song'];
const rules = stepRules({ tempo: 92 });
const free = { ceiling: null, arm: null };
const take = (trouble: SaidTrouble, tempo: number, rest: Partial<RungTake> = {}): RungTake => ({
  rung: 'song',
  tempo,
  trouble,
  loop: null,
  place: null,
  ...rest,
});

describe('where a rung begins', () => {
  it('is three quarters of what was clean, or the ceiling', () => {
    expect(beginTempo(92, free)).toBe(69);
    expect(beginTempo(92, { ceiling: 61.8, arm: null })).toBe(61);
    expect(nextStep(RUNGS, [], rules, { ceiling: 64, arm: null })).toMatchObject({
      does: 'start',
      rung: 'landings',
      tempo: 64,
    });
  });
});

describe('how far it goes up', () => {
  it('is much while much is missing, and little near the goal', () => {
    expect(stepUp(60, rules)).toBe(8); // 32 missing of 92
    expect(stepUp(76, rules)).toBe(4);
    expect(stepUp(85, rules)).toBe(2);
    expect(stepUp(91, rules)).toBe(1);
    expect(stepUp(95, rules)).toBe(0);
  });
});

describe('the next step', () => {
  it('goes up after two clean takes, not after one', () => {
    expect(nextStep(RUNGS, [take('clean', 76)], rules, free)).toMatchObject({
      does: 'again',
      tempo: 76,
    });
    const twice = [take('clean', 76), take('clean', 76)];
    expect(nextStep(RUNGS, twice, rules, free)).toMatchObject({ does: 'up', tempo: 80 });
    expect(nextStep(RUNGS, twice, { ...rules, clean: 3 }, free).does).toBe('again');
  });

  it('says so where the arm or the changes are not reckoned that quick', () => {
    const twice = [take('clean', 76), take('clean', 76)];
    expect(nextStep(RUNGS, twice, rules, { ceiling: 70, arm: null }).says).toContain('up to 70');
    expect(nextStep(RUNGS, twice, rules, { ceiling: 70, arm: 78 }).says).toContain('above the 78');
  });

  it('stays after trouble; the same twice leads round the place, and then slower', () => {
    const place = { from: 3, to: 5 };
    const late = take('landings', 80, { place });
    expect(nextStep(RUNGS, [late], rules, free)).toMatchObject({ does: 'again', tempo: 80 });
    expect(nextStep(RUNGS, [late, late], rules, { ceiling: 71, arm: null })).toMatchObject({
      does: 'loop',
      loop: place,
      tempo: 67,
    });
    const inLoop = take('landings', 67, { loop: place, place });
    expect(nextStep(RUNGS, [late, late, inLoop, inLoop], rules, free)).toMatchObject({
      does: 'down',
      tempo: 60,
      loop: place,
    });
    const cleanLoop = take('clean', 67, { loop: place });
    expect(nextStep(RUNGS, [cleanLoop, cleanLoop], rules, free)).toMatchObject({
      does: 'whole',
      loop: null,
      tempo: 67,
    });
  });

  it('two different troubles are no habit', () => {
    const takes = [take('landings', 80), take('ups', 80)];
    expect(nextStep(RUNGS, takes, rules, free).does).toBe('again');
  });

  it('leaves a rung that is quick enough for its purpose, and stops at the goal', () => {
    const clean = (rung: RungId, tempo: number) => [
      take('clean', tempo, { rung }),
      take('clean', tempo, { rung }),
    ];
    expect(nextStep(RUNGS, clean('landings', 69), rules, free)).toMatchObject({
      does: 'next',
      rung: 'beats',
      tempo: 52,
    });
    expect(nextStep(RUNGS, clean('landings', 60), rules, free).does).toBe('up');
    expect(nextStep(RUNGS, clean('song', 92), rules, free).does).toBe('reached');
  });

  it('what could not be judged counts for nothing', () => {
    const takes = [take('clean', 76), take('unjudged', 76), take('clean', 76)];
    expect(nextStep(RUNGS, takes, rules, free).does).toBe('up');
    expect(nextStep(RUNGS, [take('unjudged', 76)], rules, free)).toMatchObject({ does: 'again' });
  });

  it('takes of rungs that were left out are passed over', () => {
    expect(nextStep(RUNGS, [take('clean', 80, { rung: 'damped' })], rules, free).does).toBe(
      'start',
    );
    expect(() => nextStep([], [], rules, free)).toThrow(RangeError);
  });

  it('never goes above the goal, and never below what can be set', () => {
    const troubles: SaidTrouble[] = ['clean', 'landings', 'so-so', 'not yet', 'unjudged'];
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom(...troubles), { maxLength: 60 }),
        fc.integer({ min: 40, max: 220 }),
        (said, goal) => {
          const asked = { goal, step: 4, clean: 2 };
          const takes: RungTake[] = [];
          for (const trouble of said) {
            const { rung, tempo, loop } = nextStep(RUNGS, takes, asked, free);
            expect(tempo).toBeLessThanOrEqual(goal);
            expect(tempo).toBeGreaterThanOrEqual(20);
            takes.push({ rung, tempo, loop, trouble, place: { from: 1, to: 2 } });
          }
        },
      ),
      tries(200),
    );
  });
});

describe('the tempo that was clean', () => {
  it('is the quickest that was clean often enough, in the whole', () => {
    const takes = [
      take('clean', 70),
      take('clean', 70),
      take('clean', 78),
      take('ups', 78),
      take('clean', 90, { loop: { from: 1, to: 2 } }),
      take('clean', 90, { loop: { from: 1, to: 2 } }),
    ];
    expect(cleanTempo(takes, 'song', rules)).toBe(70);
    expect(cleanTempo(takes, 'beats', rules)).toBeNull();
  });
});

describe('words', () => {
  it('say what to do now', () => {
    const rung = { id: 'landings' as const, name: 'Landings only', does: '', strokes: 4 };
    expect(describeRung(rung, 62, null, { from: 'D7', to: 'G' })).toBe(
      'Landings only, at 62. Listen for D7 to G.',
    );
    expect(
      describeRung({ ...rung, id: 'damped' }, 62, { from: 3, to: 5 }, { from: 'D7', to: 'G' }),
    ).toBe('Landings only, bars 3 to 5, at 62.');
  });

  it('call the next landing as far ahead as asked', () => {
    const changes = [
      { tick: 0, symbol: 'G' },
      { tick: 3840, symbol: 'C' },
    ];
    expect(nextCall(changes, 0, 960)).toBeNull();
    expect(nextCall(changes, 3000, 960)).toEqual({ symbol: 'C', ticks: 840 });
    expect(nextCall(changes, 3840, 9600)).toBeNull();
  });

  it('find the place that waits longest', () => {
    const group = { count: 4, missed: 0, spread: 10, within: 0.5, chordLate: 0 };
    const byChange = [
      { ...group, from: 'G', to: 'C', median: 12, bars: [2] },
      { ...group, from: 'C', to: 'F', median: 61.6, bars: [4, 8] },
    ];
    expect(troublesomePlace({ byChange }, 16)).toEqual({
      from: 3,
      to: 5,
      change: 'C to F',
      late: 62,
    });
    expect(troublesomePlace({ byChange: byChange.slice(0, 1) }, 16)).toBeNull();
  });
});
