import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { INSTRUMENTS, keyName, parseChord, shapesFor } from '../neck';
import { newSong } from '../song';
import { easierKey, isHard } from './easierKey';
import { adaptFor } from './adapt';

const song = (progression: string, instrument: 'guitar' | 'ukulele' = 'guitar') =>
  newSong({ title: 'Sill', instrument, progression });

describe('an easier key', () => {
  it('is offered with the capo that brings the pitch back', () => {
    const says = easierKey(song('B | E | F# | B'));
    expect(says).toMatch(
      /^B and F# are hard to hold: in \w+ major all are easy, and capo \d brings the pitch back\.$/,
    );
    const [, key] = /in (\w+) major/.exec(says!)!;
    const capo = Number(/capo (\d)/.exec(says!)![1]);
    expect(keyName({ tonic: (11 - capo + 12) % 12, minor: false })).toBe(`${key} major`);
  });

  it('is not, where all chords can be held, or none is found', () => {
    expect(easierKey(song('G | C | D | Em'))).toBeNull();
    expect(easierKey(song('Cdim7 | F#m7b5 | Bbm | Ebm | Abmaj7 | G#m | Bm | C#m'))).toBeNull();
  });

  it('has chords that a hand that begins can hold, on ukuleles too', () => {
    const chords = fc.constantFrom('B', 'E', 'F#', 'C#m', 'Bm', 'Ab', 'Eb', 'Bb', 'Gm', 'Fm');
    const instruments = fc.constantFrom('guitar' as const, 'ukulele' as const);
    fc.assert(
      fc.property(fc.array(chords, { minLength: 2, maxLength: 4 }), instruments, (some, on) => {
        const hard = song(some.join(' | '), on);
        const says = easierKey(hard);
        const hardest = [...new Set(some)].filter((symbol) =>
          isHard(shapesFor(INSTRUMENTS[on], parseChord(symbol)!)[0]!),
        );
        if (hardest.length === 0) expect(says).toBeNull();
        else if (says) for (const symbol of hardest) expect(says).toContain(symbol);
      }),
    );
  });

  it('stands on the sheet of one who begins, after what else was made easier', () => {
    expect(adaptFor(song('B | E | F# | B'), 'beginner', null).next).toBe(
      'B and F# are hard to hold: in A major all are easy, and capo 2 brings the pitch back. Once that goes: the strum as it is.',
    );
    // Bb has a stand-in there that can be held.
    expect(adaptFor(song('Bb | F | Gm', 'ukulele'), 'beginner', null).next).toBe(
      'Once that goes: the strum as it is.',
    );
  });
});
