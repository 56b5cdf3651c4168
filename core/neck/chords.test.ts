import { describe, expect, it } from 'vitest';
import type { Shape } from '../schema';
import {
  detectChords,
  guessKey,
  INSTRUMENTS,
  isNoChord,
  keyChords,
  keyName,
  nearestChords,
  parseChord,
  readShape,
  transposeChord,
} from '.';

describe('chord symbols', () => {
  it.each([
    ['A', [9, 1, 4]],
    ['F#m', [6, 9, 1]],
    ['E7', [4, 8, 11, 2]],
    ['Bbmaj7', [10, 2, 5, 9]],
    ['C♯m7', [1, 4, 8, 11]],
    ['Dsus4', [2, 7, 9]],
    ['Cadd9', [0, 4, 7, 2]],
    ['C6/9', [0, 4, 7, 9, 2]],
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

  it.each(['H', 'Hm', 'a', 'Aadd', 'X7', '', '7', 'AB', 'N.C.'])(
    'does not take %j for a chord',
    (text) => {
      expect(parseChord(text)).toBeNull();
    },
  );

  it('knows the word for no chord', () => {
    expect(['N.C.', 'NC', 'n.c.'].map(isNoChord)).toEqual([true, true, true]);
    expect(isNoChord('C')).toBe(false);
  });

  it('asks for the nearest where a word names none', () => {
    expect(nearestChords('Hm')[0]).toBe('Bm');
    expect(nearestChords('Am77')[0]).toBe('Am7');
    expect(nearestChords('cmaj')).toContain('Cmaj7');
    expect(nearestChords('Gadd')[0]).toBe('Gadd9');
    expect(nearestChords('xyz')).toEqual([]);
    for (const reading of nearestChords('F#q7'))
      expect(parseChord(reading), reading).not.toBeNull();
  });

  it('moves a chord by semitones and back', () => {
    expect(transposeChord('F#m/E', -2, false)).toBe('Em/D');
    expect(transposeChord('A7', 1, true)).toBe('Bb7');
    expect(transposeChord('C6/9', 2, false)).toBe('D6/9');
    expect(transposeChord('Hx', 3, false)).toBe('Hx');
    for (const symbol of ['C', 'Ebm7', 'G#dim', 'D/F#', 'Bbsus4']) {
      const there = transposeChord(symbol, 5, true);
      expect(parseChord(transposeChord(there, -5, true))).toMatchObject({
        root: parseChord(symbol)!.root,
        tones: parseChord(symbol)!.tones,
        bass: parseChord(symbol)!.bass,
      });
    }
  });

  it('names what some strings sound', () => {
    expect(detectChords([45, 52, 57, 61, 64])[0]).toBe('A');
    expect(detectChords([50, 57, 62, 65])[0]).toBe('Dm');
    expect(detectChords([60, 61, 62])).toEqual([]);
  });

  it.each([
    ['076670', 'E6/9'],
    ['0 7 6 6 7 x', 'E6/9'],
    ['x02210', 'Am'],
    ['x02010', 'Am7'],
    ['x32210', 'C6'],
    ['320003', 'G'],
    ['320000', 'G6'],
    ['x32010', 'C'],
    ['332010', 'C/G'],
    ['200232', 'D/F#'],
    ['xx0230', 'Dsus2'],
    ['xx0233', 'Dsus4'],
    ['x35500', 'Cmaj7'],
    ['x32030', 'Cadd9'],
    ['x7678x', 'E7#9'],
    ['022xxx', 'E5'],
    ['xx0101', 'Ddim7'],
    ['x2323x', 'Bm7b5'],
    ['302210', 'Am/G'],
    ['x13331', 'Bb'],
    ['x68886', 'Eb'],
  ])('names %s by its bass, with the fewest alterations: %s', (frets, name) => {
    const read = readShape(frets, INSTRUMENTS.guitar) as { shape: Shape };
    const pitches = read.shape.frets.flatMap((fret, string) =>
      fret === null ? [] : [INSTRUMENTS.guitar.strings[string]! + fret],
    );
    expect(detectChords(pitches)[0]).toBe(name);
  });

  it('are spelled and chosen as the key has them', () => {
    expect(detectChords([46, 50, 53], { tonic: 4, minor: false })[0]).toBe('A#');
    expect(detectChords([44, 48, 51], { tonic: 5, minor: true })[0]).toBe('Ab');
  });
});

describe('a chord that is transposed by nothing', () => {
  it('keeps its spelling', () => {
    expect(transposeChord('Bb', 0, false)).toBe('Bb');
    expect(transposeChord('C#m/G#', 12, true)).toBe('C#m/G#');
  });
});

describe('keys', () => {
  it('guesses the key of a song from its chords', () => {
    expect(keyName(guessKey(['A', 'Bm', 'D', 'E7', 'A']))).toBe('A major');
    expect(keyName(guessKey(['Em7', 'G', 'Am7', 'Cmaj7', 'D', 'Bm7', 'Em7']))).toBe('E minor');
    expect(keyName(guessKey(['Bb', 'Gm', 'Eb', 'F']))).toBe('Bb major');
  });

  it('has a chord on each step', () => {
    expect(keyChords({ tonic: 0, minor: false })).toEqual([
      'C',
      'Dm',
      'Em',
      'F',
      'G',
      'Am',
      'Bdim',
    ]);
    expect(keyChords({ tonic: 2, minor: true })).toEqual([
      'Dm',
      'Edim',
      'F',
      'Gm',
      'Am',
      'Bb',
      'C',
    ]);
  });
});
