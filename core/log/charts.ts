import {
  addDays,
  differenceInCalendarDays,
  format,
  formatISO,
  parseISO,
  startOfISOWeek,
} from 'date-fns';
import type { LogSummary, RungId, SaidTrouble } from '../schema';
import { type Milliseconds, plural } from '../plain';
import { rungName } from '../practice';
import { describeTime } from './words';

/** A line of a chart over days: ISO dates and what was measured on them. */
export interface DaySeries {
  name: string;
  points: { day: string; value: number }[];
}

const date = (day: string) => format(parseISO(day), 'd MMMM');

/**
 * The clean tempo of a song over time, a line a rung, the one with most evenings first.
 * @example cleanSeries([]) // []
 */
export function cleanSeries(clean: LogSummary['clean']): (DaySeries & { rung: RungId })[] {
  const byRung = new Map<RungId, DaySeries['points']>();
  for (const { rung, day, tempo } of clean) {
    byRung.set(rung, [...(byRung.get(rung) ?? []), { day, value: tempo }]);
  }
  return [...byRung]
    .map(([rung, points]) => ({ rung, name: rungName(rung), points }))
    .sort((a, b) => b.points.length - a.points.length);
}

/** What the line of the song in full says, or of the rung with most evenings. */
export function describeClean(series: ReturnType<typeof cleanSeries>, goal: number | null): string {
  const line = series.find(({ rung }) => rung === 'song') ?? series[0];
  if (!line) return 'No clean take yet.';
  const [first, last] = [line.points[0]!, line.points.at(-1)!];
  const to = goal === null ? '' : `; the goal is ${goal}`;
  if (line.points.length === 1)
    return `${line.name}: clean at ${first.value} on ${date(first.day)}${to}.`;
  return `${line.name}: ${first.value} on ${date(first.day)}, ${last.value} on ${date(last.day)}${to}.`;
}

/** How late strokes are told apart from even, in milliseconds. */
const TOLD = 5;

/**
 * What changed in the timing of a song's slots within a month, in one sentence: the place that was worst.
 * @example describeSlots([{ place: 'the & of 2', now: 12, before: 38 }]) // 'What is struck on the & of 2 came 38 ms late a month ago, and 12 ms late now.'
 */
export function describeSlots(slots: LogSummary['slots']): string {
  const both = slots.filter(({ now, before }) => now !== null && before !== null);
  const late = (ms: Milliseconds) =>
    Math.abs(ms) < TOLD ? 'on time' : `${Math.abs(Math.round(ms))} ms ${ms > 0 ? 'late' : 'early'}`;
  const named = ({ place }: LogSummary['slots'][number]) => `What is struck on ${place}`;
  if (both.length > 0) {
    const worst = both.reduce((most, slot) =>
      Math.abs(slot.before!) > Math.abs(most.before!) ? slot : most,
    );
    return `${named(worst)} came ${late(worst.before!)} a month ago, and ${late(worst.now!)} now.`;
  }
  const heard = slots.filter(({ now }) => now !== null);
  if (heard.length === 0) return 'No take of it was heard yet.';
  const worst = heard.reduce((most, slot) =>
    Math.abs(slot.now!) > Math.abs(most.now!) ? slot : most,
  );
  return `${named(worst)} comes ${late(worst.now!)}; a month ago nothing of it was heard.`;
}

/**
 * How long changes took, a line each, the slowest of late first.
 * @example changeSeries([]) // []
 */
export function changeSeries(changes: LogSummary['changes']): DaySeries[] {
  const byChange = new Map<string, DaySeries['points']>();
  for (const { change, day, ms } of changes) {
    byChange.set(change, [...(byChange.get(change) ?? []), { day, value: ms }]);
  }
  return [...byChange]
    .map(([name, points]) => ({ name, points }))
    .sort((a, b) => b.points.at(-1)!.value - a.points.at(-1)!.value);
}

export function describeChangeTimes(series: DaySeries[]): string {
  const slowest = series[0];
  if (!slowest) return 'No change was timed yet: that is done on Changes.';
  const [first, last] = [slowest.points[0]!, slowest.points.at(-1)!];
  const was = slowest.points.length > 1 ? `, ${Math.round(first.value)} ms at first` : '';
  return `${slowest.name} takes longest: ${Math.round(last.value)} ms${was}.`;
}

/**
 * Minutes of each week, from its Monday on, without a gap between the first and the last.
 * @example weeksOf([{ day: '2031-05-08', seconds: 600, takes: 1 }]) // [{ week: '2031-05-05', minutes: 10 }]
 */
export function weeksOf(days: LogSummary['days']): { week: string; minutes: number }[] {
  const monday = (day: string) => startOfISOWeek(parseISO(day));
  const iso = (day: Date) => formatISO(day, { representation: 'date' });
  const [first, last] = [days[0], days.at(-1)];
  if (!first || !last) return [];
  const count = differenceInCalendarDays(monday(last.day), monday(first.day)) / 7 + 1;
  return Array.from({ length: count }, (_, index) => {
    const week = iso(addDays(monday(first.day), index * 7));
    const inside = days.filter(({ day }) => iso(monday(day)) === week);
    const seconds = inside.reduce((sum, { seconds: one }) => sum + one, 0);
    return { week, minutes: Number((seconds / 60).toFixed(1)) };
  });
}

export function describeMinutes(days: LogSummary['days']): string {
  if (days.length === 0) return 'No evening yet.';
  const seconds = days.reduce((sum, day) => sum + day.seconds, 0);
  const weeks = weeksOf(days);
  const most = weeks.reduce((best, week) => (week.minutes > best.minutes ? week : best));
  return `${describeTime(seconds / days.length)} an evening; most in the week of ${date(most.week)}, ${describeTime(most.minutes * 60)}.`;
}

/** Troubles as the player reads them. */
const TROUBLES: Record<SaidTrouble, string> = {
  clean: 'clean',
  landings: 'landings late',
  uneven: 'uneven strumming',
  rushing: 'rushing',
  dragging: 'dragging',
  ups: 'ups weak or missing',
  'after-miss': 'the arm stops after misses',
  'chord-late': 'the chord after its stroke',
  bass: 'wrong bass string',
  direction: 'strokes turned round',
  tempo: 'another tempo than asked',
  waits: 'waits at the changes',
  stops: 'stops',
  'landings-out': 'landings left out',
  slot: 'one place early or late',
  missing: 'strokes left out',
  added: 'strokes added',
  taps: 'taps left out',
  chucks: 'chucks that ring',
  chord: 'another chord held',
  strings: 'other strings picked',
  nearly: 'nearly clean',
  unjudged: 'could not be judged',
  'so-so': 'so-so',
  'not yet': 'not yet',
};
export const troubleWord = (trouble: SaidTrouble): string => TROUBLES[trouble];

export function describeVerdicts(verdicts: LogSummary['verdicts']): string {
  const all = verdicts.reduce((sum, { count }) => sum + count, 0);
  if (all === 0) return 'No take yet.';
  const clean = verdicts.find(({ trouble }) => trouble === 'clean')?.count ?? 0;
  const worst = verdicts.find(({ trouble }) => trouble !== 'clean' && trouble !== 'unjudged');
  const most = worst ? `; the most frequent trouble: ${troubleWord(worst.trouble)}` : '';
  return `${clean} of ${plural(all, 'take')} ${clean === 1 ? 'was' : 'were'} clean${most}.`;
}
