import { tempoSchema } from './tempo';
import { z } from './zod';

/** The rungs of the ladder, from the arm alone to the song with all that it has: see `core/practice`. */
export const RUNG_IDS = [
  'arm',
  'chords',
  'landings',
  'one before',
  'two before',
  'strong beats',
  'beats',
  'damped',
  'one chord',
  'thumb',
  'fingers',
  'open strokes',
  'plain',
  'song',
] as const;
export const rungIdSchema = z.enum(RUNG_IDS);
export type RungId = z.infer<typeof rungIdSchema>;

/** Which hand practises: both, or one alone while the other rests. */
export const handsSchema = z.enum(['both', 'strumming', 'fretting']);
export type Hands = z.infer<typeof handsSchema>;

/** How a song is practised, where the player wants it otherwise than usual. */
export const practiceSchema = z.strictObject({
  /** The tempo that it is practised for, and the day by which. */
  goal: tempoSchema.optional(),
  by: z.iso.date().optional(),
  /** The rungs that are climbed, in this order. */
  rungs: z.array(rungIdSchema).min(1).max(RUNG_IDS.length).optional(),
  /** Pulses a minute by which the tempo goes up, and how often clean before it does. */
  step: z.int().min(1).max(20).optional(),
  clean: z.int().min(1).max(5).optional(),
});
export type PracticeWishes = z.infer<typeof practiceSchema>;
