import { interquartileRange, median } from 'simple-statistics';
import type { Milliseconds, Seconds } from '../plain';
import type { Arrangement, Strike } from '../arrange';
import type { Pattern, PluckingFinger, TakeJudgement } from '../schema';
import { divisions, slots } from '../stroke';
import { placeName } from '../time';
import { isLanding } from './kinds';
import type { StrokeSound } from './listen';

/** A stroke that was heard, and what was heard of it. */
export interface HeardStroke extends StrokeSound {
  seconds: Seconds;
  /** Milliseconds late, or early below zero. */
  off: Milliseconds;
  loudness: number;
  /** It hardly stands out: its moment is not sure enough to be the reason for a verdict. */
  faint: boolean;
}

/** A stroke that was meant, and what was heard of it. */
export interface Judged {
  /** In the performance of the whole song. */
  index: number;
  strike: Strike;
  /** From the first bar line of the take, as it was meant. */
  seconds: Seconds;
  before: Strike | null;
  heard: HeardStroke | null;
  /** False for a soft stroke that was not heard: a microphone may have missed it. */
  counts: boolean;
  /** Late because the player waited, and on the way back into time. */
  hurried: boolean;
}

/**
 * A stroke is on time within this share of the shortest gap between two strokes of the pattern: from about an eighth of
 * it on a run of equal strokes begins to limp for a listener. Never below what a rake takes and an ear notices of a
 * single stroke, and never above what a second player notices (both in milliseconds).
 */
const SHARE_OF_GAP = 0.12;
export const LEAST_TOLERANCE = 30;
export const MAX_TOLERANCE = 45;

/** Gaps below this, in milliseconds, are strokes that belong together. */
const ONE_STROKE = 20;

/**
 * Milliseconds within which a stroke is on time, from the shortest gap between the strokes of the take.
 * @example toleranceOf([0, 375, 750].map((ms) => ms / 1000)) // 45
 */
export function toleranceOf(seconds: Seconds[]): Milliseconds {
  let shortest = Infinity;
  for (let at = 1; at < seconds.length; at += 1) {
    const gap = (seconds[at]! - seconds[at - 1]!) * 1000;
    if (gap > ONE_STROKE) shortest = Math.min(shortest, gap);
  }
  return Math.round(Math.max(LEAST_TOLERANCE, Math.min(MAX_TOLERANCE, SHARE_OF_GAP * shortest)));
}

/** The start of what hardly stands out is known half as well. */
const FAINT_TOLERANCE = 2;

/** Whether a stroke was heard where it was meant, as far as its start is known. */
export const isInTime = ({ heard }: Judged, tolerance: Milliseconds): boolean =>
  heard !== null && Math.abs(heard.off) <= tolerance * (heard.faint ? FAINT_TOLERANCE : 1);

/** Count, missed, median and spread of some strokes. */
export function groupOf(strokes: Judged[], tolerance: Milliseconds) {
  const offs = strokes.flatMap(({ heard }) => (heard ? [heard.off] : []));
  const any = offs.length > 0;
  return {
    count: strokes.length,
    missed: strokes.length - offs.length,
    median: any ? Number(median(offs).toFixed(1)) : null,
    spread: any ? Number(interquartileRange(offs).toFixed(1)) : null,
    within: any ? offs.filter((off) => Math.abs(off) <= tolerance).length / offs.length : null,
  };
}

/** The pattern that carries a stroke. */
function patternUnder(
  { song, rhythms }: Pick<Arrangement, 'song' | 'rhythms'>,
  { bar, tick: at }: Strike,
): Pattern {
  return rhythms[bar]?.findLast(({ tick }) => tick <= at)?.pattern ?? song.pattern;
}

/**
 * The finger that picks a single string with a stroke; null where none is named, or several strings are picked.
 * @example fingerOfStrike(arrangement(song), strike) // 'i'
 */
export function fingerOfStrike(
  arranged: Pick<Arrangement, 'song' | 'rhythms'>,
  strike: Strike,
): PluckingFinger | null {
  if (strike.kind !== 'pick' || strike.tune) return null;
  const stroke = slots(patternUnder(arranged, strike))[strike.slot]?.stroke;
  if (stroke?.kind !== 'pick' || stroke.strings.length !== 1) return null;
  return stroke.strings[0]!.finger ?? null;
}

/** The place of a stroke in its bar, as players say it: 'the & of 4'. */
export function placeOf(arranged: Pick<Arrangement, 'song' | 'rhythms'>, strike: Strike): string {
  const pattern = patternUnder(arranged, strike);
  const rows = divisions(pattern);
  const slots = rows.reduce<number>((sum, count) => sum + count, 0);
  return strike.slot < slots
    ? placeName(rows, pattern.meter, strike.slot)
    : `stroke ${strike.slot + 1}`;
}

/** Strokes by their place: the slot of the pattern that carries their bar. */
export function bySlot(
  arranged: Arrangement,
  played: Judged[],
  tolerance: Milliseconds,
): TakeJudgement['bySlot'] {
  const groups = new Map<number, Judged[]>();
  for (const one of played) {
    if (!one.strike.run) groups.set(one.strike.slot, [...(groups.get(one.strike.slot) ?? []), one]);
  }
  const rows = divisions(arranged.song.pattern);
  const slots = rows.reduce<number>((sum, count) => sum + count, 0);
  return [...groups]
    .sort(([one], [other]) => one - other)
    .map(([slot, strokes]) => ({
      slot,
      place:
        slot < slots ? placeName(rows, arranged.song.pattern.meter, slot) : `stroke ${slot + 1}`,
      ...groupOf(strokes, tolerance),
    }));
}

/** A change as it is counted: which chord to which. */
export const changeKey = ({ before, strike }: Pick<Judged, 'before' | 'strike'>): string =>
  `${before?.chord} ${strike.chord}`;

export function byChange(played: Judged[], tolerance: Milliseconds): TakeJudgement['byChange'] {
  const groups = new Map<string, Judged[]>();
  for (const one of played) {
    if (!isLanding(one.strike, one.before) || !one.strike.chord) continue;
    const key = changeKey(one);
    groups.set(key, [...(groups.get(key) ?? []), one]);
  }
  return [...groups.values()].map((strokes) => ({
    from: strokes[0]!.before!.chord!,
    to: strokes[0]!.strike.chord!,
    ...groupOf(strokes, tolerance),
    chordLate: strokes.filter(({ heard }) => heard?.chord === 'late').length,
    bars: [...new Set(strokes.map(({ strike }) => strike.bar + 1))],
  }));
}
