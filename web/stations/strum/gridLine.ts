import { plural } from '#core/plain';
import type { ArmStyle, Pattern } from '#core/schema';
import { type CountVocabulary, describeMeter } from '#core/time';
import { armPasses } from '#core/stroke';
import { patternLengths } from '#core/pattern';

/** How the arm goes, and how it is counted, in the words of the fields and of the line alike. */
export const ARM_WORDS: { label: string; value: ArmStyle }[] = [
  { label: 'down and up in turn', value: 'alternate' },
  { label: 'each beat from a down', value: 'restart' },
  { label: 'shuffle: down, wait, up', value: 'shuffle' },
  { label: 'all downs', value: 'all-downs' },
  { label: 'free', value: 'free' },
];
export const COUNT_WORDS: { label: string; value: CountVocabulary }[] = [
  { label: '1 e & a', value: 'numbers' },
  { label: '1 trip let', value: 'triplets' },
  { label: 'ta ka di mi', value: 'syllables' },
  { label: 'beats alone', value: 'beats' },
  { label: 'every count', value: 'cycle' },
];

const labelOf = <T>(words: { label: string; value: T }[], value: T) =>
  words.find((word) => word.value === value)!.label;

/** What is counted in a beat of numbers, by the finest beat of the pattern. */
const COUNTED: Partial<Record<number, string>> = {
  1: '1 2 3',
  2: '1 &',
  3: '1 trip let',
  4: '1 e & a',
};

/** How a pattern is counted, as it is said over its own beats. */
function countedAs({ beats }: Pattern, counting: CountVocabulary): string {
  const finest = Math.max(...beats.map(({ division }) => division));
  return (counting === 'numbers' && COUNTED[finest]) || labelOf(COUNT_WORDS, counting);
}

/**
 * What a pattern stands on, in one line.
 * @example gridLine(pattern, 'numbers') // '4/4 · 1 bar · straight · arm down and up in turn, 2 moves a beat · count 1 &'
 */
export function gridLine(pattern: Pattern, counting: CountVocabulary): string {
  const { meter, beats, feel, arm } = pattern;
  // As it swings, which is faster than it is set where the strokes are finer.
  const passes = armPasses(pattern).filter(({ rests }) => !rests).length / beats.length;
  const length = patternLengths(meter).find((one) => one.beats === beats.length);
  return [
    describeMeter(meter),
    length?.label ?? plural(beats.length, 'beat'),
    feel ? `swung ${feel.on} ${feel.percent} %` : 'straight',
    `arm ${labelOf(ARM_WORDS, arm.school)}, ${plural(Math.round(passes * 10) / 10, 'move')} a beat`,
    `count ${countedAs(pattern, counting)}`,
  ].join(' · ');
}
