import { describe, expect, it } from 'vitest';
import type { BassRule, Instrument } from '../schema';
import {
  alternateBass,
  alternateOf,
  bassNote,
  describeAlternate,
  describeBass,
  describeStrings,
  fretChord,
  INSTRUMENTS,
  parseChord,
  relativeStrings,
  shapesFor,
  usualBassRule,
} from '.';

const { guitar, ukulele } = INSTRUMENTS;
const hold = (instrument: Instrument, symbol: string, bassSchool: BassRule = 'root', capo = 0) =>
  fretChord(symbol, { instrument, capo, bassSchool })!;
const bassOf = (...args: Parameters<typeof hold>) => describeBass(args[0], hold(...args).bass);
const alternates = (instrument: Instrument, symbol: string) => {
  const { shape, chord, bass } = hold(instrument, symbol);
  return alternateBass(instrument, shape, chord, bass, 0);
};

describe('the bass note', () => {
  it.each([
    ['A', 'A string, open'],
    ['C', 'A string, fret 3'],
    ['D', 'D string, open'],
    ['E7', 'low E string, open'],
    ['G', 'low E string, fret 3'],
    ['Bm', 'A string, fret 2'],
    ['C/G', 'low E string, fret 3'],
  ])('of %s on guitar: %s', (symbol, words) => {
    expect(bassOf(guitar, symbol)).toBe(words);
  });

  it('differs between the schools on a re-entrant ukulele', () => {
    expect(bassOf(ukulele, 'Am', 'root')).toBe('G string, fret 2');
    expect(bassOf(ukulele, 'Am', 'lowest')).toBe('C string, open');
    expect(bassOf(ukulele, 'G', 'root')).toBe('G string, open');
    expect(bassOf(ukulele, 'C', 'root')).toBe('C string, open');
    expect(bassOf(ukulele, 'F', 'root')).toBe('E string, fret 1');
    // The thumb has g and C, whatever the chord.
    expect(bassOf(ukulele, 'F', 'thumb')).toBe('C string, open');
    expect(bassOf(ukulele, 'D7', 'thumb')).toBe('C string, fret 2');
    expect(bassOf(ukulele, 'G', 'thumb')).toBe('G string, open');
    expect(usualBassRule(ukulele)).toBe('thumb');
    expect(usualBassRule(guitar)).toBe('root');
    const high = { frets: [0, 7, 3, 2], fingers: [0, 4, 2, 1] };
    const chord = parseChord('G')!;
    expect(bassNote(ukulele, high, chord, 'root', 0)!.string).toBe(0);
    expect(bassNote(INSTRUMENTS['ukulele-low'], high, chord, 'thumb', 0)!.string).toBe(0);
    const c = { frets: [5, 4, 3, 3], fingers: [4, 3, 1, 1] };
    expect(bassNote(ukulele, c, parseChord('C')!, 'thumb', 0)).toMatchObject({
      string: 0,
      fret: 5,
    });
  });

  it('stays with the shape under a capo or a lower tuning, and sounds there', () => {
    const open = hold(guitar, 'C');
    const capo = hold(guitar, 'C', 'root', 3);
    expect(capo.bass).toEqual({ ...open.bass, midi: open.bass.midi + 3 });
    expect(capo.pitches.map((pitch) => pitch && pitch - 3)).toEqual(open.pitches);
    const down = hold(INSTRUMENTS['guitar-half-down'], 'C');
    expect(down.bass).toEqual({ ...open.bass, midi: open.bass.midi - 1 });
  });

  it('is none for a shape that sounds nothing', () => {
    const silent = { frets: [null, null, null, null], fingers: [0, 0, 0, 0] };
    expect(bassNote(ukulele, silent, parseChord('C')!, 'root', 0)).toBeNull();
  });
});

describe('the alternate bass', () => {
  it('moves the finger that holds the bass, where nothing better is there', () => {
    expect(alternates(guitar, 'C')[0]).toMatchObject({
      string: 0,
      fret: 3,
      relation: 'fifth below',
      mover: { finger: 3, from: { string: 1, fret: 3 } },
    });
    expect(describeAlternate(guitar, alternates(guitar, 'C')[0]!)).toBe(
      'low E string, fret 3: the third finger moves there',
    );
  });

  it('takes an open string below, or a held one above, without moving', () => {
    expect(alternates(guitar, 'D')[0]).toMatchObject({
      string: 1,
      fret: 0,
      relation: 'fifth below',
      mover: null,
    });
    expect(alternates(guitar, 'G')[0]).toMatchObject({
      string: 2,
      fret: 0,
      relation: 'fifth above',
      mover: null,
    });
    expect(alternates(guitar, 'F')[0]).toMatchObject({
      string: 1,
      fret: 3,
      relation: 'fifth above',
      mover: null,
    });
  });

  it('is the root again, with the reason, where no fifth is in reach', () => {
    const lone = { frets: [null, null, null, 0], fingers: [0, 0, 0, 0] };
    const chord = parseChord('A')!;
    const bass = bassNote(ukulele, lone, chord, 'root', 0)!;
    const far: Instrument = { ...ukulele, strings: [67, 60, 65, 69], frets: 5 };
    const [only] = alternateBass(far, lone, chord, bass, 0);
    expect(['root again', 'fifth below']).toContain(only!.relation);
    expect(describeAlternate(guitar, { ...bass, relation: 'root again', mover: null })).toMatch(
      'none in reach',
    );
  });

  it('is always a fifth of the chord or its root, on a fret that is there', () => {
    for (const instrument of Object.values(INSTRUMENTS)) {
      for (const symbol of ['C', 'F#m', 'Bb7', 'Em', 'Ab', 'Bdim']) {
        const { chord } = hold(instrument, symbol);
        for (const { string, fret, relation } of alternates(instrument, symbol)) {
          const tone = (instrument.strings[string]! + fret - chord.root + 120) % 12;
          expect(relation === 'root again' ? [0] : [6, 7, 8]).toContain(tone);
          expect(fret).toBeLessThanOrEqual(instrument.frets);
        }
      }
    }
  });
});

