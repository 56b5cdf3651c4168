import { MAX_INSTRUMENT_LETTERS } from './limits';
import { textSchema } from './text';
import { z } from './zod';

/** What an instrument is built like: decides its sound and how far a hand can stretch on it. */
export const familySchema = z.enum(['guitar', 'nylon', 'ukulele', 'baritone', 'mandolin', 'banjo']);
export type Family = z.infer<typeof familySchema>;

/** The instruments and tunings that are built in. */
export const instrumentIdSchema = z.enum([
  'guitar',
  'guitar-drop-d',
  'guitar-half-down',
  'guitar-open-g',
  'guitar-open-d',
  'guitar-nylon',
  'ukulele',
  'ukulele-low',
  'baritone',
  'mandolin',
  'banjo',
  'banjo-five',
]);
export type InstrumentId = z.infer<typeof instrumentIdSchema>;

/** A fretted instrument as it is tuned: a built-in one, or the player's own. */
export const instrumentSchema = z.strictObject({
  name: textSchema(MAX_INSTRUMENT_LETTERS),
  family: familySchema,
  /**
   * MIDI pitch of every open string, from the string nearest the player's thumb to the farthest.
   * On a re-entrant ukulele the first is not the lowest.
   */
  strings: z.array(z.int().min(20).max(100)).min(3).max(8),
  frets: z.int().min(5).max(36),
  /**
   * Semitones by which everything sounds higher than the chords are named: -1 where all strings are
   * tuned down a half step and the player goes on calling the shapes by their usual names.
   */
  offset: z.int().min(-12).max(12),
  /** Centimetres from nut to bridge; as its kind is commonly built where it is left out. */
  scaleLength: z.number().min(20).max(110).optional(),
});
export type Instrument = z.infer<typeof instrumentSchema>;

/** A way to hold a chord, string by string in the order of `Instrument.strings`. */
export const shapeSchema = z.strictObject({
  /** Fret counted from the nut or the capo, 0 for open; null where the string is not sounded. */
  frets: z.array(z.int().min(0).max(36).nullable()).min(3).max(8),
  /** 1 index to 4 little finger, 0 for none; on a string that is not sounded it touches it and does not press. */
  fingers: z.array(z.int().min(0).max(4)).min(3).max(8),
});
export type Shape = z.infer<typeof shapeSchema>;
