import { z } from './zod';

export const directionSchema = z.enum(['down', 'up']);
export type Direction = z.infer<typeof directionSchema>;

/** Four levels of loudness, from barely heard to driven. */
export const accentSchema = z.enum(['ghost', 'normal', 'accent', 'strong']);
export type Accent = z.infer<typeof accentSchema>;

/** Fingers of the striking hand: thumb, index, middle, ring and little finger. */
export const pluckingFingerSchema = z.enum(['p', 'i', 'm', 'a', 'c']);
export type PluckingFinger = z.infer<typeof pluckingFingerSchema>;

/** What a tap falls on: the body of the instrument, or the strings (a slap). */
export const tapPlaceSchema = z.enum(['body', 'strings']);
export type TapPlace = z.infer<typeof tapPlaceSchema>;

/** A string as players number it: 1 is the one farthest from the thumb. */
export const stringNumberSchema = z.int().min(1).max(8);

/**
 * Which strings of the shape a strum reaches: all where it is left out, those on the bass or the
 * treble side, or the numbered ones.
 */
export const strumReachSchema = z.union([
  z.enum(['bass', 'treble']),
  z.array(stringNumberSchema).min(1).max(8),
]);
export type StrumReach = z.infer<typeof strumReachSchema>;

/**
 * One string of a pick: relative to the root (`R`, and `1`, `2`, ... towards the far side over the
 * strings that the shape sounds), or absolute (`s3` is the third string).
 */
export const pickedStringSchema = z.strictObject({
  string: z.string().regex(/^(R|[1-7]|s[1-8])$/, 'a picked string is R, 1 to 7, or s1 to s8'),
  finger: pluckingFingerSchema.optional(),
});
export type PickedString = z.infer<typeof pickedStringSchema>;

/** The note of a bass strike: the root where it is left out. */
export const bassTargetSchema = z.union([
  z.enum(['fifth', 'alternate']),
  z.strictObject({ string: stringNumberSchema, fret: z.int().min(0).max(24) }),
]);
export type BassTarget = z.infer<typeof bassTargetSchema>;

const yes = z.literal(true).optional();
/** How a pitched stroke may be played. */
const touch = {
  /** The heel of the hand lies on the strings: short and dark. */
  palm: yes,
  /** On open strings, while the other hand travels. */
  open: yes,
  /** A tap at the same moment. */
  tap: tapPlaceSchema.optional(),
};
const finger = pluckingFingerSchema.optional();

/**
 * What the hand does in one slot. A stroke knows nothing of chords.
 *
 * - `strum`: the strings of the shape, or some of them, down or up;
 * - `chuck`: damped strings, percussive, no pitch; its accent is how loud;
 * - `bass`: one bass note, always struck downwards;
 * - `pick`: one or more strings at once;
 * - `roll`: two to five fingers fanned quickly inside the slot;
 * - `tap`: on the body or the strings;
 * - `miss`: the arm passes and nothing sounds;
 * - `hold`: the arm rests and the strings ring on.
 */
export const strokeSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('strum'),
    dir: directionSchema,
    accent: accentSchema,
    reach: strumReachSchema.optional(),
    ...touch,
    finger,
  }),
  z.strictObject({
    kind: z.literal('chuck'),
    dir: directionSchema,
    accent: accentSchema,
    tap: tapPlaceSchema.optional(),
    finger,
  }),
  z.strictObject({
    kind: z.literal('bass'),
    accent: accentSchema,
    note: bassTargetSchema.optional(),
    ...touch,
    finger,
  }),
  z.strictObject({
    kind: z.literal('pick'),
    dir: directionSchema,
    accent: accentSchema,
    strings: z.array(pickedStringSchema).min(1).max(8),
    ...touch,
  }),
  z.strictObject({
    kind: z.literal('roll'),
    dir: directionSchema,
    accent: accentSchema,
    hits: z.int().min(2).max(5),
    ...touch,
  }),
  z.strictObject({ kind: z.literal('tap'), accent: accentSchema, on: tapPlaceSchema }),
  z.strictObject({ kind: z.literal('miss') }),
  z.strictObject({ kind: z.literal('hold') }),
]);
export type Stroke = z.infer<typeof strokeSchema>;
