import { describe, expect, it } from 'vitest';
import {
  barres,
  bassNote,
  describeBass,
  describeStrings,
  droppedShapes,
  holdChord,
  INSTRUMENTS,
  parseChord,
  shapePitches,
  shapesFor,
  spellingFault,
  stringLabel,
} from '.';
import type { InstrumentId } from '../schema';

const { guitar, ukulele } = INSTRUMENTS;

describe('chord symbols', () => {
  it.each([
    ['A', [9, 1, 4]],
    ['F#m', [6, 9, 1]],
    ['E7', [4, 8, 11, 2]],
    ['Bbmaj7', [10, 2, 5, 9]],
    ['C♯m7', [1, 4, 8, 11]],
    ['Dsus4', [2, 7, 9]],
    ['Cadd9', [0, 4, 7, 2]],
    ['Bm7b5', [11, 2, 5, 9]],
    ['Caug', [0, 4, 8]],
    ['G5', [7, 2]],
  ])('reads %s', (symbol, tones) => {
    expect(parseChord(symbol)?.tones).toEqual(tones);
  });

  it('reads the bass of a slash chord apart from its root', () => {
    expect(parseChord('C/G')).toMatchObject({ root: 0, bass: 7, tones: [0, 4, 7] });
    expect(parseChord('C')).toMatchObject({ root: 0, bass: 0 });
  });

  it.each(['H', 'Hm', 'a', 'Aadd', 'X7', '', '7', 'AB'])('does not take %j for a chord', (text) => {
    expect(parseChord(text)).toBeNull();
  });
});

describe('shapes', () => {
  const roots = ['C', 'C#', 'D', 'Eb', 'E', 'F', 'F#', 'G', 'Ab', 'A', 'Bb', 'B'];
  const qualities = [
    '',
    'm',
    '7',
    'm7',
    'maj7',
    'sus2',
    'sus4',
    'dim',
    'aug',
    '6',
    '9',
    'add9',
    'm7b5',
  ];
  const ids: InstrumentId[] = ['guitar', 'ukulele'];

  it('gives every common chord at least one shape, and every shape spells its chord', () => {
    for (const id of ids) {
      for (const symbol of roots.flatMap((root) => qualities.map((quality) => root + quality))) {
        const chord = parseChord(symbol)!;
        const shapes = shapesFor(id, chord);
        expect(shapes.length, `${symbol} on ${id}`).toBeGreaterThan(0);
        for (const shape of shapes) {
          const pitches = shapePitches(INSTRUMENTS[id], shape, 0).filter((pitch) => pitch !== null);
          expect(shape.frets).toHaveLength(INSTRUMENTS[id].openStrings.length);
          expect(
            pitches.every((pitch) => chord.tones.includes(pitch % 12)),
            `${symbol} on ${id}: ${shape.frets}`,
          ).toBe(true);
        }
      }
    }
  });

  it('puts the usual open shape first', () => {
    const first = (id: InstrumentId, symbol: string) =>
      shapesFor(id, parseChord(symbol)!)[0]!.frets;
    expect(first('guitar', 'A')).toEqual([null, 0, 2, 2, 2, 0]);
    expect(first('guitar', 'C')).toEqual([null, 3, 2, 0, 1, 0]);
    expect(first('guitar', 'D')).toEqual([null, null, 0, 2, 3, 2]);
    expect(first('ukulele', 'C')).toEqual([0, 0, 0, 3]);
    expect(first('ukulele', 'F')).toEqual([2, 0, 1, 0]);
  });

  it('finds the same shapes under any spelling', () => {
    expect(shapesFor('guitar', parseChord('A#')!)).toEqual(shapesFor('guitar', parseChord('Bb')!));
    expect(shapesFor('guitar', parseChord('CM7')!)).toEqual(
      shapesFor('guitar', parseChord('Cmaj7')!),
    );
  });

  it('falls back to the plain chord where the bass of a slash chord cannot be had', () => {
    expect(shapesFor('ukulele', parseChord('F/C')!)).toEqual(
      shapesFor('ukulele', parseChord('F')!),
    );
    const onGuitar = shapesFor('guitar', parseChord('D/F#')!)[0]!;
    expect(shapePitches(guitar, onGuitar, 0)[0]! % 12).toBe(6);
  });

  it('says what is wrong with a shape', () => {
    const chord = parseChord('A')!;
    expect(spellingFault([45, 52, 57, 61, 64], chord, 6)).toBeNull();
    expect(spellingFault([45, 52, 57, 60, 64], chord, 6)).toMatch('not in the chord');
    expect(spellingFault([45, 52, 57], chord, 6)).toMatch('leaves out');
    expect(spellingFault([45, 49, 55], parseChord('A7')!, 6)).toBeNull();
    expect(spellingFault([45, 52, 61], parseChord('A/C#')!, 6)).toMatch('slash');
  });

  it('drops the shapes of the data set that do not spell their chord: the list is reviewed', async () => {
    const list = ids.flatMap((id) =>
      droppedShapes(id).map(
        ({ chord, frets, reason }) =>
          `${id} ${chord} ${frets.map((fret) => fret ?? 'x').join(' ')}: ${reason}`,
      ),
    );
    await expect(`${list.join('\n')}\n`).toMatchFileSnapshot('dropped-shapes.txt');
  });

  it('finds the fingers that lie over several strings', () => {
    const f = { frets: [1, 3, 3, 2, 1, 1], fingers: [1, 3, 4, 2, 1, 1] };
    expect(barres(f)).toEqual([{ finger: 1, fret: 1, first: 0, last: 5 }]);
    expect(barres(shapesFor('guitar', parseChord('C')!)[0]!)).toEqual([]);
  });
});

