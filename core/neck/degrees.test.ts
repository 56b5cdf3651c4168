import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { tries } from '../properties.test-kit';
import { isDegree, parseChord, readDegree, readKey, sayDegree, writtenKey } from '.';

const G = { tonic: 7, minor: false };
const Am = { tonic: 9, minor: true };
const read = (text: string, key = G) => text.split(' ').map((word) => readDegree(word, key));

describe('chords by the steps of a key', () => {
  it('are read as numbers', () => {
    expect(read('1 5 6m 4')).toEqual(['G', 'D', 'Em', 'C']);
    expect(read('2m7 57 1maj7 4/1 1/3 5sus4 7dim b7')).toEqual([
      'Am7',
      'D7',
      'Gmaj7',
      'C/G',
      'G/B',
      'Dsus4',
      'F#dim',
      'F',
    ]);
    expect(read('6- 2-7 7° #4°7 7ø')).toEqual(['Em', 'Am7', 'F#dim', 'C#dim7', 'F#m7b5']);
  });

  it('are read as Roman numerals, the small ones minor', () => {
    expect(read('I V vi IV')).toEqual(['G', 'D', 'Em', 'C']);
    expect(read('ii7 V7 Imaj7 imaj7 bVII vii° viiø I/3 V7/V')).toEqual([
      'Am7',
      'D7',
      'Gmaj7',
      'GmMaj7',
      'F',
      'F#dim',
      'F#m7b5',
      'G/B',
      'A7',
    ]);
  });

  it('are counted in the major scale of the tonic, in a minor key too', () => {
    expect(read('1m b7 b6 5', Am)).toEqual(['Am', 'G', 'F', 'E']);
    expect(read('i bVII bVI V', Am)).toEqual(['Am', 'G', 'F', 'E']);
  });

  it('are spelled as their key has them', () => {
    expect(read('b2 b3 #1dim', { tonic: 9, minor: false })).toEqual(['Bb', 'C', 'A#dim']);
    expect(read('4 b7 2m', { tonic: 5, minor: false })).toEqual(['Bb', 'Eb', 'Gm']);
    // No one writes Cb or E#.
    expect(read('4', { tonic: 6, minor: false })).toEqual(['B']);
  });

  it('are no other words', () => {
    for (const word of ['vamp', 'in', 'intro', '8', '0', 'x2', 'A', 'N.C.', 'Visa', '1foo'])
      expect(readDegree(word, G), word).toBeNull();
    expect(isDegree('vamp')).toBe(false);
    expect(isDegree('1')).toBe(true);
  });

  const roots = ['C', 'C#', 'Db', 'D', 'Eb', 'E', 'F', 'F#', 'Gb', 'G', 'Ab', 'A', 'Bb', 'B'];
  const suffixes = [
    '',
    'm',
    '7',
    'm7',
    'maj7',
    'mMaj7',
    'dim',
    'dim7',
    'm7b5',
    'sus4',
    'add9',
    '6',
    'aug',
    '5',
    '9',
  ];
  it('are said so that they are read as the same chord, in any key and either way', () => {
    const symbols = fc.tuple(
      fc.constantFrom(...roots),
      fc.constantFrom(...suffixes),
      fc.option(fc.constantFrom(...roots)),
      fc.constantFrom('', "'"),
    );
    const keys = fc.record({ tonic: fc.nat(11), minor: fc.boolean() });
    fc.assert(
      fc.property(
        symbols,
        keys,
        fc.constantFrom('numbers', 'roman'),
        ([root, rest, bass, mark], key, style) => {
          const symbol = `${root}${rest}${bass ? `/${bass}` : ''}${mark}`;
          fc.pre(parseChord(symbol) !== null);
          const said = sayDegree(symbol, key, style);
          const back = readDegree(said, key) ?? said;
          expect(parseChord(back)).toMatchObject({
            tones: parseChord(symbol)!.tones,
            bass: parseChord(symbol)!.bass,
          });
          // Said again it is the same: a line of text that is only looked at does not change.
          expect(sayDegree(back, key, style)).toBe(said);
        },
      ),
      tries(500),
    );
  });

  it('leave words that name no chord as they are', () => {
    expect(sayDegree('N.C.', G, 'numbers')).toBe('N.C.');
    expect(sayDegree('Xyz', G, 'roman')).toBe('Xyz');
  });
});

describe('a key', () => {
  it.each([
    ['G', 'G'],
    ['Em', 'Em'],
    ['Bb major', 'Bb'],
    ['f# minor', 'F#m'],
    ['E♭', 'Eb'],
  ])('is read: %s', (text, written) => {
    expect(writtenKey(readKey(text)!)).toBe(written);
  });
  it('is nothing else', () => {
    for (const text of ['', 'H', 'G7', 'major', 'Gx', 'A mixo']) expect(readKey(text)).toBeNull();
  });
});
