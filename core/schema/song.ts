import { z } from './zod';
import { instrumentSchema, shapeSchema } from './instrument';
import { meterSchema } from './meter';
import { roundsOf } from './rounds';
import { DOCUMENT_VERSION, fromEarlierVersion, patternSchema } from './pattern';
import {
  MAX_CHORD_LETTERS,
  MAX_BAR_TICKS,
  MAX_BARS_OF_LINE,
  MAX_CHORD_PATTERNS,
  MAX_CHORDS_OF_BAR,
  MAX_LINES,
  MAX_PASSAGES,
  MAX_SECTIONS,
  MAX_SHAPES,
  MAX_SUBSTITUTES,
  MAX_TIMED_RHYTHMS,
  MAX_TIMES,
  MAX_SECTION_LETTERS,
  MAX_TITLE_LETTERS,
  MAX_UNREAD_LETTERS,
} from './limits';
import { practiceSchema } from './practice';
import { accentSchema, stringNumberSchema } from './stroke';
import { tempoSchema } from './tempo';
import { textSchema } from './text';
import { tuneMeetsSchema, tuneSchema } from './tune';
import { wordsSchema } from './words';
import { tooMuch } from './unfold';

/**
 * Which string a bass strike takes: the lowest that sounds the root, the lowest of the shape, or,
 * on a re-entrant instrument, the one nearest the thumb that sounds the root.
 */
export const bassRuleSchema = z.enum(['root', 'lowest', 'thumb']);
export type BassRule = z.infer<typeof bassRuleSchema>;

/** The fret a capo lies on, 0 for none. */
export const capoSchema = z.int().min(0).max(20);

/**
 * A chord as the player wrote it. Any short word is kept, so that a slip of the finger is shown
 * and not lost; whether it names a chord is for `parseChord` to say. Brackets, a wave and a meter in
 * parentheses mean something else in the line of text.
 */
