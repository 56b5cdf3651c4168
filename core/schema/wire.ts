import { z } from './zod';
import { instrumentSchema } from './instrument';
import { patternSchema } from './pattern';
import { songSchema } from './song';

/** A stored document with the revision that a writer must name to replace it. */
function storedSchema<T extends z.ZodType>(document: T) {
  return z.strictObject({
    id: z.string().max(80),
    revision: z.int().min(1),
    updatedAt: z.iso.datetime(),
    document,
  });
}

export const storedSongSchema = storedSchema(songSchema);
export const storedPatternSchema = storedSchema(patternSchema);
export type StoredSong = z.infer<typeof storedSongSchema>;

/** What a write answers with: the revision that it made. The writer has the document already. */
export const storedRevisionSchema = z.strictObject({
  id: z.string(),
  revision: z.int().min(1),
  updatedAt: z.iso.datetime(),
});
export type StoredRevision = z.infer<typeof storedRevisionSchema>;

/** A document that is kept but cannot be read; its text is at `/:id/text`. */
export const unreadableSchema = z.strictObject({
  kind: z.enum(['song', 'pattern']),
  id: z.string(),
  revision: z.int(),
  updatedAt: z.iso.datetime(),
  name: z.string(),
  problem: z.string(),
});
export type Unreadable = z.infer<typeof unreadableSchema>;
export const unreadableListSchema = z.array(unreadableSchema);

/** An instrument of the player's own, kept to be offered for any song. */
export const ownInstrumentSchema = z.strictObject({ id: z.uuid(), instrument: instrumentSchema });
export type OwnInstrument = z.infer<typeof ownInstrumentSchema>;
export const ownInstrumentListSchema = z.array(ownInstrumentSchema);
export const createInstrumentSchema = z.strictObject({ instrument: instrumentSchema });

/** What a song is known by on the shelf: its first chords, and a bar of its rhythm as paths of a drawing. */
export const glanceSchema = z.strictObject({
  chords: z.array(z.string()),
  more: z.boolean(),
  arm: z.string(),
  strokes: z.string(),
  dots: z.array(z.tuple([z.number(), z.number()])),
});
export type Glance = z.infer<typeof glanceSchema>;

export const songSummarySchema = z.strictObject({
  id: z.string(),
  revision: z.int().min(1),
  updatedAt: z.iso.datetime(),
  title: z.string(),
  instrument: z.string(),
  meter: z.string(),
  tempo: z.number(),
  /** Left out for a song that was not looked at yet. */
  glance: glanceSchema.optional(),
});
export type SongSummary = z.infer<typeof songSummarySchema>;
export const songListSchema = z.array(songSummarySchema);

export const patternListSchema = z.array(storedPatternSchema);

/** One that was deleted and is put back: as itself, and later than every window that still shows it. */
const was = z.strictObject({ id: z.uuid(), revision: z.int().min(1) }).optional();
export const createSongSchema = z.strictObject({ document: songSchema, was });
export const createPatternSchema = z.strictObject({ document: patternSchema, was });
export const replaceSongSchema = z.strictObject({
  revision: z.int().min(1),
  document: songSchema,
});
export const replacePatternSchema = z.strictObject({
  revision: z.int().min(1),
  document: patternSchema,
});

/** Every refusal of the server has this shape. */
export const errorBodySchema = z.object({
  error: z.string(),
  problems: z.array(z.object({ path: z.string(), message: z.string() })).optional(),
  /** How many problems there are beyond those listed. */
  more: z.int().optional(),
  current: z.unknown().optional(),
});
export type ErrorBody = z.infer<typeof errorBodySchema>;

/** What this is: its version, and the folder that its data lie in, for who sits at that machine. */
export const aboutSchema = z.strictObject({ version: z.string(), folder: z.string().nullable() });
export type About = z.infer<typeof aboutSchema>;

/** How another device comes in: addresses of the machine that serves, with the key where it has one. */
export const phoneSchema = z.strictObject({
  /** None where only the machine itself can reach the server. `code` is the address as a drawing to scan, in SVG. */
  addresses: z.array(z.strictObject({ url: z.url(), code: z.string() })),
  keyed: z.boolean(),
  /** Whether it is served with a certificate: only then do other devices get a microphone. */
  secure: z.boolean(),
});
export type Phone = z.infer<typeof phoneSchema>;
