import { type Card, createEmptyCard, fsrs, type Grade, Rating } from 'ts-fsrs';
import type { SaidTrouble } from '../schema';

/** How something went on a day. */
export interface Review {
  at: Date;
  trouble: SaidTrouble;
  /** Share of strokes within the tolerance, where it was heard. */
  within: number | null;
}

/** Songs that are practised come round at the latest after so many days. */
const LONGEST = 60;
/** From this share on a clean take was easy. */
const EASY = 0.97;
// Without the learning steps of minutes that cards have: a song is practised by evenings.
const scheduler = fsrs({
  enable_fuzz: false,
  enable_short_term: false,
  maximum_interval: LONGEST,
});
const DAY = 86_400_000;

function gradeOf({ trouble, within }: Review): Grade | null {
  if (trouble === 'unjudged') return null;
  if (trouble === 'clean') return within !== null && within >= EASY ? Rating.Easy : Rating.Good;
  return trouble === 'so-so' || trouble === 'nearly' ? Rating.Hard : Rating.Again;
}

/**
 * When something is due again, by spaced repetition with what was heard of it as grades. One grade an evening: of one day
 * only the last counts, since to try the same thing ten times is one time of practising it; and what was learnt today is
 * due tomorrow at the earliest.
 * @param reviews in any order
 * @param zone milliseconds that the player's clock is ahead of UTC: days are the player's
 * @returns the start of that day on the player's clock; null where nothing was judged
 * @example dueAgain([], 0) // null
 */
export function dueAgain(reviews: Review[], zone: number): Date | null {
  const dayOf = (at: Date) => Math.floor((at.getTime() + zone) / DAY);
  const days = new Map<number, Review>();
  const sorted = [...reviews].sort((a, b) => a.at.getTime() - b.at.getTime());
  for (const review of sorted) {
    if (gradeOf(review) !== null) days.set(dayOf(review.at), review);
  }
  // Noon of the day, so that an interval is whole days, however late it was.
  const noon = (day: number) => new Date(day * DAY - zone + DAY / 2);
  const [first, ...rest] = [...days];
  if (!first) return null;
  const graded = (card: Card, [day, review]: [number, Review]) =>
    scheduler.next(card, noon(day), gradeOf(review)!).card;
  const { due } = rest.reduce(graded, graded(createEmptyCard(noon(first[0])), first));
  const last = [...days.keys()].at(-1)!;
  // The scheduler keeps its grades a day apart, past the longest interval too.
  const day = Math.min(last + LONGEST, Math.max(last + 1, dayOf(due)));
  return new Date(day * DAY - zone);
}
