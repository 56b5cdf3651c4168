import type { Division } from '../schema';

/** What is said on the slots of a beat after its number: "1 e & a", "1 trip let", "1 &". */
const AFTER_THE_NUMBER: Record<Division, string[]> = {
  1: [],
  2: ['&'],
  3: ['trip', 'let'],
  4: ['e', '&', 'a'],
};

/**
 * The syllables counted over a row of beats, one per slot.
 *
 * @param divisions slots in each beat, in order
 * @param beatsPerBar where the numbers start again
 * @param first what is said in place of the first "1": players count the bars of a long chord
 *   "1 2 3 4, 2 2 3 4, 3 2 3 4"
 * @example count([2, 4], 4) // ['1', '&', '2', 'e', '&', 'a']
 * @example count([1, 1, 1], 3, 2) // ['2', '2', '3']
 */
export function count(divisions: Division[], beatsPerBar: number, first = 1): string[] {
  return divisions.flatMap((division, beat) => {
    const number = beat === 0 ? first : (beat % beatsPerBar) + 1;
    return [String(number), ...AFTER_THE_NUMBER[division]];
  });
}

/** How a syllable is spoken in a sentence. */
const SPOKEN: Record<string, string> = { '&': 'and' };

/**
 * Names the place of a slot as players say it.
 * @example placeName([2, 2], 4, 3) // 'the & of 2'
 * @example placeName([2, 2], 4, 2) // '2'
 */
export function placeName(divisions: Division[], beatsPerBar: number, slot: number): string {
  let left = slot;
  for (const [beat, division] of divisions.entries()) {
    if (left < division) {
      const number = (beat % beatsPerBar) + 1;
      return left === 0 ? `${number}` : `the ${AFTER_THE_NUMBER[division][left - 1]} of ${number}`;
    }
    left -= division;
  }
  throw new RangeError(`slot ${slot} is outside the pattern`);
}

/** The same place for a screen reader: "beat 2, and". */
export function spokenPlace(divisions: Division[], beatsPerBar: number, slot: number): string {
  const [syllable, number] = placeName(divisions, beatsPerBar, slot)
    .replace(/^the /, '')
    .split(' of ') as [string, string | undefined];
  return number === undefined
    ? `beat ${syllable}`
    : `beat ${number}, ${SPOKEN[syllable] ?? syllable}`;
}
