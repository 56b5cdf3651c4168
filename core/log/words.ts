import type { LogSummary } from '../schema';
import { plural, type Seconds } from '../plain';
import type { Trend } from './trend';
import { differenceInCalendarDays, parseISO } from 'date-fns';

const SMALL = [
  'No',
  'One',
  'Two',
  'Three',
  'Four',
  'Five',
  'Six',
  'Seven',
  'Eight',
  'Nine',
  'Ten',
  'Eleven',
  'Twelve',
];

/**
 * A length of practice, as players say it.
 * @example describeTime(19200) // '5 h 20'
 * @example describeTime(540) // '9 min'
 */
export function describeTime(seconds: Seconds): string {
  const minutes = Math.round(seconds / 60);
  if (minutes < 60) return `${minutes} min`;
  return `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}`;
}

/**
 * What the log comes to, in a sentence.
 * @example describeLog({ evenings: 0, seconds: 0, songs: [] }) // 'Nothing in the log yet: a take on Practice is its first row.'
 */
export function describeLog({
  evenings,
  seconds,
  songs,
}: Pick<LogSummary, 'evenings' | 'seconds' | 'songs'>): string {
  if (evenings === 0) return 'Nothing in the log yet: a take on Practice is its first row.';
  const count = SMALL[evenings] ?? String(evenings);
  const start = `${count} ${evenings === 1 ? 'evening' : 'evenings'}, ${describeTime(seconds)}.`;
  const song = songs.find(({ clean }) => clean !== null);
  if (!song) return start;
  const up = song.first !== null && song.first < song.clean! ? `, up from ${song.first}` : '';
  const left = song.left ? `; ${song.left} is what is left` : '';
  return `${start} ${song.song} is clean at ${song.clean}${up}${left}.`;
}

const DATE = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long' });
const date = (day: string) => DATE.format(parseISO(day));

/**
 * When the goal is likely reached, as an estimate; and what would have to change where its day does not hold.
 * @param by the day it is wanted, as an ISO date
 * @example describeTrend(null, 92, null, '2031-05-08') // 'Five clean evenings are needed before an estimate means anything.'
 */
export function describeTrend(
  trend: Trend | null,
  goal: number,
  by: string | null,
  today: string,
): string {
  if (!trend) return 'Five clean evenings are needed before an estimate means anything.';
  if (trend.best >= goal) return `Clean at ${trend.best}: the goal of ${goal} is reached.`;
  if (trend.likely === null) {
    return `Clean at ${trend.best} and standing still: ${goal} needs easier shapes, the easier pattern, or more evenings.`;
  }
  const range =
    trend.earliest && trend.latest && trend.earliest !== trend.latest
      ? ` (between ${date(trend.earliest)} and ${date(trend.latest)})`
      : '';
  const start = `${goal} is likely about ${date(trend.likely)}${range}, at about ${trend.week} bpm a week.`;
  if (by === null) return start;
  if (trend.likely <= by) return `${start} The ${date(by)} holds.`;
  const weeks = Math.max(1, differenceInCalendarDays(parseISO(by), parseISO(today))) / 7;
  const there = Math.floor(trend.best + trend.week * weeks);
  const pace = ((goal - trend.best) / weeks).toFixed(1);
  return `${start} For the ${date(by)} it would have to be ${pace} a week: more minutes, easier shapes, the easier pattern, or a goal of ${there}.`;
}

/**
 * What a number of evenings and songs says of what to play next, for the top of the shelf.
 * @returns null where nothing was practised
 */
export function describeNext(songs: LogSummary['songs']): string | null {
  const open = songs.filter(({ goal, clean }) => goal !== null && (clean ?? 0) < goal);
  const next = open.sort((a, b) => (a.clean ?? 0) / a.goal! - (b.clean ?? 0) / b.goal!)[0];
  if (!next) return null;
  const at = next.clean === null ? 'not clean yet' : `clean at ${next.clean}`;
  return `Next: ${next.song}, ${at}, for ${next.goal}${next.by ? ` by ${date(next.by)}` : ''}.`;
}

/** How many days ago something was, in words. */
export function daysAgo(day: string, today: string): string {
  const days = differenceInCalendarDays(parseISO(today), parseISO(day));
  if (days <= 0) return 'today';
  return days === 1 ? 'yesterday' : `${plural(days, 'day')} ago`;
}
