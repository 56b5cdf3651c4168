import { MAX_BAR_TICKS, MAX_TUNE_NOTES } from './limits';
import { accentSchema, graceSchema, legatoHowSchema, stringNumberSchema } from './stroke';
import { z } from './zod';

/** One note of a line of single notes, as it lies on the neck. */
export const tuneNoteSchema = z.strictObject({
  /** In ticks from the bar line. */
  at: z.int().min(0).max(MAX_BAR_TICKS),
  string: stringNumberSchema,
  /** Counted from the nut or the capo. */
  fret: z.int().min(0).max(24),
  /** Sounded by the fretting hand, from what rings on its string. */
  how: legatoHowSchema.optional(),
  grace: graceSchema.optional(),
  accent: accentSchema.optional(),
  /** The finger of the fretting hand, where the player says which. */
  held: z.int().min(1).max(4).optional(),
});
export type TuneNote = z.infer<typeof tuneNoteSchema>;

/**
 * How a line of notes and the pattern meet: a note takes the place of the stroke at its time; only of a bass
 * strike; of all strokes from the first note to the last; the stroke becomes a rake that ends on the note, where the
 * chord holds it; or the line alone.
 */
export const tuneMeetsSchema = z.enum([
  'in place',
  'without the bass',
  'from first to last',
  'rake',
  'alone',
]);
export type TuneMeets = z.infer<typeof tuneMeetsSchema>;

/** The notes of a bar: a tune between the strums, a fill, a tag, a riff. */
export const tuneSchema = z
  .strictObject({
    notes: z.array(tuneNoteSchema).min(1).max(MAX_TUNE_NOTES),
    meets: tuneMeetsSchema.optional(),
  })
  .refine(
    ({ notes }) => notes.every(({ at }, index) => index === 0 || at >= notes[index - 1]!.at),
    {
      message: 'the notes of a line come one after another',
      path: ['notes'],
    },
  )
  .refine(({ notes }) => notes.every(fitsAtOnce), {
    message: 'notes at once are struck, each on a string of its own',
    path: ['notes'],
  });

/** Notes at once are struck together: none of them is sounded by the fretting hand, and each has its string. */
function fitsAtOnce(note: TuneNote, index: number, notes: TuneNote[]): boolean {
  for (let other = index - 1; other >= 0 && notes[other]!.at === note.at; other -= 1) {
    const before = notes[other]!;
    if (before.string === note.string || before.how || note.how) return false;
  }
  return true;
}
export type Tune = z.infer<typeof tuneSchema>;
