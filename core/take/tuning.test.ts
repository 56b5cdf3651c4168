import { describe, expect, it } from 'vitest';
import { INSTRUMENTS } from '../neck';
import { tunedString } from './tuning';

const { ukulele, guitar } = INSTRUMENTS;

describe('a string that is tuned', () => {
  it('is the one that the player chose, however far off', () => {
    // 120 cents below E is 280 above C: by its pitch alone it could be either.
    expect(tunedString(62.8, ukulele, 2)).toMatchObject({ string: 2, cents: -120, guessed: false });
    expect(tunedString(62.8, ukulele, 2).says).toBe('The E string is 120 cents flat: tighten it.');
    for (const [string, open] of guitar.strings.entries()) {
      for (const cents of [-700, -120, -5, 5, 80, 400]) {
        expect(tunedString(open + cents / 100, guitar, string)).toMatchObject({ string, cents });
      }
    }
  });

  it('is guessed where none is chosen, and shown as a guess', () => {
    expect(tunedString(69.3, ukulele, null)).toMatchObject({ string: 3, cents: 30, guessed: true });
    expect(tunedString(69.3, ukulele, null).says).toMatch(/^The A string, it seems,/);
  });

  it('stays the string that was guessed while its peg is turned', () => {
    // From well below E up to it: nearer to D by name is no other string.
    let before: number | null = null;
    for (let midi = 64; midi > 62; midi -= 0.2) {
      const now = tunedString(midi, ukulele, null, before);
      expect(now.string).toBe(2);
      before = now.string;
    }
  });

  it('is in tune within four cents', () => {
    expect(tunedString(60.04, ukulele, 1).says).toBe('The C string is in tune.');
    expect(tunedString(60.05, ukulele, 1).says).toMatch(/5 cents sharp: loosen it/);
    expect(tunedString(59.96, ukulele, 1).says).toBe('The C string is in tune.');
  });

  it('an octave off is said, and a low G on a ukulele with a high one', () => {
    expect(tunedString(55, ukulele, 0).says).toMatch(/an octave low: this is a low G/);
    expect(tunedString(55, ukulele, null)).toMatchObject({ string: 0, cents: -1200 });
    expect(tunedString(52, guitar, 0).says).toMatch(/an octave high/);
  });

  it('that is new is told to be tuned again', () => {
    expect(tunedString(60, guitar, 5).says).toMatch(/400 cents flat.*tune it again/);
  });

  it('follows an instrument that is tuned down', () => {
    expect(tunedString(39, { ...guitar, offset: -1 }, 0).says).toMatch(/in tune/);
  });
});
