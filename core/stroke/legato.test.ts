import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { PickedString, Stroke } from '../schema';
import { strokeSchema } from '../schema';
import {
  describeStroke,
  nextGrace,
  nextLegato,
  pickAt,
  readGrace,
  readLegato,
  readPicked,
  sayGrace,
  sayLegato,
  sayPicked,
  sayStroke,
  stringName,
  stringPlace,
  setGrace,
  setLegato,
  strokeSign,
  strokeWord,
  toggleRest,
} from '.';

/** The fretting hand and picks with frets, in words and as one-press changes. */

const pick: Stroke = { kind: 'pick', dir: 'down', accent: 'normal', strings: [{ string: 's2' }] };
const down: Stroke = { kind: 'strum', dir: 'down', accent: 'normal' };

describe('the strings of a pick', () => {
  it('may have frets of their own, frets counted from the shape, and fingers of either hand', () => {
    expect(readPicked('s2f8+s5f7')).toEqual([
      { string: 's2', fret: 8 },
      { string: 's5', fret: 7 },
    ]);
    expect(readPicked('R+1^3+R^-2')).toEqual([
      { string: '1', above: 3 },
      { string: 'R', above: -2 },
    ]);
    expect(readPicked('s3f2.m.1')).toEqual([{ string: 's3', fret: 2, finger: 'm', held: 1 }]);
    for (const word of [
      'R',
      'R+2',
      '2',
      's2f8.1+s5f7',
      'R+1^3+2^-1',
      'R.p+2.m',
      'R+s2',
      'R+R+2',
      's3f24.a.4',
    ]) {
      expect(sayPicked(readPicked(word)!)).toBe(word);
    }
  });

  it('are numbered as everyone counts them; from the root they have a sign of their own', () => {
    expect(readPicked('6+3')).toEqual([{ string: 's6' }, { string: 's3' }]);
    expect(readPicked('R+2')).toEqual([{ string: '2' }]);
    expect(readPicked('R+s2')).toEqual([{ string: 'R' }, { string: 's2' }]);
    expect(['R', '2', 's3'].map((name) => stringName(stringPlace(name)))).toEqual(['R', '2', 's3']);
  });

  it('are read as they are written, whichever are struck at once', () => {
    const one = fc.record(
      {
        string: fc.constantFrom('R', '1', '3', '7', 's1', 's4', 's8'),
        above: fc.integer({ min: -12, max: 12 }).map((above) => above + 0),
        finger: fc.constantFrom('p', 'i', 'm', 'a', 'c'),
        held: fc.integer({ min: 1, max: 4 }),
      },
      { requiredKeys: ['string'] },
    );
    fc.assert(
      fc.property(fc.array(one, { minLength: 1, maxLength: 8 }), (strings) => {
        expect(readPicked(sayPicked(strings as PickedString[]))).toEqual(strings);
      }),
    );
  });

  it('are refused where there is no such fret or string', () => {
    for (const word of [
      's9',
      's2f25',
      '1f3',
      '1^13',
      'R^-13',
      's2f',
      '9',
      'R+8',
      'Rf3',
      'R+2f3',
      '1+',
      '+1',
      's2f3.5',
      '',
    ]) {
      expect(readPicked(word), word).toBeNull();
    }
  });

  it('have a fret or one counted from the shape, never both', () => {
    const both = { ...pick, strings: [{ string: 's2', fret: 3, above: 1 }] };
    expect(strokeSchema.safeParse(both).success).toBe(false);
    expect(strokeSchema.safeParse(pick).success).toBe(true);
  });
});

