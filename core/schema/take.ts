import { listOf } from './listOf';
import { offlineStamp } from './offlineStamp';
import {
  MAX_ANSWER_LETTERS,
  MAX_BARS_PLAYED,
  MAX_JUDGED_STROKES,
  MAX_ONSETS,
  MAX_SLOTS_JUDGED,
  MAX_SENTENCE_LETTERS,
} from './limits';
import { momentSchema } from './moment';
import { handsSchema, rungIdSchema } from './practice';
import { songSchema } from './song';
import { tempoSchema } from './tempo';
import { textSchema } from './text';
import { directionSchema } from './stroke';
import { millisecondsSchema, secondsSchema } from './units';
import { z } from './zod';

/** One stroke of a take that came as onsets and not as sound: tapped, or read from a file of notes. */
export const takeOnsetSchema = z.strictObject({
  /** Seconds from the start of the take. */
  seconds: z.number().min(0).max(3600),
  direction: directionSchema.nullable().optional(),
  /** 0 to 1. */
  loudness: z.number().min(0).max(1).optional(),
});
export type TakeOnset = z.infer<typeof takeOnsetSchema>;

/** A take as onsets, in any order. */
export const takeOnsetsSchema = z.strictObject({
  onsets: listOf(takeOnsetSchema, MAX_ONSETS),
});

export const troubleSchema = z.enum([
  'clean',
  'landings',
  'uneven',
  'rushing',
  'dragging',
  'ups',
  'after-miss',
  'chord-late',
  'bass',
  'direction',
  'tempo',
  'waits',
  'stops',
  'landings-out',
  'slot',
  'missing',
  'added',
  'taps',
  'chucks',
  'chord',
  'strings',
  'nearly',
  'unjudged',
]);
export type Trouble = z.infer<typeof troubleSchema>;

/** What a player may say of a take that nobody heard; `clean` is said as it is heard. */
export const saidTroubleSchema = z.enum([...troubleSchema.options, 'so-so', 'not yet']);
export type SaidTrouble = z.infer<typeof saidTroubleSchema>;

/** Which rules a take was judged by; those from before version 2 are without it. */
export const JUDGE_VERSION = 4;
const sentenceSchema = z.string().max(MAX_SENTENCE_LETTERS);
const strikeIndexSchema = z.int().min(0);

const groupSchema = z.object({
  count: z.int(),
  missed: z.int(),
  /** Milliseconds: the middle of how late they came, and the width of the middle half. */
  median: millisecondsSchema.nullable(),
  spread: millisecondsSchema.nullable(),
  /** Share of those heard within the tolerance. */
  within: z.number().nullable(),
});

