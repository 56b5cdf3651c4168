import type { TuneMeets } from '#core/schema';

/** How a line of notes and the pattern meet, in the words that the player reads. */
export const TUNE_MEETS: { label: string; value: TuneMeets }[] = [
  { label: 'notes take the place of strokes', value: 'in place' },
  { label: 'only the bass makes way', value: 'without the bass' },
  { label: 'strokes rest from the first note to the last', value: 'from first to last' },
  { label: 'rakes that end on the note', value: 'rake' },
  { label: 'the notes alone', value: 'alone' },
];