describe('bass notes', () => {
  const bassOf = (
    id: InstrumentId,
    symbol: string,
    school: 'root' | 'lowest' = 'root',
    capo = 0,
  ) => {
    const held = holdChord(symbol, { instrument: id, capo, bassSchool: school })!;
    return describeBass(INSTRUMENTS[id], held.bass);
  };

  it.each([
    ['A', 'A string, open'],
    ['C', 'A string, fret 3'],
    ['D', 'D string, open'],
    ['E7', 'low E string, open'],
    ['G', 'low E string, fret 3'],
    ['Bm', 'A string, fret 2'],
    ['C/G', 'low E string, fret 3'],
  ])('of %s on guitar: %s', (symbol, words) => {
    expect(bassOf('guitar', symbol)).toBe(words);
  });

  it('differs between the schools where the root is not the lowest string', () => {
    expect(bassOf('guitar', 'Bm', 'root')).toBe('A string, fret 2');
    expect(bassOf('guitar', 'Bm', 'lowest')).toBe('low E string, fret 2');
  });

  it('takes the lowest pitch on a re-entrant ukulele, and the string nearer the thumb in a tie', () => {
    expect(bassOf('ukulele', 'C')).toBe('C string, open');
    expect(bassOf('ukulele', 'G')).toBe('G string, open');
    expect(bassOf('ukulele', 'A')).toBe('G string, fret 2');
    expect(bassOf('ukulele', 'F')).toBe('E string, fret 1');
  });

  it('stays with the shape under a capo, and sounds higher', () => {
    const open = holdChord('C', { instrument: 'guitar', capo: 0, bassSchool: 'root' })!;
    const capo = holdChord('C', { instrument: 'guitar', capo: 3, bassSchool: 'root' })!;
    expect(capo.bass).toEqual({ ...open.bass, midi: open.bass.midi + 3 });
    expect(capo.pitches.map((pitch) => pitch && pitch - 3)).toEqual(open.pitches);
  });

  it('has none for a shape that sounds nothing', () => {
    const silent = { frets: [null, null, null, null], fingers: [0, 0, 0, 0] };
    expect(bassNote(ukulele, silent, parseChord('C')!, 'root', 0)).toBeNull();
  });

  it('says which strings to sound', () => {
    expect(describeStrings(guitar, shapesFor('guitar', parseChord('D')!)[0]!)).toBe(
      '4 strings, from D',
    );
    expect(describeStrings(ukulele, shapesFor('ukulele', parseChord('C')!)[0]!)).toBe(
      'all 4 strings',
    );
    expect(stringLabel(guitar, 5)).toBe('high E');
    expect(stringLabel(ukulele, 0)).toBe('G');
  });
});
