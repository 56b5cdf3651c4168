import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { strokes } from '../arbitraries.test-kit';
import { strokeSchema, type Stroke } from '../schema';
import {
  chooseStrings,
  describeStroke,
  fingerOf,
  goesWithTheArm,
  isPitched,
  nextBassNote,
  nextFinger,
  nextReach,
  nextTap,
  setFinger,
  setOpen,
  setPalm,
  setTap,
  stepAccent,
  strokeSign,
  takesFinger,
  takesTap,
  toggleOpen,
  togglePalm,
  turnStroke,
} from '.';

const strum: Stroke = { kind: 'strum', dir: 'down', accent: 'normal' };
const bass: Stroke = { kind: 'bass', accent: 'normal' };
const pinch: Stroke = {
  kind: 'pick',
  dir: 'down',
  accent: 'normal',
  strings: [{ string: 'R' }, { string: '2' }, { string: '3' }],
};
const miss: Stroke = { kind: 'miss' };

describe('changes of a stroke', () => {
  it('leave a stroke that the schema takes, and go back to what it was', () => {
    fc.assert(
      fc.property(strokes, (stroke) => {
        const changes = [
          setPalm(stroke, true),
          setOpen(stroke, true),
          setTap(stroke, 'strings'),
          setFinger(stroke, 'm'),
          turnStroke(stroke),
          stepAccent(stroke, 1),
          nextReach(stroke),
          nextBassNote(stroke),
        ];
        for (const changed of changes) expect(strokeSchema.safeParse(changed).success).toBe(true);
        expect(turnStroke(turnStroke(stroke))).toEqual(stroke);
        expect(togglePalm(togglePalm(stroke))).toEqual(setPalm(stroke, palmOf(stroke)));
        expect(toggleOpen(toggleOpen(stroke))).toEqual(stroke);
      }),
    );
  });

  it('say nothing of a stroke that has no such part', () => {
    for (const change of [togglePalm, toggleOpen, nextTap, nextFinger, nextReach, nextBassNote]) {
      expect(change(miss)).toBe(miss);
    }
    expect(setTap(miss, 'body')).toBe(miss);
    expect(setFinger(miss, 'p')).toBe(miss);
    expect(setPalm({ kind: 'chuck', dir: 'down', accent: 'normal' }, true)).not.toHaveProperty(
      'palm',
    );
    expect(stepAccent({ ...strum, accent: 'strong' }, 1)).toMatchObject({ accent: 'strong' });
    expect(chooseStrings(pinch, [])).toBe(pinch);
  });

  it('set a part at once, and go round it one by one', () => {
    expect(setTap(strum, 'body')).toEqual({ ...strum, tap: 'body' });
    expect(setTap(setTap(strum, 'body'), undefined)).toEqual(strum);
    expect(setTap({ kind: 'tap', accent: 'normal', on: 'body' }, 'strings')).toMatchObject({
      on: 'strings',
    });
    expect(nextTap(nextTap(nextTap(strum)))).toEqual(strum);
    const fingers = Array.from({ length: 6 }).reduce<Stroke[]>(
      (all) => [...all, nextFinger(all.at(-1)!)],
      [bass],
    );
    expect(fingers.map(fingerOf)).toEqual([undefined, 'p', 'i', 'm', 'a', 'c', undefined]);
    expect(nextReach({ ...strum, reach: [1, 2] })).toEqual(strum);
    expect(nextBassNote(nextBassNote(nextBassNote(bass)))).toEqual(bass);
    expect(chooseStrings(strum, ['1', '3'])).toEqual({ ...strum, reach: [3, 1] });
  });

  it('give the strings of a pinch one finger after the other', () => {
    const held = setFinger(pinch, 'p') as Extract<Stroke, { kind: 'pick' }>;
    expect(held.strings.map(({ finger }) => finger)).toEqual(['p', 'i', 'm']);
    expect(setFinger(held, undefined)).toEqual(pinch);
    const last = setFinger(pinch, 'c') as Extract<Stroke, { kind: 'pick' }>;
    expect(last.strings.map(({ finger }) => finger)).toEqual(['c', 'c', 'c']);
  });
});

const palmOf = (stroke: Stroke) => 'palm' in stroke && stroke.palm === true;

describe('the table of kinds', () => {
  it('agrees with what the schema lets a stroke have', () => {
    fc.assert(
      fc.property(strokes, (stroke) => {
        const takes = (part: Record<string, unknown>) =>
          strokeSchema.safeParse({ ...stroke, ...part }).success;
        expect(isPitched(stroke)).toBe(takes({ palm: true }));
        expect(takesFinger(stroke)).toBe(takes({ finger: 'p' }));
        expect(takesTap(stroke)).toBe(takes({ tap: 'body' }));
        if (goesWithTheArm(stroke)) expect(stroke).toHaveProperty('dir');
      }),
    );
  });

  it('has a sign and a sentence for every stroke', () => {
    fc.assert(
      fc.property(strokes, (stroke) => {
        expect(strokeSign(stroke).length).toBeGreaterThan(0);
        expect(describeStroke(stroke)).toMatch(/^[a-zR]/);
      }),
    );
  });
});
