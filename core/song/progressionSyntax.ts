import type { Bar, Meter } from '../schema';
import { beatTicks } from '../time';
import { barLength } from './timeline';

/** What the reading and the printing of the line of text share. */

export const HOLD = '.';
export const REPEAT_BAR = '%';
/** Words to a beat in a bar with dots: a beat each, or halves, thirds, quarters of one. */
export const FINER = [1, 2, 3, 4];

/** The part of a bar that is played: how many beats, and how long one is. */
export interface BarGrid {
  beats: number;
  beat: number;
}

export function gridOf(bar: Pick<Bar, 'meter' | 'pickup'>, song: Meter): BarGrid {
  const { meter, ticks } = barLength(bar, song);
  const beat = beatTicks(meter);
  return { beats: ticks / beat, beat };
}

/** Chords share a bar equally where each share is a whole number of half beats. */
export function shareOf({ beats, beat }: BarGrid, chords: number): number | null {
  const share = (beats * beat) / chords;
  return share % (beat / 2) === 0 ? share : null;
}
