import type { Meter } from '../schema';
import { beatTicks, isCompound } from './ticks';

/** The meters a song can be written in so far. */
export const METERS = {
  '4/4': { beats: 4, unit: 4, groups: [4] },
  '3/4': { beats: 3, unit: 4, groups: [3] },
  '6/8': { beats: 6, unit: 8, groups: [3, 3] },
} satisfies Record<string, Meter>;

export type MeterName = keyof typeof METERS;
export const METER_NAMES = Object.keys(METERS) as MeterName[];

/**
 * The meter as it is written.
 * @example meterName(METERS['6/8']) // '6/8'
 */
export function meterName(meter: Meter): string {
  return `${meter.beats}/${meter.unit}`;
}

/** For every beat of a bar, whether a group begins on it. */
export function groupStarts(meter: Meter): boolean[] {
  const starts: boolean[] = [];
  for (const size of meter.groups) {
    for (let beat = 0; beat < size; beat += 1) starts.push(beat === 0);
  }
  return starts;
}

/** How heavily a beat of the bar is felt: the bar's first, the first of a later group, any other. */
export type BeatWeight = 'bar' | 'group' | 'beat';

export function beatWeights(meter: Meter): BeatWeight[] {
  return groupStarts(meter).map((start, beat) => (beat === 0 ? 'bar' : start ? 'group' : 'beat'));
}

/** The note that the tempo counts, as a player reads it on a chart. */
export function pulseNote(meter: Meter): string {
  const names: Record<number, string> = {
    1920: 'half',
    960: 'quarter',
    480: 'eighth',
    240: '16th',
  };
  const name = names[beatTicks(meter) * (isCompound(meter) ? 2 : 1)] ?? 'beat';
  return isCompound(meter) ? `dotted ${name}` : name;
}
