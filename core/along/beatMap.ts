import type { Seconds, Ticks } from '../plain';
import type { BeatMap } from '../schema';
import { pulseTicks } from '../time';
import { pulsesPerBar } from './beats';

/** A beat map as time: seconds of the recording against ticks from its first bar line. */

/** The gap after the last pulse, or before the first. */
export function edgeGap({ pulses }: BeatMap, at: 'start' | 'end'): number {
  return at === 'start' ? pulses[1]! - pulses[0]! : pulses.at(-1)! - pulses.at(-2)!;
}

/**
 * Seconds of the recording at a tick; before the first pulse and after the last the tempo goes on as it was.
 * @param tick from the first bar line; negative in a pick-up
 * @example secondsOf({ meter, pulses: [1, 1.5, 2], sure: [1, 1, 1], one: 0, set: [] }, 480) // 1.25
 */
export function secondsOf(map: BeatMap, tick: Ticks): Seconds {
  const { pulses, one, meter } = map;
  const place = tick / pulseTicks(meter) + one;
  const index = Math.floor(place);
  if (index < 0) return pulses[0]! + place * edgeGap(map, 'start');
  const last = pulses.length - 1;
  if (index >= last) return pulses[last]! + (place - last) * edgeGap(map, 'end');
  return pulses[index]! + (place - index) * (pulses[index + 1]! - pulses[index]!);
}

/**
 * The tick at a moment of the recording: `secondsOf` the other way round.
 * @example tickOf({ meter, pulses: [1, 1.5, 2], sure: [1, 1, 1], one: 0, set: [] }, 1.25) // 480
 */
export function tickOf(map: BeatMap, seconds: Seconds): Ticks {
  const { pulses, one, meter } = map;
  const ticks = pulseTicks(meter);
  const last = pulses.length - 1;
  if (seconds < pulses[0]!) return ((seconds - pulses[0]!) / edgeGap(map, 'start') - one) * ticks;
  if (seconds >= pulses[last]!) {
    return ((seconds - pulses[last]!) / edgeGap(map, 'end') + last - one) * ticks;
  }
  let [low, high] = [0, last];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (pulses[middle]! <= seconds) low = middle;
    else high = middle;
  }
  return (low + (seconds - pulses[low]!) / (pulses[high]! - pulses[low]!) - one) * ticks;
}

/** Below this a bar is shown as unsure. */
export const SURE_ENOUGH = 0.5;

/** Pulses from a set one to the next set ones, or so many where there is none, go along with it when it is moved. */
const GO_ALONG = 8;

/**
 * A pulse put elsewhere: those around it follow, as far as the next that was set.
 * @example movePulse(map, 4, 2.06).pulses[4] // 2.06
 */
export function movePulse(map: BeatMap, index: number, seconds: Seconds): BeatMap {
  const { pulses, set } = map;
  const by = seconds - pulses[index]!;
  const left = Math.max(index - GO_ALONG, set.findLast((other) => other < index) ?? -1);
  const right = Math.min(index + GO_ALONG, set.find((other) => other > index) ?? pulses.length);
  const moved = pulses.map((at, other) => {
    if (other === index) return seconds;
    const span = other < index ? index - left : right - index;
    const away = Math.abs(other - index);
    return away >= span ? at : at + by * (1 - away / span);
  });
  const inOrder = moved.every(
    (at, other) => at >= 0 && (other === 0 || at > moved[other - 1]! + 0.02),
  );
  if (!inOrder) return map;
  return {
    ...map,
    pulses: moved.map((at) => Number(at.toFixed(4))),
    sure: map.sure.map((sure, other) => (other === index ? 1 : sure)),
    set: [...new Set([...set, index])].sort((a, b) => a - b),
  };
}

/** The bar begins on this pulse, and so do all others. */
export function setDownbeat(map: BeatMap, pulse: number): BeatMap {
  return { ...map, one: pulse % pulsesPerBar(map.meter) };
}

/** Twice as many pulses: one between each two. */
export function doublePulses(map: BeatMap): BeatMap {
  const { pulses, sure } = map;
  const twice = <T>(list: T[], between: (one: T, next: T) => T) =>
    list.flatMap((one, index) =>
      index + 1 < list.length ? [one, between(one, list[index + 1]!)] : [one],
    );
  return {
    ...map,
    pulses: twice(pulses, (one, next) => Number(((one + next) / 2).toFixed(4))),
    sure: twice(sure, Math.min),
    one: (map.one * 2) % pulsesPerBar(map.meter),
    set: map.set.map((index) => index * 2),
  };
}

/** Half as many pulses: every second one, those with the bar lines. */
export function halvePulses(map: BeatMap): BeatMap {
  const first = map.one % 2;
  const half = <T>(list: T[]) => list.filter((_, index) => index % 2 === first);
  if (half(map.pulses).length < 2) return map;
  return {
    ...map,
    pulses: half(map.pulses),
    sure: half(map.sure),
    one: Math.floor(map.one / 2) % pulsesPerBar(map.meter),
    set: map.set.filter((index) => index % 2 === first).map((index) => Math.floor(index / 2)),
  };
}

/** The tempo around a tick, in pulses a minute. */
export function tempoAt(map: BeatMap, tick: Ticks): Seconds {
  const pulse = pulseTicks(map.meter);
  return 60 / (secondsOf(map, tick + pulse) - secondsOf(map, tick));
}

/** Bars that a map has room for. */
export function wholeBars(map: BeatMap): number {
  return Math.max(1, Math.floor((map.pulses.length - map.one) / pulsesPerBar(map.meter)));
}
