import { plural } from '#core/plain';

/** Sentences of Chords that hang on what was found, each of them whole. */
export const text = {
  /** How high it sounds beside what is written. @example text.height(-2) // '2 semitones lower' */
  height(sounds: number): string {
    if (sounds === 0) return 'same pitch';
    return `${plural(Math.abs(sounds), 'semitone')} ${sounds > 0 ? 'higher' : 'lower'}`;
  },

  /** What a place of the capo gives. @example 'sounds in A major, same pitch; no barre' */
  capo: (key: string, sounds: number, barres: number) =>
    `sounds in ${key}, ${text.height(sounds)}; ${barres === 0 ? 'no barre' : plural(barres, 'barre')}`,
};
