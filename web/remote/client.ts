import {
  aboutSchema,
  archiveLookSchema,
  type ChangeEntry,
  changeTimeListSchema,
  createSongSchema,
  changeTimeSchema,
  type Entry,
  entrySchema,
  errorBodySchema,
  type Instrument,
  logPageSchema,
  logSummarySchema,
  type NewChangeTime,
  type NewEntry,
  type NewTake,
  ownInstrumentListSchema,
  ownInstrumentSchema,
  type Pattern,
  type RecordingMap,
  recordingSchema,
  patternListSchema,
  phoneSchema,
  planSchema,
  type Song,
  songListSchema,
  storedPatternSchema,
  storedRevisionSchema,
  storedSongSchema,
  storedTakeSchema,
  takeListSchema,
  openedTakeSchema,
  takeAnswerSchema,
  takeSummarySchema,
  unreadableListSchema,
} from '#core/schema';
import type { Format } from '#core/formats';
import { z } from 'zod';

const licencesSchema = z.array(
  z.object({ name: z.string(), version: z.string(), license: z.string(), text: z.string() }),
);

/** The server answered, and refused. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly current: unknown,
  ) {
    super(message);
  }
}

/** The server could not be reached. */
export class Away extends Error {
  constructor() {
    super('The server cannot be reached.');
  }
}

async function call<T>(
  schema: z.ZodType<T>,
  method: string,
  path: string,
  body?: unknown,
  keepalive = false,
  fileType?: string,
): Promise<T> {
  const isFile = body instanceof Blob;
  const response = await fetch(`/api${path}`, {
    method,
    keepalive,
    headers:
      body === undefined
        ? {}
        : { 'Content-Type': isFile ? (fileType ?? 'application/zip') : 'application/json' },
    body: body === undefined ? undefined : isFile ? body : JSON.stringify(body),
  }).catch(() => {
    throw new Away();
  });
  if (response.ok) return schema.parse(response.status === 204 ? null : await response.json());
  const parsed = errorBodySchema.safeParse(await response.json().catch(() => null));
  // A proxy that cannot reach the server answers for it, but not in the server's words.
  if (response.status >= 502 && !parsed.success) throw new Away();
  const message = parsed.data?.error ?? `The server refused this (${response.status}).`;
  throw new Refused(response.status, message, parsed.data?.current);
}

/** A file that the server makes of what it is sent. */
async function fileOf(path: string, body: BodyInit, type: string): Promise<Blob> {
  const headers = { 'Content-Type': type };
  const response = await fetch(`/api${path}`, { method: 'POST', headers, body }).catch(() => {
    throw new Away();
  });
  if (response.ok) return response.blob();
  const told = errorBodySchema.safeParse(await response.json().catch(() => null));
  throw new Refused(response.status, told.data?.error ?? 'The file could not be made.', null);
}

const nothing = z.null();

/** What is kept but cannot be read, of both kinds. */
async function listUnreadable() {
  const [songs, patterns] = await Promise.all([
    call(unreadableListSchema, 'GET', '/songs/unreadable'),
    call(unreadableListSchema, 'GET', '/patterns/unreadable'),
  ]);
  return [...songs, ...patterns];
}

