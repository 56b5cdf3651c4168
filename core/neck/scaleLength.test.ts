import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parseChord } from './chords';
import { INSTRUMENTS } from './instruments';
import { shapesFor } from './shapes';
import { crowding, fretsApart, scaleLengthOf, soundingLength, UKULELE_SIZES } from './scaleLength';

describe('the length of the strings', () => {
  it('is that of the kind, but where an instrument says its own', () => {
    expect(scaleLengthOf(INSTRUMENTS.guitar)).toBe(65);
    expect(scaleLengthOf(INSTRUMENTS['banjo-five'])).toBe(67);
    expect(scaleLengthOf(INSTRUMENTS.banjo)).toBe(58);
    expect(scaleLengthOf(INSTRUMENTS.baritone)).toBe(50);
    expect(scaleLengthOf({ ...INSTRUMENTS.ukulele, scaleLength: 33 })).toBe(33);
    expect(UKULELE_SIZES.map(({ scale }) => scale)).toContain(scaleLengthOf(INSTRUMENTS.ukulele));
  });

  it('is halved by a capo on the twelfth fret', () => {
    expect(soundingLength(INSTRUMENTS.guitar, 12)).toBeCloseTo(32.5);
  });

  it('puts frets closer together up the neck, in proportion', () => {
    const fret = fc.integer({ min: 1, max: 18 });
    fc.assert(
      fc.property(fret, fret, fc.double({ min: 20, max: 110, noNaN: true }), (one, by, scale) => {
        const apart = fretsApart(scale, one, one + by);
        expect(fretsApart(scale, one + by, one)).toBe(apart);
        expect(fretsApart(scale, one + 1, one + by + 1)).toBeLessThan(apart);
        expect(fretsApart(scale * 2, one, one + by)).toBeCloseTo(apart * 2);
      }),
    );
  });

  it('is asked for with shapes: those of a smaller ukulele are harder or easier by themselves', () => {
    const of = (scaleLength: number) =>
      shapesFor({ ...INSTRUMENTS.ukulele, scaleLength }, parseChord('E')!)[0]!;
    expect(of(43).frets).toEqual(of(33).frets);
    expect(of(33).difficulty).toBeGreaterThan(of(43).difficulty);
    expect(of(43).difficulty).toBeLessThan(of(33).difficulty);
  });

  it('crowds fingers the more, the shorter, the farther up and the more they are', () => {
    expect(crowding(65, 2, 3)).toBe(0);
    expect(crowding(33, 2, 1)).toBe(0);
    expect(crowding(38, 2, 3)).toBeGreaterThan(0);
    expect(crowding(33, 2, 3)).toBeGreaterThan(crowding(38, 2, 3));
    expect(crowding(38, 4, 3)).toBeGreaterThan(crowding(38, 2, 3));
    expect(crowding(38, 4, 4)).toBeGreaterThan(crowding(38, 4, 3));
  });
});
