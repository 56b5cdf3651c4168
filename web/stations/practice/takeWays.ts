import type { Strike } from '#core/arrange';
import { type Habits, isAfterMiss, isLanding, kindOfStroke } from '#core/take';
import type { Backing } from '#core/practice';

/** How a take comes in: heard, from a file, tapped, made up, or by the player's own word. */
export type Way = 'microphone' | 'file' | 'taps' | 'midi' | 'example' | 'word';
/** Those that come in while the bars are played. */
export type Running = Exclude<Way, 'file' | 'example'>;

/** What sounds behind a take: the song, part of it, or the recording beside it. */
export type Behind = Backing | 'recording';

/** A way of playing, and whether some strokes have room for it. */
export interface Habit {
  label: string;
  value: string;
  habits: Omit<Habits, 'seed'>;
  fits?: (strikes: readonly Strike[]) => boolean;
}

/** So many strokes of a kind there have to be for a habit to be heard. */
const ENOUGH = 4;
const among =
  (is: (strike: Strike, before: Strike | undefined) => boolean) => (strikes: readonly Strike[]) =>
    strikes.filter((strike, at) => is(strike, strikes[at - 1])).length >= ENOUGH;
const landings = among((strike, before) => isLanding(strike, before));

/** What the example player does. */
export const HABITS: Habit[] = [
  { label: 'plays cleanly', value: 'clean', habits: { jitter: 9 } },
  {
    label: 'comes late to the hardest change',
    value: 'change',
    habits: { jitter: 8, landingsLate: 120 },
    fits: among((strike, before) => isLanding(strike, before)),
  },
  {
    label: 'comes late to every change',
    value: 'landings',
    habits: { jitter: 8, landingsLate: 90 },
    fits: landings,
  },
  {
    label: 'waits at every change, and goes on',
    value: 'waits',
    habits: { jitter: 8, landingsLate: 400, afterLate: 'goes on' },
    fits: landings,
  },
  {
    label: 'leaves out the landings',
    value: 'landings-out',
    habits: { jitter: 8, leavesOut: { what: 'landings', share: 1 } },
    fits: landings,
  },
  { label: 'strums unevenly', value: 'uneven', habits: { jitter: 38 } },
  { label: 'rushes', value: 'rushing', habits: { jitter: 8, drift: 4 } },
  { label: 'plays a fifth quicker', value: 'tempo', habits: { jitter: 8, pace: 1.2 } },
  {
    label: 'leaves out ups',
    value: 'ups',
    habits: { jitter: 8, leavesOut: { what: 'ups', share: 0.7 } },
    fits: among((strike) => kindOfStroke(strike) === 'ups'),
  },
  {
    label: 'stops the arm after a miss',
    value: 'miss',
    habits: { jitter: 8, stopsAfterMiss: 90 },
    fits: among((strike, before) => isAfterMiss(strike, before) && !isLanding(strike, before)),
  },
  {
    label: 'still holds the old chord',
    value: 'chord',
    habits: { jitter: 8, chordLate: true },
    fits: among((strike, before) => isLanding(strike, before) && strike.notes.length > 2),
  },
];
