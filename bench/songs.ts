import type { Meter, Pattern } from '#core/schema';
import { METERS } from '#core/time';
import { parsePattern } from '#core/stroke';
import { newPattern, strum } from '#core/pattern';

/** A bar full of sixteenths, on which the benchmarks are played. */
export const sixteenths: Pattern = {
  schema: 9,
  name: 'Sixteenths',
  meter: METERS['4/4'],
  arm: { school: 'alternate', halfSwings: 4 },
  beats: Array.from({ length: 4 }, () => ({
    division: 4 as const,
    slots: [strum('down'), strum('up'), strum('down'), strum('up')],
  })),
};

/** One bar of a pattern as it is said; of two readings the likelier. */
export function saidPattern(words: string, meter: Meter = METERS['4/4']): Pattern {
  const read = parsePattern(words, newPattern(meter));
  if ('problem' in read) throw new Error(`${words}: ${read.problem.message}`);
  return 'pattern' in read ? read.pattern : read.choice.fits[0]!.pattern;
}
