import { CHORD_LETTERS } from './limits';
import { listOf } from './listOf';
import { meterSchema } from './meter';
import { chordTextSchema } from './song';
import { textSchema } from './text';
import { millisecondsSchema } from './units';
import { z } from './zod';

/** Bytes and seconds of a recording that is kept beside a song. */
export const LARGEST_RECORDING = 100 * 1024 * 1024;
export const LONGEST_RECORDING = 15 * 60;
/** Beats that a map may have: fifteen minutes at 300 a minute. */
export const MOST_MAPPED_BEATS = 4500;

const MOST_HEARD_LANDINGS = 2000;
const seconds = z.number().min(0).max(LONGEST_RECORDING);

/** Where the beats of a recording lie: they may drift as the players do. */
export const beatMapSchema = z
  .strictObject({
    meter: meterSchema,
    /** Seconds of every pulse, in order. */
    pulses: listOf(seconds, MOST_MAPPED_BEATS, 2),
    /** How sure each is, 0 to 1; 1 where the player put it there. */
    sure: listOf(z.number().min(0).max(1), MOST_MAPPED_BEATS),
    /** The pulse that is the first "one"; what comes before it is a pick-up. */
    one: z.int().min(0).max(MOST_MAPPED_BEATS),
    /** The pulses that the player set, by number: what is tracked anew goes through them. */
    set: listOf(z.int().min(0).max(MOST_MAPPED_BEATS), MOST_MAPPED_BEATS),
  })
  .refine(({ pulses }) => pulses.every((at, index) => index === 0 || at > pulses[index - 1]!), {
    message: 'pulses come one after another',
    path: ['pulses'],
  })
  .refine(({ pulses, sure }) => pulses.length === sure.length, {
    message: 'every pulse says how sure it is',
    path: ['sure'],
  })
  .refine(({ pulses, one }) => one < pulses.length, {
    message: 'the first bar begins on a pulse',
    path: ['one'],
  });
export type BeatMap = z.infer<typeof beatMapSchema>;

/** A chord change that was heard: its tick from the first bar line, how far the press was moved, and its name. */
export const heardLandingSchema = z.strictObject({
  tick: z.int().min(0),
  moved: millisecondsSchema,
  symbol: chordTextSchema.nullable(),
});
export type HeardLanding = z.infer<typeof heardLandingSchema>;

/** What is known of a recording, besides its sound. */
export const recordingMapSchema = z.strictObject({
  map: beatMapSchema.nullable(),
  landings: listOf(heardLandingSchema, MOST_HEARD_LANDINGS),
});
export type RecordingMap = z.infer<typeof recordingMapSchema>;

/** A recording that is kept beside a song. */
export const recordingSchema = z.strictObject({
  name: textSchema(200),
  type: textSchema(CHORD_LETTERS * 4),
  bytes: z.int().min(1),
  madeAt: z.iso.datetime(),
  ...recordingMapSchema.shape,
});
export type RecordingInfo = z.infer<typeof recordingSchema>;
