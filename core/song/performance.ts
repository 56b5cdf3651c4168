import { z } from '../schema/zod';
import { accentSchema, directionSchema } from '../schema';

/** One string of a strike. */
export const strikeNoteSchema = z.object({
  string: z.int(),
  fret: z.int(),
  /** MIDI pitch as it sounds. */
  midi: z.int(),
  /** Seconds after the strike's start at which the pick reaches this string. */
  delay: z.number(),
  /** 0 to 1. */
  velocity: z.number(),
});
export type StrikeNote = z.infer<typeof strikeNoteSchema>;

/** One movement of the hand that sounds. */
export const strikeSchema = z.object({
  kind: z.enum(['strum', 'chuck', 'bass']),
  dir: directionSchema,
  accent: accentSchema,
  /** Ticks from the start of the song. */
  tick: z.int(),
  /** Length of its slot in ticks. */
  ticks: z.int(),
  /** Seconds from the start of the song, at its tempo. */
  seconds: z.number(),
  /** The bar in the order of playing, from 0, and the slot of the pattern. */
  bar: z.int(),
  slot: z.int(),
  /** The chord under the hand; null before the first, or where its symbol cannot be read. */
  chord: z.string().nullable(),
  /** True for the stroke with which a chord arrives. */
  landing: z.boolean(),
  /** 0 to 1. */
  velocity: z.number(),
  /** The strings in the order in which they are reached; empty for a chuck, which has no pitch. */
  notes: z.array(strikeNoteSchema),
  /** Strings that the hand damps. */
  damps: z.array(z.int()),
});
export type Strike = z.infer<typeof strikeSchema>;

export const performanceSchema = z.object({
  /** Pulses a minute. */
  tempo: z.number(),
  /** Length in ticks and in seconds. */
  ticks: z.int(),
  seconds: z.number(),
  landings: z.array(z.object({ tick: z.int(), symbol: z.string(), push: z.int() })),
  strikes: z.array(strikeSchema),
});
export type Performance = z.infer<typeof performanceSchema>;
