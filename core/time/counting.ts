import { ordinal } from '../plain';
import type { Division, Meter } from '../schema';
import { countNumber, groupStarts } from './meters';
import { isCompound } from './ticks';

/** What is said on the slots of a beat after its number: "1 e & a", "1 trip let", "1 &". */
const AFTER_THE_NUMBER: Record<Division, string[]> = {
  1: [],
  2: ['&'],
  3: ['trip', 'let'],
  4: ['e', '&', 'a'],
  6: ['ti', 'trip', 'ti', 'let', 'ti'],
  8: ['ti', 'e', 'ti', '&', 'ti', 'a', 'ti'],
};

/** Syllables in which every place of a beat has its own, as rhythm is taught without numbers. */
const SYLLABLES: Record<Division, string[]> = {
  1: ['ta'],
  2: ['ta', 'di'],
  3: ['ta', 'ki', 'da'],
  4: ['ta', 'ka', 'di', 'mi'],
  6: ['ta', 'va', 'ki', 'di', 'da', 'ma'],
  8: ['ta', 'lo', 'ka', 'lo', 'di', 'lo', 'mi', 'lo'],
};

/**
 * Ways to count.
 *
 * - `numbers`: "1 e & a 2", "1 trip let 2";
 * - `triplets`: compound meters by the pulse, "1 trip let 2 trip let"; others as `numbers`;
 * - `syllables`: "ta ka di mi";
 * - `beats`: the numbers alone;
 * - `cycle`: a count cycle by its own numbers; elsewhere a number on every slot of the bar.
 */
export const COUNT_VOCABULARIES = ['numbers', 'triplets', 'syllables', 'beats', 'cycle'] as const;
export type CountVocabulary = (typeof COUNT_VOCABULARIES)[number];

export interface CountOptions {
  vocabulary?: CountVocabulary;
  /**
   * What is said in place of the first number: players count the bars of a long chord
   * "1 2 3 4, 2 2 3 4, 3 2 3 4".
   */
  first?: number;
}

/** Placeholder for a slot that is not counted. */
export const UNSAID = '·';

/**
 * The syllables counted over a row of beats, one per slot.
 *
 * @param divisions slots in each beat, in order, from a bar line
 * @example count([2, 4], METERS['4/4']) // ['1', '&', '2', 'e', '&', 'a']
 * @example count([1, 1, 1], METERS['3/4'], { first: 2 }) // ['2', '2', '3']
 * @example count([1, 1, 1, 1, 1, 1], METERS['6/8'], { vocabulary: 'triplets' })
 * // ['1', 'trip', 'let', '2', 'trip', 'let']
 */
export function count(divisions: Division[], meter: Meter, options: CountOptions = {}): string[] {
  const { vocabulary = 'numbers', first } = options;
  const starts = groupStarts(meter);
  const byPulse = vocabulary === 'triplets' && isCompound(meter);
  let running = 0;
  return divisions.flatMap((division, beat) => {
    const place = beat % meter.beats;
    if (place === 0) running = 0;
    const number = beat === 0 && first !== undefined ? first : countNumber(meter, beat);
    const after = AFTER_THE_NUMBER[division];
    switch (vocabulary) {
      case 'syllables':
        return SYLLABLES[division];
      case 'beats':
        return [String(number), ...after.map(() => UNSAID)];
      case 'cycle':
        if (meter.cycle) return [String(number), ...after.map(() => UNSAID)];
        return Array.from({ length: division }, () => String(++running));
    }
    if (!byPulse) return [String(number), ...after];
    const pulse = starts.slice(0, place + 1).filter(Boolean).length;
    const inGroup = place - starts.lastIndexOf(true, place);
    return [
      inGroup === 0 ? String(beat === 0 ? (first ?? pulse) : pulse) : ['trip', 'let'][inGroup - 1]!,
      ...after,
    ];
  });
}

/** How a syllable is spoken in a sentence. */
const SPOKEN: Record<string, string> = { '&': 'and' };

/** Which of several alike syllables of a beat it is, as in "the second ti of 1". */
const ORDINALS = ['first', 'second', 'third', 'fourth'];

function syllableAt(division: Division, position: number): string {
  const all = AFTER_THE_NUMBER[division];
  const syllable = all[position - 1]!;
  const alike = all.flatMap((other, at) => (other === syllable ? [at] : []));
  return alike.length === 1 ? syllable : `${ORDINALS[alike.indexOf(position - 1)]} ${syllable}`;
}

function find(divisions: Division[], slot: number): { beat: number; position: number } {
  let left = slot;
  for (const [beat, division] of divisions.entries()) {
    if (left < division) return { beat, position: left };
    left -= division;
  }
  throw new RangeError(`place ${slot} is outside the pattern`);
}

/** The bar, where there are more than one. */
function barOf(divisions: Division[], meter: Meter, beat: number): string {
  if (divisions.length <= meter.beats) return '';
  return ` of bar ${Math.floor(beat / meter.beats) + 1}`;
}

/**
 * Names the place of a slot as players say it.
 * @example placeName([2, 2], METERS['4/4'], 3) // 'the & of 2'
 * @example placeName([2, 2], METERS['4/4'], 2) // '2'
 * @example placeName([3, 2], METERS['4/4'], 1) // 'the second triplet of 1'
 * @example placeName(Array(8).fill(1), METERS['4/4'], 5) // '2 of bar 2'
 */
export function placeName(divisions: Division[], meter: Meter, slot: number): string {
  const { beat, position } = find(divisions, slot);
  const number = countNumber(meter, beat);
  const bar = barOf(divisions, meter, beat);
  if (position === 0) return `${number}${bar}`;
  const part =
    divisions[beat] === 3
      ? `${ordinal(position + 1)} triplet`
      : syllableAt(divisions[beat]!, position);
  return `the ${part} of ${number}${bar}`;
}

/** The same place for a screen reader: "beat 2, and". */
export function spokenPlace(divisions: Division[], meter: Meter, slot: number): string {
  const { beat, position } = find(divisions, slot);
  const bar = barOf(divisions, meter, beat).replace(' of ', '');
  const number = `${bar ? `${bar}, ` : ''}beat ${countNumber(meter, beat)}`;
  if (position === 0) return number;
  const syllable = syllableAt(divisions[beat]!, position);
  return `${number}, ${SPOKEN[syllable] ?? syllable}`;
}
