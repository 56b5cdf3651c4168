import type { Backing, Habits } from '#core';

/** How a take comes in: heard, from a file, tapped, made up, or by the player's own word. */
export type Way = 'microphone' | 'file' | 'taps' | 'midi' | 'example' | 'word';
/** Those that come in while the bars are played. */
export type Running = Exclude<Way, 'file' | 'example'>;

/** What sounds behind a take: the song, part of it, or the recording beside it. */
export type Behind = Backing | 'recording';

/** What the example player does. */
export const HABITS: { label: string; value: string; habits: Omit<Habits, 'seed'> }[] = [
  { label: 'plays cleanly', value: 'clean', habits: { jitter: 9 } },
  {
    label: 'comes late to the hardest change',
    value: 'change',
    habits: { jitter: 8, landingsLate: 85 },
  },
  {
    label: 'comes late to every change',
    value: 'landings',
    habits: { jitter: 8, landingsLate: 65 },
  },
  { label: 'strums unevenly', value: 'uneven', habits: { jitter: 38 } },
  { label: 'rushes', value: 'rushing', habits: { jitter: 8, drift: 4 } },
  { label: 'leaves out ups', value: 'ups', habits: { jitter: 8, upsMissed: 0.5 } },
  { label: 'stops the arm after a miss', value: 'miss', habits: { jitter: 8, stopsAfterMiss: 60 } },
  { label: 'still holds the old chord', value: 'chord', habits: { jitter: 8, chordLate: true } },
];
