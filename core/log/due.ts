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
const scheduler = fsrs({ enable_fuzz: false, maximum_interval: LONGEST });

function gradeOf({ trouble, within }: Review): Grade | null {
  if (trouble === 'unjudged') return null;
  if (trouble === 'clean') return within !== null && within >= EASY ? Rating.Easy : Rating.Good;
  return trouble === 'so-so' ? Rating.Hard : Rating.Again;
}

/**
 * When something is due again, by spaced repetition with what was heard of it as grades. Of one day only the last
 * counts: to try the same thing ten times in an evening is one time of practising it.
 * @param reviews in any order
 * @returns null where nothing was judged
 * @example dueAgain([]) // null
 */
export function dueAgain(reviews: Review[]): Date | null {
  const days = new Map<string, Review>();
  const sorted = [...reviews].sort((a, b) => a.at.getTime() - b.at.getTime());
  for (const review of sorted) {
    if (gradeOf(review) !== null) days.set(review.at.toISOString().slice(0, 10), review);
  }
  const [first, ...rest] = [...days.values()];
  if (!first) return null;
  const graded = (card: Card, review: Review) =>
    scheduler.next(card, review.at, gradeOf(review)!).card;
  return rest.reduce(graded, graded(createEmptyCard(first.at), first)).due;
}
