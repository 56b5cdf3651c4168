import { interquartileRange, median } from 'simple-statistics';
import type { Milliseconds, Seconds } from '../plain';
import type { Arrangement, Strike } from '../arrange';
import type { TakeJudgement } from '../schema';
import { divisions } from '../stroke';
import { placeName, secondsPerTick } from '../time';
import type { StrokeSound } from './listen';

/** A stroke that was meant, and what was heard of it. */
export interface Judged {
  /** In the performance of the whole song. */
  index: number;
  strike: Strike;
  /** From the first bar line of the take, as it was meant. */
  seconds: Seconds;
  before: Strike | null;
  heard:
    | ({
        seconds: Seconds;
        /** Milliseconds late, or early below zero. */
        off: Milliseconds;
        loudness: number;
        /** It hardly stands out: its moment is not sure enough to be the reason for a verdict. */
        faint: boolean;
      } & StrokeSound)
    | null;
}

/** No ear notices less, in milliseconds; and of a slot no more than this share may be off. */
const NOTICED = 25;
const SHARE_OF_SLOT = 0.22;

/**
 * Milliseconds within which a stroke is on time: a share of the shortest slot of the song, never below what
 * an ear notices.
 */
export function toleranceOf({ song }: Arrangement, played: Judged[]): Milliseconds {
  const shortest = Math.min(...played.map(({ strike }) => strike.ticks), 960);
  const slot = shortest * secondsPerTick(song.tempo, song.meter) * 1000;
  return Math.round(Math.max(NOTICED, Math.min(60, SHARE_OF_SLOT * slot)));
}

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

export function bySlot(
  { song }: Arrangement,
  played: Judged[],
  tolerance: Milliseconds,
): TakeJudgement['bySlot'] {
  const groups = new Map<number, Judged[]>();
  for (const one of played) {
    if (!one.strike.run) groups.set(one.strike.slot, [...(groups.get(one.strike.slot) ?? []), one]);
  }
  const rows = divisions(song.pattern);
  const slots = rows.reduce<number>((sum, count) => sum + count, 0);
  return [...groups]
    .sort(([one], [other]) => one - other)
    .map(([slot, strokes]) => ({
      slot,
      place: slot < slots ? placeName(rows, song.pattern.meter, slot) : `stroke ${slot + 1}`,
      ...groupOf(strokes, tolerance),
    }));
}

export function byChange(played: Judged[], tolerance: Milliseconds): TakeJudgement['byChange'] {
  const groups = new Map<string, Judged[]>();
  for (const one of played) {
    const from = one.before?.chord;
    if (!one.strike.landing || !from || !one.strike.chord) continue;
    const key = `${from} ${one.strike.chord}`;
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