/** What was heard of a take, stroke by stroke, and what it comes to. */
export const takeJudgementSchema = z.object({
  lag: millisecondsSchema,
  drift: z.number(),
  /** Milliseconds within which a stroke counts as on time. */
  tolerance: millisecondsSchema,
  strokes: listOf(
    z.object({
      /** Index in the performance of the whole song. */
      strike: strikeIndexSchema,
      seconds: secondsSchema,
      off: millisecondsSchema,
      kind: z.enum(['full', 'few', 'bass', 'damped']),
      direction: directionSchema.nullable(),
      chord: z.enum(['on-time', 'late', 'wrong', 'unknown']),
    }),
    MAX_JUDGED_STROKES,
  ),
  missed: listOf(strikeIndexSchema, MAX_JUDGED_STROKES),
  added: listOf(secondsSchema, MAX_ONSETS),
  /** Where the player stopped and went on from there; below zero where they came in ahead. */
  slips: listOf(z.object({ bar: z.int(), seconds: z.number() }), MAX_JUDGED_STROKES),
  bySlot: listOf(
    groupSchema.extend({ slot: z.int(), place: z.string().max(80) }),
    MAX_SLOTS_JUDGED,
  ),
  byChange: listOf(
    groupSchema.extend({
      from: z.string().max(80),
      to: z.string().max(80),
      chordLate: z.int(),
      bars: z.array(z.int()).max(MAX_BARS_PLAYED),
    }),
    MAX_SLOTS_JUDGED,
  ),
  /** Pulses a minute that were played, in the mean; left out where nobody looked. */
  playedAt: z.number().min(0).max(1000).optional(),
  /** Strokes that count: those that were meant, less soft ones that a microphone may not hear. */
  counted: z
    .object({
      meant: z.int(),
      heard: z.int(),
      /** Heard, in time, and as they were meant. */
      good: z.int(),
      /** Soft ones that were not heard, and are not counted. */
      soft: z.int(),
    })
    .optional(),
  /** The version of the rules it was judged by. */
  judge: z.int().min(1).optional(),
  verdict: z.object({
    trouble: troubleSchema,
    hand: z.enum(['strumming', 'fretting', 'both']).nullable(),
    sentence: sentenceSchema,
    advice: z.enum(['up', 'stay', 'down']),
    /** What to play next at. */
    tempo: z.number(),
    /** Bars from 1 to play round, where a place of the song is the trouble. */
    loop: z.object({ from: z.int(), to: z.int() }).nullable(),
    sure: z.number(),
    /** The strokes that it speaks of, by their index in the performance of the whole song. */
    strokes: listOf(strikeIndexSchema, MAX_JUDGED_STROKES).optional(),
    /** What comes after it, when that is mended. */
    then: z.object({ trouble: troubleSchema, sentence: sentenceSchema }).optional(),
  }),
});
export type TakeJudgement = z.infer<typeof takeJudgementSchema>;

/** How a take came in. */
export const takeSourceSchema = z.enum(['microphone', 'file', 'taps', 'midi', 'example']);

const taken = {
  /** Pulses a minute, and the bars that were played, from 1. */
  tempo: tempoSchema,
  from: z.int().min(1),
  to: z.int().min(1),
  source: takeSourceSchema,
  /** What of the ladder was played, and with which hands; the song in full, with both, where it is left out. */
  rung: rungIdSchema.optional(),
  hands: handsSchema.optional(),
};

/** A take to be kept: what was judged, without its sound. */
export const createTakeSchema = z.strictObject({
  ...offlineStamp,
  ...taken,
  judgement: takeJudgementSchema,
});
export type NewTake = z.infer<typeof createTakeSchema>;

/** What a teacher, or the player, writes to a take. */
const answered = { answer: textSchema(MAX_ANSWER_LETTERS).optional() };
/** An answer that is written; an empty one takes it away. */
export const takeAnswerSchema = z.strictObject({ answer: textSchema(MAX_ANSWER_LETTERS, 0) });

const stamped = { id: z.uuid(), songId: z.uuid(), madeAt: momentSchema };
export const storedTakeSchema = z.strictObject({
  ...stamped,
  ...taken,
  ...answered,
  judgement: takeJudgementSchema,
});
export type StoredTake = z.infer<typeof storedTakeSchema>;

/** A kept take as it is listed. */
export const takeSummarySchema = z.strictObject({
  ...stamped,
  ...taken,
  ...answered,
  trouble: troubleSchema,
  sentence: z.string(),
  /** Bytes of its sound, where that is kept. */
  soundBytes: z.int().optional(),
});
export type TakeSummary = z.infer<typeof takeSummarySchema>;
export const takeListSchema = z.array(takeSummarySchema);

/** A take to send, as `take.json` in a ZIP; its sound lies beside it. */
export const sentTakeSchema = z.strictObject({
  app: z.literal('plucky-wrist'),
  take: z.literal(1),
  song: songSchema,
  played: storedTakeSchema.extend({ id: z.uuid() }),
  /** The name of the sound in the file, where it has one. */
  sound: z
    .string()
    .regex(/^[\w-]{1,60}\.\w{1,5}$/)
    .optional(),
});
export type SentTake = z.infer<typeof sentTakeSchema>;

/** Where a take that was sent is now, and whether it was known here already. */
export const openedTakeSchema = z.strictObject({
  songId: z.string(),
  takeId: z.string(),
  known: z.boolean(),
});
