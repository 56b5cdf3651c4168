import { shapeSchema } from './instrument';
import { MAX_CHORD_LETTERS, MAX_INSTRUMENT_LETTERS, MAX_GAPS, MAX_SECTION_LETTERS } from './limits';
import { textSchema } from './text';
import { offlineStamp } from './offlineStamp';
import { z } from './zod';

/** How the player said that a chord was ready: with keys, by being heard, or it was made up as an example. */
export const timingSourceSchema = z.enum(['taps', 'heard', 'example']);

const parts = {
  from: textSchema(MAX_CHORD_LETTERS),
  to: textSchema(MAX_CHORD_LETTERS),
  fromShape: shapeSchema,
  toShape: shapeSchema,
  /** The instrument by its name, and the pitches of its open strings from the thumb on. */
  instrument: textSchema(MAX_INSTRUMENT_LETTERS),
  strings: z.array(z.int().min(20).max(100)).min(3).max(8),
  /** Milliseconds from each chord to the next, there and back in turn, as they were counted. */
  gaps: z.array(z.int().min(1).max(60_000)).min(1).max(MAX_GAPS),
  source: timingSourceSchema,
  /** Who played, where several share an instrument. */
  player: textSchema(MAX_SECTION_LETTERS).optional(),
};

/** One timing of a change: to and fro between two chords, as quickly as they come clean. */
export const createChangeTimeSchema = z
  .strictObject({ ...offlineStamp, ...parts })
  .refine(
    ({ fromShape, toShape, strings }) =>
      [fromShape.frets, fromShape.fingers, toShape.frets, toShape.fingers].every(
        ({ length }) => length === strings.length,
      ),
    { message: 'both shapes have as many strings as the instrument', path: ['fromShape'] },
  );
export type NewChangeTime = z.infer<typeof createChangeTimeSchema>;
/** A timing by itself, whenever it was made. */
export type TimedPair = Omit<NewChangeTime, keyof typeof offlineStamp>;

export const changeTimeSchema = z.strictObject({
  id: z.string().max(80),
  madeAt: z.iso.datetime(),
  ...parts,
});
export type ChangeTime = z.infer<typeof changeTimeSchema>;
export const changeTimeListSchema = z.array(changeTimeSchema);
