import { createEvents } from 'ics';
import { addDays, getISODay, parseISO } from 'date-fns';
import type { Plan } from '../schema';

/** Evenings that are put into a calendar at most. */
const MAX_EVENINGS = 60;

/**
 * The evenings of a plan as an iCalendar file (RFC 5545): the days of the week that are chosen, up to a day.
 * @param from the first day, and `to` the last, as ISO dates
 * @param weekdays 1 Monday to 7 Sunday
 * @param hour at which they begin, by the clock of where the player is
 * @throws RangeError where no such evening lies between the days
 * @example planCalendar({ minutes: 20, items: [], goals: [] }, '2031-05-05', '2031-05-12', [4], 19).includes('BEGIN:VEVENT') // true
 */
export function planCalendar(
  { minutes, items }: Plan,
  from: string,
  to: string,
  weekdays: number[],
  hour: number,
): string {
  const days: Date[] = [];
  for (
    let day = parseISO(from);
    day <= parseISO(to) && days.length < MAX_EVENINGS;
    day = addDays(day, 1)
  ) {
    if (weekdays.includes(getISODay(day))) days.push(day);
  }
  if (days.length === 0)
    throw new RangeError('No evening of those days lies between the two dates.');
  const description = items.map(({ minutes: long, what }) => `${long} min: ${what}`).join('\n');
  const { value, error } = createEvents(
    days.map((day) => ({
      productId: 'plucky-wrist',
      uid: `${day.getFullYear()}-${day.getMonth() + 1}-${day.getDate()}@plucky-wrist`,
      title: `Practice, ${minutes} minutes`,
      start: [day.getFullYear(), day.getMonth() + 1, day.getDate(), hour, 0],
      startOutputType: 'local' as const,
      duration: { minutes },
      ...(description && { description }),
    })),
  );
  if (error || value === undefined || value === null)
    throw error ?? new RangeError('The calendar could not be written.');
  return value;
}
