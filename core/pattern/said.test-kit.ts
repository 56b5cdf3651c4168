import type { Pattern } from '../schema';
import { METERS } from '../time';
import { newPattern } from '.';
import { parsePattern } from '../stroke';

/**
 * The pattern that words say, on the grid of another.
 * @throws Error where they do not fit it
 * @example said('down, down up')
 */
export function said(words: string, on: Pattern = newPattern(METERS['4/4'])): Pattern {
  const reading = parsePattern(words, on);
  // Where several may be meant, the likeliest.
  if ('choice' in reading) return reading.choice.fits[0]!.pattern;
  if (!('pattern' in reading)) throw new Error(`${words}: ${reading.problem.message}`);
  return reading.pattern;
}
