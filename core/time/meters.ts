import type { Meter } from '../schema';
import { beatTicks, isCompound } from './ticks';

/** The meters on offer by name; any other grouping, and any count cycle, can be made. */
export const METERS = {
  '4/4': { beats: 4, unit: 4, groups: [4] },
  '3/4': { beats: 3, unit: 4, groups: [3] },
  '2/4': { beats: 2, unit: 4, groups: [2] },
  '5/4': { beats: 5, unit: 4, groups: [3, 2] },
  '6/8': { beats: 6, unit: 8, groups: [3, 3] },
  '7/8': { beats: 7, unit: 8, groups: [2, 2, 3] },
  '9/8': { beats: 9, unit: 8, groups: [3, 3, 3] },
  '12/8': { beats: 12, unit: 8, groups: [3, 3, 3, 3] },
} satisfies Record<string, Meter>;

export type MeterName = keyof typeof METERS;
export const METER_NAMES = Object.keys(METERS) as MeterName[];

/**
 * A count cycle.
 * @param counts how many counts, 1 to 16
 * @param accented the counts that are accented, by their numbers
 * @param first the count it begins on
 * @throws RangeError where a count lies outside the cycle
 * @example countCycle(12, [12, 3, 6, 8, 10], 12).cycle.accents // [0, 3, 6, 8, 10]
 */
export function countCycle(counts: number, accented: number[], first = 1): Meter {
  const outside = [...accented, first].find((count) => count < 1 || count > counts);
  if (counts < 1 || counts > 16 || outside !== undefined) {
    throw new RangeError(`a cycle of ${counts} has no count ${outside ?? counts}`);
  }
  const accents = accented.map((count) => (count - first + counts) % counts).sort((a, b) => a - b);
  return { beats: counts, unit: 4, groups: [counts], cycle: { accents, first } };
}

/**
 * The meter as it is written.
 * @example meterName(METERS['6/8']) // '6/8'
 * @example meterName(countCycle(12, [12, 3, 6, 8, 10], 12)) // '12 counts'
 */
export function meterName(meter: Meter): string {
  return meter.cycle ? `${meter.beats} counts` : `${meter.beats}/${meter.unit}`;
}

/**
 * The meter with what its name leaves open: the grouping of an uneven one, the accents of a cycle.
 * @example describeMeter(METERS['7/8']) // '7/8 as 2+2+3'
 */
export function describeMeter(meter: Meter): string {
  const name = meterName(meter);
  if (meter.cycle) {
    const accents = meter.cycle.accents.map((place) => countNumber(meter, place)).join(' ');
    const from = meter.cycle.first === 1 ? '' : ` from ${meter.cycle.first}`;
    return `${name}${from}${accents ? `, accents on ${accents}` : ''}`;
  }
  const uneven = new Set(meter.groups).size > 1;
  return uneven ? `${name} as ${meter.groups.join('+')}` : name;
}

/**
 * A meter by its name: one on offer, or so many quarters.
 * @returns null for one that is not known
 * @example meterByName('2/4') // METERS['2/4']
 * @example meterByName('1/4') // { beats: 1, unit: 4, groups: [1] }
 */
export function meterByName(name: string): Meter | null {
  if (name in METERS) return METERS[name as MeterName];
  const beats = Number(/^(\d+)\/4$/.exec(name)?.[1]);
  return beats >= 1 && beats <= 16 ? { beats, unit: 4, groups: [beats] } : null;
}

/** True where two meters are the same in all that is heard and counted. */
export function sameMeter(one: Meter, other: Meter): boolean {
  if (one === other) return true;
  return (
    one.beats === other.beats &&
    one.unit === other.unit &&
    one.groups.join() === other.groups.join() &&
    one.cycle?.first === other.cycle?.first &&
    one.cycle?.accents.join() === other.cycle?.accents.join()
  );
}

/**
 * The number counted on a beat of the bar.
 * @param beat from 0; beats of later bars begin again
 * @example countNumber(countCycle(12, [12], 12), 1) // 1
 */
export function countNumber(meter: Meter, beat: number): number {
  const place = ((beat % meter.beats) + meter.beats) % meter.beats;
  return ((place + (meter.cycle?.first ?? 1) - 1) % meter.beats) + 1;
}

/** For every beat of a bar, whether a group begins on it, or an accent of the cycle lies on it. */
export function groupStarts(meter: Meter): boolean[] {
  const { cycle } = meter;
  if (cycle) return Array.from({ length: meter.beats }, (_, beat) => cycle.accents.includes(beat));
  const starts: boolean[] = [];
  for (const size of meter.groups) {
    for (let beat = 0; beat < size; beat += 1) starts.push(beat === 0);
  }
  return starts;
}

/** How heavily a beat of the bar is felt: the bar's first, the first of a later group, any other. */
export type BeatWeight = 'bar' | 'group' | 'beat';

/** In a count cycle the accents weigh, wherever they lie; its first count only if it has one. */
export function beatWeights(meter: Meter): BeatWeight[] {
  return groupStarts(meter).map((start, beat) => (!start ? 'beat' : beat === 0 ? 'bar' : 'group'));
}

/**
 * The beats on which a bass note feels at home: the first of each group; in 4/4 also the third.
 * @example strongBeats(METERS['4/4']) // [0, 2]
 */
export function strongBeats(meter: Meter): number[] {
  const starts = groupStarts(meter).flatMap((start, beat) => (start ? [beat] : []));
  return meter.beats === 4 && starts.length === 1 ? [0, 2] : starts;
}

/**
 * The back-beats: 2 and 4 of 4/4, 2 and 3 of 3/4, the second pulse of 6/8; elsewhere the beat after the
 * start of each group.
 * @example backBeats(METERS['6/8']) // [3]
 */
export function backBeats(meter: Meter): number[] {
  const strong = strongBeats(meter);
  if (isCompound(meter)) return strong.filter((_, group) => group % 2 === 1);
  if (meter.beats === 3 && strong.length === 1) return [1, 2];
  return strong.map((beat) => beat + 1).filter((beat) => beat < meter.beats);
}

/** The note that the tempo counts, as a player reads it on a chart. */
export function pulseNote(meter: Meter): string {
  const names: Record<number, string> = {
    1920: 'half',
    960: 'quarter',
    480: 'eighth',
    240: '16th',
  };
  if (meter.cycle) return 'count';
  const name = names[beatTicks(meter) * (isCompound(meter) ? 2 : 1)] ?? 'beat';
  return isCompound(meter) ? `dotted ${name}` : name;
}
