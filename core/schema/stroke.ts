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
export const pickedStringSchema = z
  .strictObject({
    string: z.string().regex(/^(R|[1-7]|s[1-8])$/, 'a picked string is R, 1 to 7, or s1 to s8'),
    /** A fret of its own, counted from the nut or the capo; the shape's where both are left out. */
    fret: z.int().min(0).max(24).optional(),
    /** Frets above what the shape has there, or below it: a finger added, or lifted. */
    above: z.int().min(-12).max(12).optional(),
    finger: pluckingFingerSchema.optional(),
    /** The finger of the fretting hand that holds it, 1 index to 4 little finger. */
    held: z.int().min(1).max(4).optional(),
  })
  .refine(({ fret, above }) => fret === undefined || above === undefined, {
    message: 'a string has a fret, or one counted from the shape, not both',
    path: ['above'],
  });
export type PickedString = z.infer<typeof pickedStringSchema>;

/** The note of a bass strike: the root where it is left out. */
export const bassTargetSchema = z.union([
  z.enum(['fifth', 'alternate']),
  z.strictObject({ string: stringNumberSchema, fret: z.int().min(0).max(24) }),
]);
export type BassTarget = z.infer<typeof bassTargetSchema>;

/** How the fretting hand sounds a string that rings. */
export const legatoHowSchema = z.enum(['hammer', 'pull', 'slide']);
export type LegatoHow = z.infer<typeof legatoHowSchema>;

/**
 * One movement of the fretting hand on strings that ring: to the frets that are said, or to those of the
 * shape where none are; with `to`, the whole hand slides into the next chord's shape, or off the strings.
 */
export const legatoStepSchema = z
  .strictObject({
    how: legatoHowSchema,
    strings: z.array(pickedStringSchema).min(1).max(8).optional(),
    to: z.enum(['next', 'away']).optional(),
  })
  .refine(({ how, strings, to }) => to === undefined || (how === 'slide' && !strings), {
    message: 'only a slide of the whole shape goes to the next chord, or away',
    path: ['to'],
  });
export type LegatoStep = z.infer<typeof legatoStepSchema>;

/** The most movements of the fretting hand in one slot. */
export const MAX_LEGATO = 4;

/**
 * A quick ornament of a stroke: it is struck so many frets away, and at once hammered on, pulled off or slid
 * to the fret that it has. A hammer comes from below and a pull from above.
 */
export const graceSchema = z
  .strictObject({
    how: legatoHowSchema,
    frets: z.int().min(1).max(12),
    /** A slide that comes down from above. */
    above: z.literal(true).optional(),
    /** Struck before its time, so that it arrives on it; where left out it is struck on time. */
    before: z.literal(true).optional(),
    /** The string that has it, as a picked one is named; every fretted string where it is left out. */
    string: z
      .string()
      .regex(/^(R|[1-7]|s[1-8])$/)
      .optional(),
  })
  .refine(({ how, above }) => !above || how === 'slide', {
    message: 'only a slide can be said to come from above',
    path: ['above'],
  });
export type Grace = z.infer<typeof graceSchema>;

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
const grace = graceSchema.optional();
/** The pick, or the finger, comes to rest on the next string: a rounder tone. */
const rest = yes;
/** It goes on from the stroke before it in one movement of the hand: a triplet of fingers, a strum split in two. */
const sweep = yes;

/**
 * What the hand does in one slot. A stroke knows nothing of chords.
 *
 * - `strum`: the strings of the shape, or some of them, down or up;
 * - `chuck`: damped strings, percussive, no pitch; its accent is how loud;
 * - `bass`: one bass note, always struck downwards;
 * - `pick`: one or more strings at once;
 * - `roll`: two to five fingers fanned quickly inside the slot;
 * - `tap`: on the body or the strings;
 * - `legato`: the arm passes, and the fretting hand sounds strings that ring;
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
    grace,
    sweep,
  }),
  z.strictObject({
    kind: z.literal('chuck'),
    dir: directionSchema,
    accent: accentSchema,
    tap: tapPlaceSchema.optional(),
    finger,
    sweep,
  }),
  z.strictObject({
    kind: z.literal('bass'),
    accent: accentSchema,
    note: bassTargetSchema.optional(),
    ...touch,
    finger,
    grace,
    rest,
  }),
  z.strictObject({
    kind: z.literal('pick'),
    dir: directionSchema,
    accent: accentSchema,
    strings: z.array(pickedStringSchema).min(1).max(8),
    ...touch,
    grace,
    /** Ornaments of its other strings: each names its own, and so does the first. */
    moreGraces: z.array(graceSchema).min(1).max(7).optional(),
    rest,
    sweep,
  }),
  z
    .strictObject({
      kind: z.literal('roll'),
      dir: directionSchema,
      accent: accentSchema,
      hits: z.int().min(2).max(5),
      /** One after the other; whichever the player likes where they are left out. */
      fingers: z.array(pluckingFingerSchema).min(2).max(5).optional(),
      ...touch,
    })
    .refine(({ hits, fingers }) => fingers === undefined || fingers.length === hits, {
      message: 'a roll has as many fingers as it says',
      path: ['fingers'],
    }),
  z.strictObject({
    kind: z.literal('legato'),
    accent: accentSchema,
    steps: z.array(legatoStepSchema).min(1).max(MAX_LEGATO),
  }),
  z.strictObject({ kind: z.literal('tap'), accent: accentSchema, on: tapPlaceSchema }),
  z.strictObject({ kind: z.literal('miss') }),
  z.strictObject({ kind: z.literal('hold') }),
]);
export type Stroke = z.infer<typeof strokeSchema>;
