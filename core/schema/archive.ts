import { z } from './zod';

/** What an archive would bring: of each kind how many are new, known already, and different from those here. */
const counted = z.strictObject({ fresh: z.int(), same: z.int(), differ: z.int() });
export const archiveLookSchema = z.strictObject({
  songs: counted,
  patterns: counted,
  rows: counted,
  takes: counted,
  timings: counted,
  instruments: counted,
  /** Recordings beside songs, where they were asked for as it was made. */
  recordings: counted,
  /** Songs and patterns that differ from those here, with whether the archive's is the newer. */
  differing: z.array(z.strictObject({ name: z.string(), newer: z.boolean() })),
  /** What in it cannot be read, by its name in the archive. */
  problems: z.array(z.strictObject({ file: z.string(), message: z.string() })),
  /** How the app was set up, by the names that the browser keeps it under. */
  settings: z.record(z.string(), z.string()),
});
export type ArchiveLook = z.infer<typeof archiveLookSchema>;

/** What was set up in the browser, to be kept in an archive. */
export const archiveSettingsSchema = z.strictObject({
  settings: z.record(z.string().max(80), z.string().max(4000)).default({}),
  /** Whether recordings are to be in it; they are large. */
  recordings: z.boolean().default(false),
});
