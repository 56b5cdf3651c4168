import { z } from './zod';
import { instrumentSchema, shapeSchema } from './instrument';
import { meterSchema } from './meter';
import { patternSchema } from './pattern';

/**
 * Which string a bass strike takes: the lowest that sounds the root, the lowest of the shape, or,
 * on a re-entrant instrument, the one nearest the thumb that sounds the root.
 */
export const bassSchoolSchema = z.enum(['root', 'lowest', 'thumb']);
export type BassSchool = z.infer<typeof bassSchoolSchema>;

/** The fret a capo lies on, 0 for none. */
export const capoSchema = z.int().min(0).max(20);

/**
 * A chord as the player wrote it. Any short word is kept, so that a slip of the finger is shown
 * and not lost; whether it names a chord is for `parseChord` to say.
 */
export const chordTextSchema = z
  .string()
  .min(1)
  .max(24)
  .regex(
    /^(?!x\d+$)[^\s|<.%:][^\s|<:]*$/,
    'a chord is one word without bar lines, colons or spaces',
  );

export const placementSchema = z.strictObject({
  /** The place in the bar that the chord belongs to, in ticks from the bar line. */
  at: z.int().min(0).max(61440),
  /** How much earlier than `at` it lands, in ticks: 0, an eighth (480) or a sixteenth (240). */
  push: z.union([z.literal(0), z.literal(240), z.literal(480)]),
  symbol: chordTextSchema,
});
export type Placement = z.infer<typeof placementSchema>;

export const barSchema = z.strictObject({
  /** Chords that land in or for this bar, in order. None: the chord before is held. */
  chords: z.array(placementSchema).max(32),
  /** What was typed for this bar when it could not be read; kept so that nothing is lost. */
  unread: z.string().max(4000).optional(),
});
export type Bar = z.infer<typeof barSchema>;

export const lineSchema = z.strictObject({
  bars: z.array(barSchema).min(1).max(500),
  /** How often the line is played. */
  times: z.int().min(1).max(32),
});
export type Line = z.infer<typeof lineSchema>;

export const sectionSchema = z.strictObject({
  name: z.string().trim().max(40),
  lines: z.array(lineSchema).max(200),
});
export type Section = z.infer<typeof sectionSchema>;

/** Tempo in pulses a minute: a quarter note, or a dotted quarter in 6/8 (see `pulseTicks`). */
export const tempoSchema = z.number().min(20).max(300);

/** The shape that the player has chosen for a chord. */
export const chosenShapeSchema = z.strictObject({
  symbol: chordTextSchema,
  shape: shapeSchema,
  /** A locked shape is left as it is when the whole song is given smoother ones. */
  locked: z.boolean(),
});
export type ChosenShape = z.infer<typeof chosenShapeSchema>;

/** A shape that the player has made. */
export const ownShapeSchema = z.strictObject({ symbol: chordTextSchema, shape: shapeSchema });
export type OwnShape = z.infer<typeof ownShapeSchema>;

export const songSchema = z.strictObject({
  schema: z.literal(1),
  title: z.string().trim().min(1).max(120),
  instrument: instrumentSchema,
  capo: capoSchema,
  bassSchool: bassSchoolSchema,
  tempo: tempoSchema,
  meter: meterSchema,
  countIn: z.int().min(0).max(2),
  sections: z.array(sectionSchema).max(100),
  pattern: patternSchema,
  chosenShapes: z.array(chosenShapeSchema).max(200),
  ownShapes: z.array(ownShapeSchema).max(200),
});
export type Song = z.infer<typeof songSchema>;
