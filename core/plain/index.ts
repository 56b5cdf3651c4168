/** Units, plain arithmetic and words that every room needs and no package of ours brings. */

import type { Seconds } from './units';

export type { Centimetres, Milliseconds, Seconds, SecondsPerTick, Ticks } from './units';

/**
 * What is left over, never below zero.
 * @param by above zero
 * @example modulo(-1, 12) // 11
 */
export function modulo(value: number, by: number): number {
  return ((value % by) + by) % by;
}

/**
 * A count with its word; fractions to two places.
 * @param many where it is not the one with an s
 * @example plural(1, 'bar') // '1 bar'
 * @example plural(2.5, 'beat') // '2.5 beats'
 */
export function plural(count: number, one: string, many = `${one}s`): string {
  return `${Number(count.toFixed(2))} ${count === 1 ? one : many}`;
}

const ORDINALS = ['first', 'second', 'third', 'fourth', 'fifth', 'sixth', 'seventh', 'eighth'];

/**
 * Which one of several, in a word up to eight.
 * @param place from 1
 * @example ordinal(3) // 'third'
 * @example ordinal(12) // '12th'
 */
export function ordinal(place: number): string {
  return ORDINALS[place - 1] ?? `${place}${ordinalEnding(place)}`;
}

/** What follows the figures of an ordinal. @example ordinalEnding(22) // 'nd' */
export function ordinalEnding(place: number): string {
  const tens = place % 100;
  return tens > 10 && tens < 14 ? 'th' : (['th', 'st', 'nd', 'rd'][place % 10] ?? 'th');
}

/**
 * Seconds as minutes and seconds.
 * @example clock(83.4) // '1:23'
 */
export function clock(seconds: Seconds): string {
  const whole = Math.floor(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}

/**
 * What is told of whatever was thrown.
 * @example messageOf(new Error('The file is empty.')) // 'The file is empty.'
 * @example messageOf('gone') // 'gone'
 */
export function messageOf(thrown: unknown): string {
  return thrown instanceof Error ? thrown.message : String(thrown);
}
