import { z } from '../schema/zod';
import {
  accentSchema,
  directionSchema,
  feelSchema,
  legatoHowSchema,
  meterSchema,
  secondsSchema,
  tapPlaceSchema,
  ticksSchema,
  wholeTicksSchema,
} from '../schema';

/** One string of a strike. */
export const strikeNoteSchema = z.object({
  string: z.int(),
  fret: z.int(),
  /** MIDI pitch as it sounds. */
  midi: z.int(),
  /** Seconds after the strike's start at which the pick reaches this string. */
  delay: secondsSchema,
  /** 0 to 1. */
  velocity: z.number(),
  /** Sounded by the fretting hand: how, and the fret at which the string rang before. */
  legato: z.object({ how: legatoHowSchema, from: z.int() }).optional(),
  /** A fret that a slide only passes. */
  passing: z.literal(true).optional(),
});
export type StrikeNote = z.infer<typeof strikeNoteSchema>;

/** One movement of the hand that sounds. */
export const strikeSchema = z.object({
  kind: z.enum(['strum', 'chuck', 'bass', 'pick', 'roll', 'legato', 'tap']),
  dir: directionSchema,
  accent: accentSchema,
  /** Ticks from the start of the song. */
  tick: wholeTicksSchema,
  /** Length of its slot in ticks. */
  ticks: wholeTicksSchema,
  /** Ticks by which swing delays it; a fraction where it falls so. */
  late: ticksSchema,
  /** Seconds from the start of the song, at its tempo and with its swing. */
  seconds: secondsSchema,
  /** The bar in the order of playing, from 0, and the slot of the pattern. */
  bar: z.int(),
  slot: z.int(),
  /** The chord under the hand; null before the first, or where its symbol cannot be read. */
  chord: z.string().nullable(),
  /** True for the stroke with which a chord arrives. */
  landing: z.boolean(),
  /** Played on open strings, or damped ones, while the hand travels. */
  transition: z.boolean(),
  /** Part of a bass run. */
  run: z.boolean(),
  /** Of a line of single notes. */
  tune: z.literal(true).optional(),
  /** Short and dark, under the heel of the hand. */
  palm: z.boolean(),
  /** With the flesh of a thumb or finger, not a pick. */
  flesh: z.boolean(),
  /** A tap that is the stroke, or comes with it. */
  tap: tapPlaceSchema.nullable(),
  /** 0 to 1. */
  velocity: z.number(),
  /** The strings in the order in which they are reached; empty for a chuck or a tap, which has no pitch. */
  notes: z.array(strikeNoteSchema),
  /** Strings that the hand damps. */
  damps: z.array(z.int()),
});
export type Strike = z.infer<typeof strikeSchema>;

/** A bar as it is counted: ticks from the start of the song, and how much of it a pick-up leaves out. */
export const countedBarSchema = z.object({
  tick: ticksSchema,
  ticks: wholeTicksSchema,
  lead: wholeTicksSchema,
  meter: meterSchema,
});
export type CountedBar = z.infer<typeof countedBarSchema>;

export const performanceSchema = z.object({
  /** Pulses a minute. */
  tempo: z.number(),
  /** Length in ticks and in seconds. */
  ticks: wholeTicksSchema,
  seconds: secondsSchema,
  /** Ticks for which a fermata at the end rings on. */
  tail: wholeTicksSchema,
  bars: z.array(countedBarSchema),
  /** Where the feel changes, in the order of playing: straight before the first, and where it is null. */
  feels: z.array(z.object({ tick: wholeTicksSchema, feel: feelSchema.nullable() })),
  landings: z.array(
    z.object({
      tick: wholeTicksSchema,
      symbol: z.string(),
      push: wholeTicksSchema,
      late: ticksSchema,
      /** The pitch of each string under the hand, null where the shape mutes it; left out where no shape is known. */
      strings: z.array(z.int().nullable()).optional(),
      /** The hand slides into it along strings that ring on. */
      slides: z.literal(true).optional(),
    }),
  ),
  strikes: z.array(strikeSchema),
  /** Ticks of strokes that are left out while the hand travels. */
  leftOut: z.array(wholeTicksSchema),
  /** Runs that were asked for and do not fit, with the landing and one sentence. */
  lostRuns: z.array(z.object({ tick: wholeTicksSchema, symbol: z.string(), message: z.string() })),
  /** What the fretting hand was to sound by itself and cannot, with one sentence. */
  silent: z.array(z.object({ tick: wholeTicksSchema, message: z.string() })),
});
export type Performance = z.infer<typeof performanceSchema>;
