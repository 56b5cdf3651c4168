import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { said } from './said.test-kit';
import { type Direction, type Pattern, patternSchema } from '../schema';
import { METERS } from '../time';
import {
  alongside,
  armReport,
  builtInPatterns,
  comparePatterns,
  difficulty,
  hearTaps,
  newPattern,
  ownTags,
  placeStroke,
  setLength,
  strokeKey,
} from '.';
import { say, slots } from '../stroke';

const base = newPattern(METERS['4/4']);

describe('the patterns that come with the app', () => {
  const all = builtInPatterns();

  it('are about thirty, each with a name and strokes of its own', () => {
    expect(all.length).toBeGreaterThanOrEqual(30);
    expect(new Set(all.map(({ name }) => name)).size).toBe(all.length);
    expect(new Set(all.map(strokeKey)).size).toBe(all.length);
    for (const pattern of all) expect(patternSchema.parse(pattern)).toEqual(pattern);
  });

  it('cover every meter and every kind of stroke', () => {
    const meters = new Set(all.map(({ meter }) => `${meter.beats}/${meter.unit}`));
    for (const { beats, unit } of Object.values(METERS))
      expect(meters).toContain(`${beats}/${unit}`);
    expect(all.some(({ meter }) => meter.cycle)).toBe(true);
    const kinds = new Set(
      all.flatMap((pattern) => slots(pattern).map(({ stroke }) => stroke.kind)),
    );
    expect([...kinds].sort()).toEqual(['bass', 'chuck', 'miss', 'pick', 'roll', 'strum', 'tap']);
  });

  it('give the arm nothing to say', () => {
    for (const pattern of all) {
      const spoken = armReport(pattern, 80).findings.filter(({ kind }) => kind !== 'fast');
      expect(spoken.map(({ reason }) => `${pattern.name}: ${reason}`)).toEqual([]);
    }
  });
});

describe('measuring patterns', () => {
  it('explains a difficulty that grows with tempo, off-beats and fine divisions', () => {
    const plain = said('down miss, down miss, down miss, down miss');
    const busy = said('down miss down up, miss up miss up, down up, bass down up down');
    expect(difficulty(plain, 80).score).toBeLessThan(difficulty(plain, 140).score);
    expect(difficulty(plain, 80).score).toBeLessThan(difficulty(busy, 80).score);
    const { score, parts } = difficulty(busy, 80);
    expect(parts.reduce((sum, { points }) => sum + points, 0)).toBe(score);
    expect(parts.map(({ what }) => what)).toContain('beats divided in 2 ways');
  });

  it('knows the same strokes under another name, and other strokes', () => {
    const one = said('down up, down up, down up, down up');
    expect(strokeKey({ ...one, name: 'Heron', tags: ['slow'] })).toBe(strokeKey(one));
    expect(strokeKey({ ...one, feel: { on: 'eighths', percent: 50 } })).toBe(strokeKey(one));
    expect(strokeKey({ ...one, feel: { on: 'eighths', percent: 60 } })).not.toBe(strokeKey(one));
    expect(strokeKey(said('down up, down up, down up, down UP'))).not.toBe(strokeKey(one));
    expect(ownTags(one)).toEqual(['4/4', 'eighths', 'straight']);
  });

  it('tells in words what differs', () => {
    const one = said('down miss, down up, miss up, down up');
    const two = said('down miss, down chuck, miss up, down up');
    expect(comparePatterns(one, one)).toEqual([]);
    expect(comparePatterns(one, two)).toEqual(['On the & of 2: up, all strings → chuck, up.']);
    expect(comparePatterns(one, said('down miss, down miss up miss, miss up, down up'))).toEqual(
      [],
    );
    expect(comparePatterns(one, newPattern(METERS['3/4'])).slice(0, 3)).toEqual([
      'Meter: 4/4 → 3/4.',
      'Length: 4 beats → 3 beats.',
      'On the & of 2: up, all strings → miss, the arm passes.',
    ]);
    expect(comparePatterns(one, newPattern(METERS['6/8'])).at(-1)).toBe(
      'Length: 4 beats → 6 beats.',
    );
  });

  it('are held against each other over the longer one, the shorter going round again', () => {
    const one = said('down miss, down up, miss up, down up');
    const two = setLength(one, 8);
    expect(comparePatterns(one, two)).toEqual(['Length: 4 beats → 8 beats.']);
    const turned = placeStroke(two, 10, { kind: 'miss' });
    expect(comparePatterns(one, turned)).toEqual([
      'Length: 4 beats → 8 beats.',
      'On 2 of bar 2: down, all strings → miss, the arm passes.',
    ]);
    expect(alongside(one, two).map(({ beats }) => beats.length)).toEqual([8, 8]);
    const waltz = newPattern(METERS['3/4']);
    expect(alongside(waltz, one).map(({ beats }) => beats.length)).toEqual([4, 4]);
    expect(alongside(one, newPattern(METERS['6/8']))[1].beats).toHaveLength(8);
    expect(alongside(one, one)).toEqual([one, one]);
  });
});