export const api = {
  listUnreadable,
  /** Where the text of a document is, as it is kept. */
  textUrl: (kind: 'song' | 'pattern', id: string) => `/api/${kind}s/${encodeURIComponent(id)}/text`,

  listSongs: () => call(songListSchema, 'GET', '/songs'),
  readSong: (id: string) => call(storedSongSchema, 'GET', `/songs/${encodeURIComponent(id)}`),
  /** @param was the song that was deleted, where this is it again */
  createSong: (document: Song, was?: { id: string; revision: number }) =>
    call(storedSongSchema, 'POST', '/songs', { document, ...(was && { was }) }),
  replaceSong: (id: string, revision: number, document: Song, keepalive = false) =>
    call(
      storedRevisionSchema,
      'PUT',
      `/songs/${encodeURIComponent(id)}`,
      { revision, document },
      keepalive,
    ),
  /** A song of Kettle Lock, to look at. */
  readExample: () => call(createSongSchema, 'GET', '/example'),
  deleteSong: (id: string) => call(nothing, 'DELETE', `/songs/${encodeURIComponent(id)}`),
  /** Where a file of a song is. */
  exportUrl: (id: string, { route }: Format) =>
    `/api/songs/${encodeURIComponent(id)}/export.${route}`,

  /** The rhythm of a song, or one of its chords, as a file of its own. */
  patternUrl: (id: string, ending: 'svg' | 'txt' | 'mid') =>
    `/api/songs/${encodeURIComponent(id)}/pattern.${ending}`,
  chordUrl: (id: string, symbol: string, leftHanded: boolean) =>
    `/api/songs/${encodeURIComponent(id)}/chord.svg?symbol=${encodeURIComponent(symbol)}&leftHanded=${leftHanded}`,

  /** Timed changes on some strings, by their pitches with commas. */
  listChangeTimes: (strings: string) =>
    call(changeTimeListSchema, 'GET', `/change-times?strings=${strings}`),
  createChangeTime: (timing: NewChangeTime) =>
    call(changeTimeSchema, 'POST', '/change-times', timing),
  deleteChangeTime: (id: string) =>
    call(nothing, 'DELETE', `/change-times/${encodeURIComponent(id)}`),

  listTakes: (songId: string) =>
    call(takeListSchema, 'GET', `/songs/${encodeURIComponent(songId)}/takes`),
  readTake: (songId: string, id: string) =>
    call(
      storedTakeSchema,
      'GET',
      `/songs/${encodeURIComponent(songId)}/takes/${encodeURIComponent(id)}`,
    ),
  createTake: (songId: string, take: NewTake) =>
    call(takeSummarySchema, 'POST', `/songs/${encodeURIComponent(songId)}/takes`, take),
  deleteTake: (songId: string, id: string) =>
    call(nothing, 'DELETE', `/songs/${encodeURIComponent(songId)}/takes/${encodeURIComponent(id)}`),

  takeSoundUrl: (songId: string, id: string) =>
    `/api/songs/${encodeURIComponent(songId)}/takes/${encodeURIComponent(id)}/sound`,
  keepTakeSound: (songId: string, id: string, sound: Blob) =>
    call(
      z.object({ bytes: z.int() }),
      'PUT',
      `/songs/${encodeURIComponent(songId)}/takes/${encodeURIComponent(id)}/sound`,
      sound,
      false,
      'application/octet-stream',
    ),
  dropTakeSound: (songId: string, id: string) =>
    call(
      nothing,
      'DELETE',
      `/songs/${encodeURIComponent(songId)}/takes/${encodeURIComponent(id)}/sound`,
    ),

  /** The recording beside a song: what is known of it, where its sound is. */
  readRecording: (songId: string) =>
    call(recordingSchema.nullable(), 'GET', `/songs/${encodeURIComponent(songId)}/recording/map`),
  recordingUrl: (songId: string, madeAt: string) =>
    `/api/songs/${encodeURIComponent(songId)}/recording?of=${encodeURIComponent(madeAt)}`,
  keepRecording: (songId: string, file: File) =>
    call(
      recordingSchema,
      'PUT',
      `/songs/${encodeURIComponent(songId)}/recording?name=${encodeURIComponent(file.name.slice(0, 200))}`,
      file,
      false,
      'application/octet-stream',
    ),
  mapRecording: (songId: string, known: RecordingMap) =>
    call(recordingSchema, 'PUT', `/songs/${encodeURIComponent(songId)}/recording/map`, known),
  deleteRecording: (songId: string) =>
    call(nothing, 'DELETE', `/songs/${encodeURIComponent(songId)}/recording`),

  listInstruments: () => call(ownInstrumentListSchema, 'GET', '/instruments'),
  createInstrument: (instrument: Instrument) =>
    call(ownInstrumentSchema, 'POST', '/instruments', { instrument }),
  deleteInstrument: (id: string) =>
    call(nothing, 'DELETE', `/instruments/${encodeURIComponent(id)}`),

  /** A page of the log; `query` as the route takes it. */
  readLog: (query: Record<string, string>) =>
    call(logPageSchema, 'GET', `/log?${new URLSearchParams(query).toString()}`),
  readLogSummary: (query: Record<string, string>) =>
    call(logSummarySchema, 'GET', `/log/summary?${new URLSearchParams(query).toString()}`),
  readPlan: (query: Record<string, string>) =>
    call(planSchema, 'GET', `/log/plan?${new URLSearchParams(query).toString()}`),
  addEntry: (entry: NewEntry) => call(entrySchema, 'POST', '/log', entry),
  addEntries: (entries: NewEntry[]) =>
    call(z.object({ added: z.int(), known: z.int() }), 'POST', '/log/many', { entries }),
  changeEntry: (id: string, change: ChangeEntry) =>
    call(entrySchema, 'PATCH', `/log/${encodeURIComponent(id)}`, change),
  putEntryBack: (entry: Entry) =>
    call(entrySchema, 'PUT', `/log/${encodeURIComponent(entry.id)}`, entry),
  deleteEntry: (id: string) => call(nothing, 'DELETE', `/log/${encodeURIComponent(id)}`),
  /** Where a file of the log is. */
  logUrl: (file: 'export.csv' | 'export.json' | 'plan.ics', query: Record<string, string>) =>
    `/api/log/${file}?${new URLSearchParams(query).toString()}`,

  /** A take to send, as one file. @param sound its sound, where that is not kept */
  takeFile: (songId: string, id: string, sound: Blob | null) =>
    fileOf(
      `/songs/${encodeURIComponent(songId)}/takes/${encodeURIComponent(id)}/file`,
      sound ?? new Blob([]),
      'audio/wav',
    ),
  /** What is written to a take; nothing takes it away. */
  answerTake: (songId: string, id: string, answer: string) =>
    call(
      takeAnswerSchema,
      'PUT',
      `/songs/${encodeURIComponent(songId)}/takes/${encodeURIComponent(id)}/answer`,
      { answer },
    ),
  openSentTake: (file: Blob) => call(openedTakeSchema, 'POST', '/sent-takes', file),

  /** Everything as one file. @param settings what this browser keeps of how the app is set up */
  makeArchive: (settings: Record<string, string>, recordings: boolean) =>
    fileOf('/archive', JSON.stringify({ settings, recordings }), 'application/json'),
  lookIntoArchive: (file: Blob) => call(archiveLookSchema, 'POST', '/archive/look', file),
  importArchive: (file: Blob, newer: boolean) =>
    call(archiveLookSchema, 'POST', `/archive/take?newer=${newer}`, file),

  readAbout: () => call(aboutSchema, 'GET', '/about'),
  /** Whose work is in the app, as it was built; none where it was built without. */
  readLicences: async () => {
    const response = await fetch('/licences.json');
    return licencesSchema.parse(response.ok ? await response.json() : []);
  },

  /** How another device comes in. */
  readPhone: () => call(phoneSchema, 'GET', '/phone'),
  /** Another key: every device that came in with the old one is out. */
  renewKey: () => call(phoneSchema, 'POST', '/phone/new-key'),

  listPatterns: () => call(patternListSchema, 'GET', '/patterns'),
  createPattern: (document: Pattern) =>
    call(storedPatternSchema, 'POST', '/patterns', { document }),
  deletePattern: (id: string) => call(nothing, 'DELETE', `/patterns/${encodeURIComponent(id)}`),
};
