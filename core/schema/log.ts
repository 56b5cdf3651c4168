import { offlineStamp } from './offlineStamp';
import {
  MAX_CHORD_LETTERS,
  MAX_INSTRUMENT_LETTERS,
  MAX_BARS_PLAYED,
  MAX_NOTE_LETTERS,
  MAX_TITLE_LETTERS,
} from './limits';
import { handsSchema, rungIdSchema } from './practice';
import { saidTroubleSchema, takeSourceSchema } from './take';
import { tempoSchema } from './tempo';
import { momentSchema } from './moment';
import { textSchema } from './text';
import { z } from './zod';

/** What a row of the log is of: a take, a timed change, a wrist test, practice away from the screen, a note. */
export const entryKindSchema = z.enum(['take', 'change', 'wrist', 'practice', 'note']);
export type EntryKind = z.infer<typeof entryKindSchema>;

/** How it is known: as a take came in, by the player's own word, or written by hand. */
export const entrySourceSchema = z.enum([...takeSourceSchema.options, 'word', 'by hand']);

const bar = z.int().min(1).max(MAX_BARS_PLAYED);
const place = z.strictObject({ from: bar, to: bar });

const parts = {
  kind: entryKindSchema,
  songId: z.uuid().nullable(),
  /** The song and the instrument by name, as they were called then. */
  song: textSchema(MAX_TITLE_LETTERS, 0).nullable(),
  instrument: textSchema(MAX_INSTRUMENT_LETTERS, 0).nullable(),
  rung: rungIdSchema.nullable(),
  hands: handsSchema.nullable(),
  /** The bars that were played, from 1, and whether they are all there were. */
  from: bar.nullable(),
  to: bar.nullable(),
  whole: z.boolean(),
  /** Pulses a minute; for a wrist test moves a second. */
  tempo: z.number().min(0).max(400).nullable(),
  seconds: z.number().min(0).max(86_400),
  source: entrySourceSchema.nullable(),
  trouble: saidTroubleSchema.nullable(),
  /** Share of strokes within the tolerance, and milliseconds. */
  within: z.number().min(0).max(1).nullable(),
  median: z.number().nullable(),
  spread: z.number().min(0).nullable(),
  /** The change that was timed, or that waited longest: 'C to F'. */
  change: textSchema(2 * MAX_CHORD_LETTERS + 4, 0).nullable(),
  /** The bars that the verdict asked for. */
  place: place.nullable(),
  text: textSchema(MAX_NOTE_LETTERS, 0).nullable(),
};

/** A row of the log. */
export const entrySchema = z.strictObject({ id: z.uuid(), madeAt: momentSchema, ...parts });
export type Entry = z.infer<typeof entrySchema>;

/** A row that a player adds: practice away from the screen, a note, a wrist test, or a take by their own word. */
export const newEntrySchema = z
  .strictObject({
    ...offlineStamp,
    kind: z.enum(['take', 'wrist', 'practice', 'note']),
    songId: z.uuid().optional(),
    song: textSchema(MAX_TITLE_LETTERS).optional(),
    instrument: textSchema(MAX_INSTRUMENT_LETTERS).optional(),
    rung: rungIdSchema.optional(),
    hands: handsSchema.optional(),
    from: bar.optional(),
    to: bar.optional(),
    whole: z.boolean().optional(),
    tempo: z.number().min(0).max(400).optional(),
    seconds: z.number().min(0).max(86_400).optional(),
    trouble: saidTroubleSchema.optional(),
    /** How a take came in, where it was of no song of the shelf; the player's own word where it is left out. */
    source: takeSourceSchema.optional(),
    text: textSchema(MAX_NOTE_LETTERS).optional(),
  })
  .refine(({ kind, text }) => kind !== 'note' || text !== undefined, {
    message: 'a note says something',
    path: ['text'],
  })
  .refine(
    ({ kind, tempo, trouble }) => kind !== 'take' || (tempo !== undefined && trouble !== undefined),
    {
      message: 'a take has a tempo and how it went',
      path: ['tempo'],
    },
  );
export type NewEntry = z.infer<typeof newEntrySchema>;

/** What may be put right in a row afterwards. */
export const changeEntrySchema = z.strictObject({
  madeAt: momentSchema.optional(),
  tempo: z.number().min(0).max(400).nullable().optional(),
  seconds: z.number().min(0).max(86_400).optional(),
  trouble: saidTroubleSchema.nullable().optional(),
  text: textSchema(MAX_NOTE_LETTERS, 0).nullable().optional(),
});
export type ChangeEntry = z.infer<typeof changeEntrySchema>;

/** A page of the log, the newest first. */
export const logPageSchema = z.strictObject({
  entries: z.array(entrySchema),
  /** Rows that the filters let through. */
  total: z.int(),
  /** Where the next page begins; null at the end. */
  next: z.string().nullable(),
});
export type LogPage = z.infer<typeof logPageSchema>;

const day = z.iso.date();
/** What the log comes to, for its charts and its sentence. */
export const logSummarySchema = z.strictObject({
  evenings: z.int(),
  seconds: z.number(),
  days: z.array(z.strictObject({ day, seconds: z.number(), takes: z.int() })),
  verdicts: z.array(z.strictObject({ trouble: saidTroubleSchema, count: z.int() })),
  /** Songs that were practised, the latest first. */
  songs: z.array(
    z.strictObject({
      songId: z.uuid(),
      song: z.string(),
      last: z.iso.datetime(),
      seconds: z.number(),
      goal: tempoSchema.nullable(),
      by: day.nullable(),
      /** The quickest whole take in full that was clean, and that of its first evening. */
      clean: z.number().nullable(),
      first: z.number().nullable(),
      /** The change that waited longest most often, of late. */
      left: z.string().nullable(),
    }),
  ),
  /** The quickest clean take of each evening, by rung, of the song that was asked for; none for all songs. */
  clean: z.array(z.strictObject({ day, songId: z.uuid(), rung: rungIdSchema, tempo: z.number() })),
  /** How late the strokes of each slot of the song that was asked for come: now, and a month before. */
  slots: z.array(
    z.strictObject({
      place: z.string(),
      now: z.number().nullable(),
      before: z.number().nullable(),
    }),
  ),
  /** The middle of what a change took, by evening, in milliseconds. */
  changes: z.array(z.strictObject({ day, change: z.string(), ms: z.number() })),
});
export type LogSummary = z.infer<typeof logSummarySchema>;

/** What is done for some minutes of an evening. */
export const planItemSchema = z.strictObject({
  minutes: z.int().min(1),
  kind: z.enum(['warm-up', 'change', 'due', 'rung', 'pause', 'end']),
  songId: z.uuid().nullable(),
  /** What it is, in a few words, and why it stands here. */
  what: z.string(),
  why: z.string(),
  rung: rungIdSchema.nullable(),
  tempo: z.number().nullable(),
});
export type PlanItem = z.infer<typeof planItemSchema>;
export const planSchema = z.strictObject({
  minutes: z.int(),
  items: z.array(planItemSchema),
  /** When each song with a goal is likely to be there; only said where enough was measured. */
  goals: z.array(
    z.strictObject({
      songId: z.uuid(),
      song: z.string(),
      says: z.string(),
      likely: day.nullable(),
    }),
  ),
});
export type Plan = z.infer<typeof planSchema>;
