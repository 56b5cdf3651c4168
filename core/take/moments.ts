import type { Seconds } from '../plain';
import type { Direction } from '../schema';

/** Something that was heard, as far as its place matters. */
export interface HeardMoment {
  seconds: Seconds;
  /** How much it stands out; what is far weaker than the others may be a click. */
  strength: number;
  /** How much of it is left after a tenth of a second, 0 to 1: what rings is no click; where nobody knows, it may be one. */
  rings?: number | undefined;
  /** The way of the hand, where an instrument or a key told it. */
  direction?: Direction | null | undefined;
}

/** A stroke that is meant, as far as its place matters. */
export interface MeantMoment {
  /** From the first bar line. */
  seconds: Seconds;
  /** So soft that it may not be heard. */
  soft?: boolean;
  /** A place at which players stop: a landing, or the first stroke of a bar. */
  pause?: boolean;
  direction?: Direction | undefined;
}

/** The index of the first moment not before a time. */
export function firstAt(heard: HeardMoment[], seconds: Seconds): number {
  let [low, high] = [0, heard.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (heard[middle]!.seconds < seconds) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** A click, or a knock, is gone by then but for the noise of the room. */
const RINGS = 0.62;
export const clicks = ({ rings = 0 }: HeardMoment) => rings <= RINGS;