export const chordTextSchema = z
  .string()
  .min(1)
  .max(MAX_CHORD_LETTERS)
  .regex(
    /^(?!x\d+$)(?!\(\d)[^\s|<.%:[\]~\p{C}][^\s|<:[\]~\p{C}]*$/u,
    'a chord is one word without bar lines, colons, brackets or spaces',
  );

/** How many strokes before a landing are played while the hand travels, and not on the chord. */
export const openStrokesSchema = z.union([z.literal(0), z.literal(1), z.literal(2), z.literal(3)]);
export type OpenStrokes = z.infer<typeof openStrokesSchema>;

/** How those are played: on open strings, on damped ones, or not at all while the arm goes on. */
export const travelSchema = z.enum(['open', 'damped', 'left out']);
export type Travel = z.infer<typeof travelSchema>;

/**
 * How the stroke that a chord lands with is played: its bass note alone, one side of the strings, the whole chord,
 * rolled; or not struck at all, where the hand slides into the shape along strings that ring, hammers it on them, or
 * pulls them off to it.
 */
export const arrivalSchema = z.enum([
  'bass',
  'bass side',
  'treble side',
  'whole',
  'roll',
  'slide',
  'hammer',
  'pull',
]);
export type Arrival = z.infer<typeof arrivalSchema>;

/** What the player does not want to be advised to do to a song. */
export const ruledOutSchema = z.enum([
  'open strokes',
  'damped strokes',
  'strokes left out',
  'other shapes',
  'other landings',
]);
export type RuledOut = z.infer<typeof ruledOutSchema>;

/**
 * A bass run as it was chosen: so many notes, each so long, of that kind and from that side. Which
 * strings it takes follows from the shapes, so that it still arrives when those change.
 */
export const runWishSchema = z.strictObject({
  count: z.int().min(1).max(4),
  noteTicks: z.union([z.literal(240), z.literal(480), z.literal(960)]),
  kind: z.enum(['in the key', 'chromatic']),
  direction: z.enum(['up', 'down']),
});
export type RunWish = z.infer<typeof runWishSchema>;

/** A key: its tonic as a pitch class, 0 for C, and whether it is minor. */
export const keySchema = z.strictObject({ tonic: z.int().min(0).max(11), minor: z.boolean() });

/** How chords are written by the steps of the key: `6m`, or `vi`. */
export const degreeStyleSchema = z.enum(['numbers', 'roman']);
export type DegreeStyle = z.infer<typeof degreeStyleSchema>;

/** How the runs of a song go where one is placed: so many notes, each so long. */
export const usualRunSchema = runWishSchema.pick({ count: true, noteTicks: true });
export type UsualRun = z.infer<typeof usualRunSchema>;

/**
 * What the pattern does in a bar that chords share: it rolls on, starts again with each chord, is cut to
 * its first half for each, or is squeezed whole into each.
 */
export const splitRuleSchema = z.enum(['roll', 'restart', 'half', 'squeeze']);
export type SplitRule = z.infer<typeof splitRuleSchema>;

/** A time that something comes round: its number, from 1, or the last of all. */
export const timeRoundSchema = z.union([z.literal('last'), z.int().min(1).max(MAX_TIMES)]);
export type TimeRound = z.infer<typeof timeRoundSchema>;

/** What a bar does that its section does not. */
export const barRulesSchema = z.strictObject({
  /** A rhythm of its own, from its start. */
  pattern: patternSchema.optional(),
  /** Other rhythms, some of the times that the bar comes, repeats of its line counted. */
  timed: z
    .array(z.strictObject({ time: timeRoundSchema, pattern: patternSchema }))
    .min(1)
    .max(MAX_TIMED_RHYTHMS)
    .optional(),
  split: splitRuleSchema.optional(),
  /** The first stroke is left to a melody note, or to silence. */
  skipFirst: z.literal(true).optional(),
  /** All strike here, in ticks from the bar line, and hold to the end of the bar. */
  stop: z.int().min(0).max(MAX_BAR_TICKS).optional(),
  /** A line of single notes. */
  tune: tuneSchema.optional(),
  /** What is sung in it. */
  words: wordsSchema.optional(),
});
export type BarRules = z.infer<typeof barRulesSchema>;

/** What a section does that the song does not. */
export const sectionRulesSchema = z.strictObject({
  pattern: patternSchema.optional(),
  split: splitRuleSchema.optional(),
  /** How loud the section is as a whole. */
  level: accentSchema.optional(),
  meets: tuneMeetsSchema.optional(),
  /** From soft to loud over the section, or back; all downs if that drives it. */
  build: z
    .strictObject({ from: accentSchema, to: accentSchema, downs: z.literal(true).optional() })
    .optional(),
});
export type SectionRules = z.infer<typeof sectionRulesSchema>;

/** Another chord, one of the times that its section comes round. */
export const substituteSchema = z.strictObject({ time: timeRoundSchema, symbol: chordTextSchema });
export type Substitute = z.infer<typeof substituteSchema>;

export const placementSchema = z.strictObject({
  /** The place in the bar that the chord belongs to, in ticks from the bar line. */
  at: z.int().min(0).max(MAX_BAR_TICKS),
  /** How much earlier than `at` it lands, in ticks: 0, an eighth (480) or a sixteenth (240). */
  push: z.union([z.literal(0), z.literal(240), z.literal(480)]),
  symbol: chordTextSchema,
  /** Other chords in its place, some of the times. */
  substitutes: z.array(substituteSchema).min(1).max(MAX_SUBSTITUTES).optional(),
  /** Struck once and held; at the end of the song, beyond its time. */
  fermata: z.literal(true).optional(),
  /** A bass run that leads into it, in the last notes before it lands. */
  run: runWishSchema.optional(),
  /** Strokes on open strings just before it lands; the song's rule where it is left out. */
  openStrokes: openStrokesSchema.optional(),
  travel: travelSchema.optional(),
  /** How it is first struck; as its pattern says where it is left out. */
  arrive: arrivalSchema.optional(),
});
export type Placement = z.infer<typeof placementSchema>;

export const barSchema = z.strictObject({
  /** Chords that land in or for this bar, in order. None: the chord before is held. */
  chords: z.array(placementSchema).max(MAX_CHORDS_OF_BAR),
  /** What was typed for this bar when it could not be read; kept so that nothing is lost. */
  unread: textSchema(MAX_UNREAD_LETTERS, 0).optional(),
  /** A meter of its own, for this bar alone. */
  meter: meterSchema.optional(),
  /** A pick-up: only so many beats are played, the last ones of the bar. */
  pickup: z.int().min(1).max(15).optional(),
  rules: barRulesSchema.optional(),
});
export type Bar = z.infer<typeof barSchema>;

export const lineSchema = z.strictObject({
  bars: z.array(barSchema).min(1).max(MAX_BARS_OF_LINE),
  /** How often the line is played. */
  times: z.int().min(1).max(MAX_TIMES),
  /** Only at these times that its section comes round (an ending), or at the last. */
  only: z
    .union([z.literal('last'), z.array(z.int().min(1).max(MAX_TIMES)).min(1).max(8)])
    .optional(),
});
export type Line = z.infer<typeof lineSchema>;

export const sectionSchema = z.strictObject({
  name: textSchema(MAX_SECTION_LETTERS, 0),
  lines: z.array(lineSchema).max(MAX_LINES),
  rules: sectionRulesSchema.optional(),
});
export type Section = z.infer<typeof sectionSchema>;

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

/** The alternate bass that the player wants for a chord: its string from 1, the farthest from the thumb. */
export const ownAlternateSchema = z.strictObject({
  symbol: chordTextSchema,
  string: stringNumberSchema,
  fret: z.int().min(0).max(24),
});
export type OwnAlternate = z.infer<typeof ownAlternateSchema>;

/** A passage of the song: a section by its name, so many times in a row. */
export const passageSchema = z.strictObject({
  name: textSchema(MAX_SECTION_LETTERS),
  times: z.int().min(1).max(MAX_TIMES),
  /** In another key: so many semitones up, or down below zero. */
  shift: z
    .int()
    .min(-11)
    .max(11)
    .refine((shift) => shift !== 0, { message: 'a passage in the written key has no shift' })
    .optional(),
  /** Only so many of its last lines, as an intro may be. */
  lastLines: z.int().min(1).max(MAX_LINES).optional(),
});
export type Passage = z.infer<typeof passageSchema>;

const songObject = z.strictObject({
  schema: z.literal(DOCUMENT_VERSION),
  title: textSchema(MAX_TITLE_LETTERS),
  instrument: instrumentSchema,
  capo: capoSchema,
  bassSchool: bassRuleSchema,
  tempo: tempoSchema,
  meter: meterSchema,
  countIn: z.int().min(0).max(2),
  sections: z.array(sectionSchema).max(MAX_SECTIONS),
  /** The order in which sections are played; as they are written where it is left out. */
  order: z.array(passageSchema).max(MAX_PASSAGES).optional(),
  /** Times round are counted over the whole song; within each passage where it is left out (`roundsOf`). */
  endings: z.literal('song').optional(),
  pattern: patternSchema,
  /** Chords that bring their own rhythm, wherever they come. */
  chordPatterns: z
    .array(z.strictObject({ symbol: chordTextSchema, pattern: patternSchema }))
    .max(MAX_CHORD_PATTERNS)
    .optional(),
  /** In bars that chords share; rolls on where it is left out. */
  split: splitRuleSchema.optional(),
  /** How lines of notes meet the pattern; in its place where it is left out. */
  meets: tuneMeetsSchema.optional(),
  openStrokes: openStrokesSchema.optional(),
  travel: travelSchema.optional(),
  /** The key, where the player names it; guessed from the chords where it is left out. */
  key: keySchema.optional(),
  /** The line of text writes chords by the steps of that key. */
  degrees: degreeStyleSchema.optional(),
  usualRun: usualRunSchema.optional(),
  ruledOut: z.array(ruledOutSchema).max(5).optional(),
  practice: practiceSchema.optional(),
  chosenShapes: z.array(chosenShapeSchema).max(MAX_SHAPES),
  ownShapes: z.array(ownShapeSchema).max(MAX_SHAPES),
  ownAlternates: z.array(ownAlternateSchema).max(MAX_SHAPES).optional(),
});
/** What decides how times round are counted. */
const countedSchema = z.object({
  sections: z.array(z.object({ name: z.string(), lines: z.unknown() })).max(MAX_SECTIONS),
  order: z
    .array(passageSchema.pick({ name: true, times: true, lastLines: true }).loose())
    .max(MAX_PASSAGES),
});

/**
 * Reads a song of an earlier version as one of this. Up to version 8 times round were counted over the whole song: one
 * that would be played otherwise now says so and stays as it was.
 */
function fromEarlierSong(raw: unknown): unknown {
  const song = fromEarlierVersion(raw);
  const counted = song === raw ? null : countedSchema.safeParse(song).data;
  if (!counted) return song;
  const timed = new Set(
    counted.sections
      .filter(({ lines }) => /"(only|substitutes)":/.test(JSON.stringify(lines) ?? ''))
      .map(({ name }) => name),
  );
  const played = counted.order.flatMap(({ name, times, lastLines }) =>
    lastLines === undefined ? Array<string>(times).fill(name) : [],
  );
  const before = roundsOf(played, 'song');
  const differs = roundsOf(played).some(
    ({ time, last }, at) =>
      timed.has(played[at]!) && (time !== before[at]!.time || last !== before[at]!.last),
  );
  return differs ? { ...(song as object), endings: 'song' } : song;
}

/** A song document; refused where it would unfold to more than can be worked out (`tooMuch`). */
export const songSchema = z.preprocess(
  fromEarlierSong,
  songObject.superRefine((song, context) => {
    const message = tooMuch(song);
    if (message) context.addIssue({ code: 'custom', message, path: ['sections'] });
  }),
);
export type Song = z.infer<typeof songObject>;
