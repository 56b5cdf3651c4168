import { addDays, differenceInCalendarDays, formatISO, parseISO } from 'date-fns';
import { median, quantile } from 'simple-statistics';

/** An evening on which a song was clean: the day, and the quickest tempo. */
export interface CleanEvening {
  /** As an ISO date. */
  day: string;
  tempo: number;
}

/** Where a song is on its way to its goal. An estimate, never more. */
export interface Trend {
  /** The quickest clean tempo so far. */
  best: number;
  /** Pulses a minute that a week brings. */
  week: number;
  /** The day on which the goal is likely reached, the earliest and the latest; null where nothing points there. */
  likely: string | null;
  earliest: string | null;
  latest: string | null;
}

/** Fewer evenings than this say nothing. */
export const EVENINGS_NEEDED = 5;
/** Farther than this in days no estimate is worth saying. */
const HORIZON = 365;

const iso = (date: Date) => formatISO(date, { representation: 'date' });

/**
 * A robust trend (Theil and Sen: the middle of the slopes between all pairs) of the quickest tempo that was clean
 * up to each evening, with today as the last point, so that standing still counts. A further clean take today
 * never pushes the estimate later.
 * @param evenings in any order; of one day the quickest counts
 * @param today as an ISO date
 * @returns null with fewer than five evenings
 * @example goalTrend([], 92, '2031-05-08') // null
 */
export function goalTrend(evenings: CleanEvening[], goal: number, today: string): Trend | null {
  const byDay = new Map<string, number>();
  for (const { day, tempo } of evenings) byDay.set(day, Math.max(byDay.get(day) ?? 0, tempo));
  const days = [...byDay].sort(([a], [b]) => (a < b ? -1 : 1)).filter(([day]) => day <= today);
  if (days.length < EVENINGS_NEEDED) return null;
  const start = parseISO(days[0]![0]);
  let best = 0;
  const points = days.map(([day, tempo]) => {
    best = Math.max(best, tempo);
    return { x: differenceInCalendarDays(parseISO(day), start), y: best };
  });
  const now = differenceInCalendarDays(parseISO(today), start);
  if (points.at(-1)!.x < now) points.push({ x: now, y: best });
  const slopes = points.flatMap((one, index) =>
    points.slice(index + 1).map((other) => (other.y - one.y) / (other.x - one.x)),
  );
  const dayOf = (slope: number) => {
    if (best >= goal) return today;
    const left = slope > 0 ? (goal - best) / slope : Infinity;
    return left <= HORIZON ? iso(addDays(parseISO(today), Math.ceil(left))) : null;
  };
  const middle = median(slopes);
  return {
    best,
    week: Number((middle * 7).toFixed(2)),
    likely: dayOf(middle),
    earliest: dayOf(quantile(slopes, 0.75)),
    latest: dayOf(quantile(slopes, 0.25)),
  };
}
