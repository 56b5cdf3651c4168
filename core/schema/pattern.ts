import { MAX_BEATS, MAX_BUILDS, MAX_TAGS, MAX_PATTERN_LETTERS, MAX_TAG_LETTERS } from './limits';
import { meterSchema } from './meter';
import { accentSchema, strokeSchema } from './stroke';
import { textSchema } from './text';
import { z } from './zod';

export const DIVISIONS = [1, 2, 3, 4, 6, 8] as const;
export const divisionSchema = z.literal(DIVISIONS);
/** Into how many equal slots a beat is divided. */
export type Division = z.infer<typeof divisionSchema>;

export const patternBeatSchema = z
  .strictObject({
    division: divisionSchema,
    slots: z.array(strokeSchema).max(Math.max(...DIVISIONS)),
  })
  .refine((beat) => beat.slots.length === beat.division, {
    message: 'a beat must have as many places as its division says',
    path: ['slots'],
  });
export type PatternBeat = z.infer<typeof patternBeatSchema>;

/** How the strumming arm turns at each slot: see `core/stroke/arm.ts`. */
export const armStyleSchema = z.enum(['alternate', 'restart', 'shuffle', 'all-downs', 'free']);
export type ArmStyle = z.infer<typeof armStyleSchema>;

export const armSchema = z.strictObject({
  school: armStyleSchema,
  /** Half-swings (one down or one up) per counted beat. */
  halfSwings: divisionSchema,
});
export type Arm = z.infer<typeof armSchema>;

/**
 * Swing: the second of each pair comes later. `percent` is the share of the pair that the first one
 * takes: 50 is straight, 67 a shuffle, 75 dotted. Straight where a pattern has no feel.
 */
export const feelSchema = z.strictObject({
  on: z.enum(['eighths', 'sixteenths']),
  percent: z.int().min(50).max(75),
});
export type Feel = z.infer<typeof feelSchema>;

/** A build: over a span of beats the strokes go from one loudness to another. */
export const buildSchema = z.strictObject({
  beat: z.int().min(0).max(127),
  beats: z.int().min(1).max(128),
  from: accentSchema,
  to: accentSchema,
});
export type Build = z.infer<typeof buildSchema>;

/** What the arm report may find; a pattern can say that it is meant that way. */
export const findingKindSchema = z.enum(['against', 'stopped', 'jump', 'fast']);
export type FindingKind = z.infer<typeof findingKindSchema>;

/** Hits that vary from turn to turn: how many of the weaker strokes sound, 0 to 1, and the seed. */
export const looseSchema = z.strictObject({
  density: z.number().min(0).max(1),
  seed: z.int().min(0).max(9999),
});
export type Loose = z.infer<typeof looseSchema>;

export const tagSchema = textSchema(MAX_TAG_LETTERS);

/** The version of documents that this app writes; it reads this one and those before it. */
export const DOCUMENT_VERSION = 9;

const patternObject = z.strictObject({
  schema: z.literal(DOCUMENT_VERSION),
  name: textSchema(MAX_PATTERN_LETTERS),
  meter: meterSchema,
  beats: z.array(patternBeatSchema).min(1).max(MAX_BEATS),
  arm: armSchema,
  feel: feelSchema.optional(),
  builds: z.array(buildSchema).max(MAX_BUILDS).optional(),
  meant: z.array(findingKindSchema).max(4).optional(),
  loose: looseSchema.optional(),
  tags: z.array(tagSchema).max(MAX_TAGS).optional(),
});

/** Versions 2 to 9 only added parts that may be left out; how times round were counted, a song says (`fromEarlierSong`). */
const EARLIER: unknown[] = [1, 2, 3, 4, 5, 6, 7, 8];

/**
 * Reads a document of an earlier version as one of this. Anything else is handed on as it is, for the
 * schema to judge.
 */
export function fromEarlierVersion(raw: unknown): unknown {
  const earlier =
    typeof raw === 'object' && raw !== null && 'schema' in raw && EARLIER.includes(raw.schema);
  return earlier ? { ...raw, schema: DOCUMENT_VERSION } : raw;
}

export const patternSchema = z.preprocess(fromEarlierVersion, patternObject);
export type Pattern = z.infer<typeof patternObject>;
