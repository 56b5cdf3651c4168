import { MAX_CHORD_LETTERS, MAX_BARS_PLAYED } from './limits';
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
export const MAX_MAPPED_BEATS = 4500;

const MAX_HEARD_LANDINGS = 2000;
const seconds = z.number().min(0).max(LONGEST_RECORDING);

/** Where the beats of a recording lie: they may drift as the players do. */
export const beatMapSchema = z
  .strictObject({
    meter: meterSchema,
    /** Seconds of every pulse, in order. */
    pulses: listOf(seconds, MAX_MAPPED_BEATS, 2),
    /** How sure each is, 0 to 1; 1 where the player put it there. */
    sure: listOf(z.number().min(0).max(1), MAX_MAPPED_BEATS),
    /** The pulse that is the first "one"; what comes before it is a pick-up. */
    one: z.int().min(0).max(MAX_MAPPED_BEATS),
    /** The pulses that the player set, by number: what is tracked anew goes through them. */
    set: listOf(z.int().min(0).max(MAX_MAPPED_BEATS), MAX_MAPPED_BEATS),
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

/** Ticks of the longest recording. */
const MAX_TICKS = MAX_MAPPED_BEATS * 2000;

/** A chord change that was heard: its tick from the first bar line, before it where there is a pick-up, how far the press was moved, and its name. */
export const heardLandingSchema = z.strictObject({
  tick: z.int().min(-MAX_TICKS).max(MAX_TICKS),
  moved: millisecondsSchema,
  symbol: chordTextSchema.nullable(),
});
export type HeardLanding = z.infer<typeof heardLandingSchema>;

/** Places of a recording at which another part of the song begins. */
export const MAX_LAID_PARTS = 200;

/**
 * From this pulse on the recording plays the song from that bar on, as it is played, from 0; or what is not of the
 * song: an intro, a solo, talk.
 */
export const laidPartSchema = z.strictObject({
  pulse: z.int().min(0).max(MAX_MAPPED_BEATS),
  bar: z.int().min(0).max(MAX_BARS_PLAYED).nullable(),
});
export type LaidPart = z.infer<typeof laidPartSchema>;

/** What is known of a recording, besides its sound. */
export const recordingMapSchema = z.strictObject({
  map: beatMapSchema.nullable(),
  landings: listOf(heardLandingSchema, MAX_HEARD_LANDINGS),
  /** How the song lies on it, in order; where it is left out the song begins with the first bar. */
  layout: listOf(laidPartSchema, MAX_LAID_PARTS)
    .refine((parts) => parts.every(({ pulse }, at) => at === 0 || pulse > parts[at - 1]!.pulse), {
      message: 'parts come one after another',
    })
    .optional(),
});
export type RecordingMap = z.infer<typeof recordingMapSchema>;

/** A recording that is kept beside a song. */
export const recordingSchema = z.strictObject({
  name: textSchema(200),
  type: textSchema(MAX_CHORD_LETTERS * 4),
  bytes: z.int().min(1),
  madeAt: z.iso.datetime(),
  ...recordingMapSchema.shape,
});
export type RecordingInfo = z.infer<typeof recordingSchema>;
