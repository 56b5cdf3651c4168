import { modulo, type Ticks } from '../plain';
import type { Meter } from '../schema';
import { backBeats, barTicks, type BeatWeight, beatTicks, beatWeights, countNumber } from '../time';
import type { CountedBar } from './performance';

export interface ClickBeat {
  tick: Ticks;
  weight: BeatWeight;
  /** The number counted on it. */
  number: number;
  /** Whether it is a back-beat: 2 and 4 of 4/4. */
  back: boolean;
  /** The bar it is in, by its place among the bars; below the first in a count-in. */
  bar: number;
}

/** Which beats click: all, only the back-beats, only the first of the bar, or all but softer bar by bar. */
export const CLICK_MODES = ['all', 'back', 'first', 'fading'] as const;
export type ClickMode = (typeof CLICK_MODES)[number];

/** Bars after which a fading click is gone. */
const FADED_AFTER = 8;

/**
 * How loud a click is, 0 to 1.
 * @param heard bars heard since it began
 * @example clickLevel('fading', beat, 4) // 0.5
 */
export function clickLevel(mode: ClickMode, { weight, back }: ClickBeat, heard: number): number {
  if (mode === 'back') return back ? 1 : 0;
  if (mode === 'first') return weight === 'bar' ? 1 : 0;
  return mode === 'fading' ? Math.max(0, 1 - Math.max(0, heard) / FADED_AFTER) : 1;
}

/** A bar as it is counted; what of it a pick-up leaves out is `lead`. */
export function countedBar({ tick, ticks, lead, meter }: CountedBar): CountedBar {
  return { tick, ticks, lead, meter };
}

/**
 * Bars of one meter, for what is counted outside a song.
 * @example evenBars(METERS['3/4'], 5760).length // 2
 */
export function evenBars(meter: Meter, ticks: Ticks): CountedBar[] {
  const bar = barTicks(meter);
  return Array.from({ length: Math.max(1, Math.ceil(ticks / bar)) }, (_, index) => ({
    tick: index * bar,
    ticks: bar,
    lead: 0,
    meter,
  }));
}

/**
 * The length of a count-in: whole bars, and what a pick-up leaves out of the first one.
 * @param first the bar that it leads into
 * @example countInTicks(2, bars[0]) // 7680
 */
export function countInTicks(count: number, first: CountedBar): Ticks {
  return count === 0 ? 0 : count * barTicks(first.meter) + first.lead;
}

/**
 * The beats that fall in a span of ticks; a count-in before the first bar is counted as that bar is,
 * what lies after the last one is not counted.
 * @param bars in the order of playing
 * @param into the bar that a count-in leads into, where it is not the first
 * @example clickBeats(evenBars(METERS['4/4'], 3840), -3840, 0).map((beat) => beat.number) // [1, 2, 3, 4]
 */
export function clickBeats(
  bars: CountedBar[],
  from: Ticks,
  to: Ticks,
  into: CountedBar | undefined = undefined,
): ClickBeat[] {
  const beats: ClickBeat[] = [];
  const add = (
    { meter, tick: start, lead }: CountedBar,
    first: number,
    end: number,
    bar: number,
  ) => {
    const beat = beatTicks(meter);
    const whole = barTicks(meter);
    const weights = beatWeights(meter);
    const backs = new Set(backBeats(meter));
    const origin = start - lead;
    for (let tick = origin + Math.ceil((first - origin) / beat) * beat; tick < end; tick += beat) {
      const place = modulo(tick - origin, whole) / beat;
      beats.push({
        tick,
        weight: weights[place]!,
        number: countNumber(meter, place),
        back: backs.has(place),
        bar,
      });
    }
  };
  if (into) {
    add(into, from, Math.min(to, into.tick), -1);
    return beats;
  }
  const [opening] = bars;
  if (opening && from < opening.tick) add(opening, from, Math.min(to, opening.tick), -1);
  const begins = Math.max(
    0,
    bars.findLastIndex(({ tick }) => tick <= from),
  );
  for (let index = begins; index < bars.length && bars[index]!.tick < to; index += 1) {
    const bar = bars[index]!;
    add(bar, Math.max(from, bar.tick), Math.min(to, bar.tick + bar.ticks), index);
  }
  return beats;
}
