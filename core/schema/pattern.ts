import { z } from './zod';
import { meterSchema } from './meter';

export const directionSchema = z.enum(['down', 'up']);
export type Direction = z.infer<typeof directionSchema>;

/** Four levels of loudness, from barely heard to driven. */
export const accentSchema = z.enum(['ghost', 'normal', 'accent', 'strong']);
export type Accent = z.infer<typeof accentSchema>;

/**
 * What the hand does in one slot. A stroke knows nothing of chords.
 *
 * - `strum`: all the strings of the shape, down or up;
 * - `chuck`: damped strings, percussive, no pitch;
 * - `bass`: the root of the chord on its bass string, always struck downwards;
 * - `miss`: the arm passes and nothing sounds;
 * - `hold`: the arm rests and the strings ring on.
 */
export const strokeSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('strum'), dir: directionSchema, accent: accentSchema }),
  z.strictObject({ kind: z.literal('chuck'), dir: directionSchema, accent: accentSchema }),
  z.strictObject({ kind: z.literal('bass'), accent: accentSchema }),
  z.strictObject({ kind: z.literal('miss') }),
  z.strictObject({ kind: z.literal('hold') }),
]);
export type Stroke = z.infer<typeof strokeSchema>;

export const divisionSchema = z.union([z.literal(1), z.literal(2), z.literal(3), z.literal(4)]);
/** Into how many equal slots a beat is divided. */
export type Division = z.infer<typeof divisionSchema>;

export const patternBeatSchema = z
  .strictObject({ division: divisionSchema, slots: z.array(strokeSchema) })
  .refine((beat) => beat.slots.length === beat.division, {
    message: 'a beat must have as many slots as its division says',
    path: ['slots'],
  });
export type PatternBeat = z.infer<typeof patternBeatSchema>;

/** How the strumming arm turns at each slot: see `core/stroke/arm.ts`. */
export const armSchoolSchema = z.enum(['alternate', 'restart', 'all-downs', 'free']);
export type ArmSchool = z.infer<typeof armSchoolSchema>;

export const armSchema = z.strictObject({
  school: armSchoolSchema,
  /** Half-swings (one down or one up) per counted beat. */
  halfSwings: divisionSchema,
});
export type Arm = z.infer<typeof armSchema>;

export const patternSchema = z.strictObject({
  schema: z.literal(1),
  name: z.string().trim().min(1).max(80),
  meter: meterSchema,
  beats: z.array(patternBeatSchema).min(1).max(128),
  arm: armSchema,
});
export type Pattern = z.infer<typeof patternSchema>;