describe('strings', () => {
  it('are named from the root', () => {
    expect(relativeStrings(hold(guitar, 'C').shape, 1)).toEqual([null, 'R', '1', '2', '3', '4']);
    expect(relativeStrings(hold(ukulele, 'C').shape, 1)).toEqual(['1', 'R', '2', '3']);
  });

  it('are counted in words', () => {
    expect(describeStrings(guitar, shapesFor(guitar, parseChord('D')!)[0]!)).toBe(
      '4 strings, from D',
    );
    expect(describeStrings(ukulele, hold(ukulele, 'C').shape)).toBe('all 4 strings');
  });
});

it('has the bass and the fifth of every major and minor chord: the table is reviewed', async () => {
  const roots = ['C', 'C#', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'Ab', 'A', 'Bb', 'B'];
  const rows = (['guitar', 'ukulele', 'mandolin'] as const).flatMap((id) =>
    roots
      .flatMap((root) => [root, `${root}m`])
      .map((symbol) => {
        const { shape, bass } = hold(INSTRUMENTS[id], symbol);
        const frets = shape.frets.map((fret) => fret ?? 'x').join(' ');
        const alternate = describeAlternate(
          INSTRUMENTS[id],
          alternates(INSTRUMENTS[id], symbol)[0]!,
        );
        return `${id} ${symbol} (${frets}): ${describeBass(INSTRUMENTS[id], bass)} | ${alternate}`;
      }),
  );
  await expect(`${rows.join('\n')}\n`).toMatchFileSnapshot('bass-table.txt');
});

describe('bass and strum on a re-entrant ukulele', () => {
  it('goes to and fro between the strings of the thumb, whatever the chord', () => {
    for (const symbol of ['C', 'F', 'G7', 'Am', 'D7', 'Bb']) {
      const held = hold(ukulele, symbol, 'thumb');
      const options = { instrument: ukulele, capo: 0, bassSchool: 'thumb' as const };
      const other = alternateOf(held, options);
      expect([held.bass.string, other.string].sort()).toEqual([0, 1]);
      expect(other.fret).toBe(held.shape.frets[other.string]);
      expect(describeAlternate(ukulele, other)).toMatch(/nothing moves$/);
    }
  });
});

describe('an alternate bass that moves nothing', () => {
  const mandolin = INSTRUMENTS.mandolin;
  it('is the open string that sounds, however far below, and the bass string let go', () => {
    const c = parseChord('C')!;
    const first = (frets: (number | null)[], fingers: number[]) => {
      const shape = { frets, fingers };
      const bass = bassNote(mandolin, shape, c, 'root', 0)!;
      return alternateBass(mandolin, shape, c, bass, 0)[0]!;
    };
    expect(first([0, 2, 3, 0], [0, 1, 2, 0])).toMatchObject({ string: 0, fret: 0, mover: null });
    const lifted = first([5, 5, 7, null], [1, 1, 3, 0]);
    expect(lifted.fret === 0 ? lifted.mover : null).toBeNull();
    const alone = first([5, 2, 3, null], [4, 1, 2, 0]);
    expect(alone).toMatchObject({ string: 0, fret: 0 });
    expect(describeAlternate(mandolin, alone)).toMatch(/open: the fourth finger lifts$/);
  });

  it('is the one that the player wants, for that chord alone', () => {
    const d = hold(guitar, 'D');
    const own = [{ symbol: 'D', string: 3, fret: 2 }];
    expect(alternateOf(d, { instrument: guitar, capo: 0 }, own)).toMatchObject({
      string: 3,
      fret: 2,
      relation: 'own',
      mover: null,
    });
    const g = hold(guitar, 'G');
    const usual = alternateBass(guitar, g.shape, g.chord, g.bass, 0)[0];
    expect(alternateOf(g, { instrument: guitar, capo: 0 }, own)).toEqual(usual);
    // A string that the instrument has not is passed over.
    const far = [{ symbol: 'C', string: 6, fret: 0 }];
    const c = hold(ukulele, 'C');
    expect(alternateOf(c, { instrument: ukulele, capo: 0 }, far).relation).not.toBe('own');
  });
});