describe('tapping it in', () => {
  const words = 'down miss, down up, miss up, down up';
  const taps = (pattern: Pattern, wobble: (index: number) => number) =>
    slots(pattern).flatMap(({ tick, stroke }, index) =>
      stroke.kind === 'strum' ? [{ tick: tick + wobble(index), dir: stroke.dir as Direction }] : [],
    );

  it('hears eighths, triplets and sixteenths, with the error of each tap', () => {
    const heard = hearTaps(
      taps(said(words), (index) => (index % 2 ? 30 : -40)),
      base,
      4,
    );
    expect(say(heard[0]!.pattern)).toBe(words);
    expect(heard[0]!.errors[0]).toEqual({ slot: 0, ticks: -40 });
    expect(heard[0]!.spread).toBeGreaterThan(20);
    expect(heard.length).toBeGreaterThan(1);

    const triplets = 'down up down, up down up, down up down, up down up';
    const three = { ...base, arm: { school: 'free', halfSwings: 3 } } as Pattern;
    expect(
      say(
        hearTaps(
          taps(said(triplets, three), () => 25),
          three,
          4,
        )[0]!.pattern,
      ),
    ).toBe(triplets);

    const sixteenths = 'down miss down up, down miss down up, miss up down up, down up down up';
    expect(
      say(
        hearTaps(
          taps(said(sixteenths), (index) => (index % 3) * 20 - 20),
          base,
          4,
        )[0]!.pattern,
      ),
    ).toBe(sixteenths);
  });

  it('hears any steady pattern of eighths or sixteenths, however it wobbles within an eighth of a beat', () => {
    const slot = fc.constantFrom('down', 'up', 'miss');
    const beat = fc.tuple(slot, slot, slot, slot).map((row) => row.join(' '));
    const bar = fc.tuple(beat, beat, beat, beat).map((row) => row.join(', '));
    fc.assert(
      fc.property(
        bar,
        fc.array(fc.integer({ min: -55, max: 55 }), { minLength: 16, maxLength: 16 }),
        (text, wobble) => {
          const pattern = said(text);
          const heard = hearTaps(
            taps(pattern, (index) => wobble[index]!),
            base,
            4,
          );
          if (!text.includes('down') && !text.includes('up')) return expect(heard).toEqual([]);
          const sixteen = heard.find(({ divisions }) =>
            divisions.every((division) => division === 4),
          );
          expect(say(sixteen!.pattern)).toBe(text);
        },
      ),
    );
  });

  it('takes a tap a little before the first beat for the first beat, and drops what came after the end', () => {
    const [heard] = hearTaps(
      [
        { tick: -90, dir: 'down' },
        { tick: 3840 + 700, dir: 'up' },
      ],
      base,
      4,
    );
    expect(slots(heard!.pattern)[0]!.stroke.kind).toBe('strum');
    expect(heard!.dropped).toBe(1);
    expect(hearTaps([], base, 4)).toEqual([]);
  });
});