describe('what the fretting hand does in a slot', () => {
  it('is said as it is read', () => {
    for (const words of [
      'hammer',
      'pull:s3f0',
      'slide:next',
      'slide:away',
      'hammer:s3f4>pull:s3f2',
      'slide:1^2+2^2',
    ]) {
      expect(sayLegato(readLegato(words)!)).toBe(words);
    }
  });

  it('is refused where the hand could not do it', () => {
    for (const word of [
      'hammer:next',
      'pull:away',
      'hammer:',
      'bend:s3',
      'hammer>',
      'slide:s9f2',
    ]) {
      expect(readLegato(word), word).toBeNull();
    }
    const five = Array.from({ length: 5 }, () => 'hammer').join('>');
    expect(readLegato(five)).toBeNull();
    const wrong = { kind: 'legato', accent: 'normal', steps: [{ how: 'hammer', to: 'next' }] };
    expect(strokeSchema.safeParse(wrong).success).toBe(false);
  });

  it('goes on from hammer-on to pull-off to slide, at its place', () => {
    const first = nextLegato({ kind: 'miss' });
    expect(first).toEqual({ kind: 'legato', accent: 'normal', steps: [{ how: 'hammer' }] });
    const at = setLegato(first, [{ how: 'hammer', strings: [{ string: 's3', fret: 2 }] }]);
    const second = nextLegato(at);
    expect(second).toMatchObject({
      steps: [{ how: 'pull', strings: [{ string: 's3', fret: 2 }] }],
    });
    expect(nextLegato(second)).toMatchObject({ steps: [{ how: 'slide' }] });
    expect(nextLegato(nextLegato(second))).toMatchObject({ steps: [{ how: 'hammer' }] });
    expect(setLegato(down, [{ how: 'pull' }])).toBe(down);
    expect(setLegato(first, [])).toBe(first);
  });

  it('is told with a letter, a word and a sentence', () => {
    const two: Stroke = {
      kind: 'legato',
      accent: 'normal',
      steps: readLegato('hammer:s3f4>pull:s3f2')!,
    };
    expect(strokeSign(two)).toBe('hp');
    expect(strokeWord(two)).toBe('hammer');
    expect(describeStroke(two)).toBe('hammer-on to s3f4, then pull-off to s3f2, the arm passes');
    const into: Stroke = {
      kind: 'legato',
      accent: 'accent',
      steps: [{ how: 'slide', to: 'next' }],
    };
    expect(describeStroke(into)).toBe('slide into the next chord, the arm passes, accented');
    expect(sayStroke(into, 'down')).toBe('SLIDE:next');
  });
});

describe('an ornament', () => {
  it('is said as it is read', () => {
    for (const word of [
      'hammer2',
      'pull1',
      'slide5',
      '<slide2',
      'slide-2',
      '<slide-1@R',
      'hammer2@3',
      'slide-1@R+2',
    ]) {
      expect(sayGrace(readGrace(word)!)).toBe(word);
    }
    for (const word of ['hammer', 'hammer13', 'hammer-2', 'pull-1', 'slide0', 'slide2@9']) {
      expect(readGrace(word), word).toBeNull();
    }
  });

  it('comes to strokes that sound a pitch, and goes again', () => {
    const grace = { how: 'slide', frets: 2, above: true } as const;
    expect(setGrace(down, grace)).toEqual({ ...down, grace });
    expect(setGrace(setGrace(down, grace), undefined)).toEqual(down);
    expect(setGrace({ kind: 'miss' }, grace)).toEqual({ kind: 'miss' });
    let stroke: Stroke = { ...down };
    const seen = Array.from({ length: 4 }, () => {
      stroke = nextGrace(stroke);
      return 'grace' in stroke ? stroke.grace?.how : undefined;
    });
    expect(seen).toEqual(['hammer', 'pull', 'slide', undefined]);
    expect(stroke).toEqual(down);
  });

  it('is told with where it comes from', () => {
    const say = (word: string) => describeStroke(setGrace(pick, readGrace(word)!));
    expect(say('hammer1')).toBe('pick string 2, down, hammered on from one fret below');
    expect(say('<slide-3')).toBe('pick string 2, down, slid from 3 frets above, before its time');
    expect(say('pull2@s2')).toBe('pick string 2, down, pulled off from 2 frets above on string 2');
    expect(say('pull1@R+1')).toMatch('from one fret above on 1 string above the root');
  });
});

describe('picks', () => {
  it('take a fret of their own, and give it back to the shape', () => {
    const high = pickAt(pick, 8);
    expect(high).toMatchObject({ strings: [{ string: 's2', fret: 8 }] });
    expect(describeStroke(high)).toBe('pick string 2 at fret 8, down');
    expect(pickAt(high, undefined)).toEqual(pick);
    expect(pickAt(down, 3)).toBe(down);
  });

  it('may come to rest on the next string, as a bass may and a strum may not', () => {
    const bass: Stroke = { kind: 'bass', accent: 'normal' };
    expect(toggleRest(bass)).toEqual({ ...bass, rest: true });
    expect(toggleRest(toggleRest(pick))).toEqual(pick);
    expect(toggleRest(down)).toBe(down);
    expect(sayStroke(toggleRest(bass), 'down')).toBe('resting-bass');
  });
});
