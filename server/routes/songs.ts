import {
  createSongSchema,
  glanceSchema,
  replaceSongSchema,
  type Song,
  songSchema,
  type SongSummary,
} from '#core/schema';
import { describeMeter } from '#core/time';
import { say } from '#core/stroke';
import { isNoChord } from '#core/neck';
import { songChords, glanceOf } from '#core/song';
import { patternAlone } from '#core/practice';
import { NOTATIONS, readAudience, tooLongForPaper, USUAL_SHEET } from '#core/sheet';
import { fileName, FORMATS } from '#core/formats';
import { z } from 'zod';
import type { Compute } from '../compute/tasks';
import { songColumns } from '../columns';
import { check, Refusal } from '../errors';
import type { Database } from '../database';
import type { SongRow } from '../models';
import { timingsOn } from './changeTimes';
import { documentRoutes, type Listed } from './documents';
import { sendWhole } from './send';

const said = z.enum(['true', 'false']).transform((word) => word === 'true');
const sheetQuery = z.strictObject({
  /** `player`, `leader`, `beginner`, the id of an instrument, or both with a dash. */
  for: z
    .string()
    .max(60)
    .default('player')
    .transform((text, context) => {
      const whom = readAudience(text);
      if (whom) return whom;
      context.addIssue({
        code: 'custom',
        message: 'is none of player, leader, beginner, an instrument, or both with a dash',
      });
      return z.NEVER;
    }),
  paper: z.enum(['a4', 'letter']).default('a4'),
  notation: z.enum(NOTATIONS).default('path'),
  landscape: said.default(false),
  large: said.default(false),
  leftHanded: said.default(false),
});

const chordQuery = z.strictObject({
  symbol: z.string().trim().min(1).max(24),
  leftHanded: said.default(false),
});

/** What a song is known by, as it is kept beside it. */
function seen(glance: string | null): Pick<SongSummary, 'glance'> {
  if (glance === null) return {};
  const read = glanceSchema.safeParse(JSON.parse(glance));
  return read.success ? { glance: read.data } : {};
}

/** What a stored song is known by, as JSON; nothing of one that cannot be read. */
function glanceOfText(text: string): string {
  try {
    return JSON.stringify(glanceOf(songSchema.parse(JSON.parse(text))));
  } catch {
    return '{}';
  }
}

/** Songs of before this was kept are looked at, a few at a time, after the server has started. */
export async function backfillGlances({ songs }: Pick<Database, 'songs'>): Promise<void> {
  const AT_ONCE = 20;
  for (;;) {
    const some = await songs.findAll({ where: { glance: null }, limit: AT_ONCE });
    if (some.length === 0) return;
    for (const row of some) {
      const glance = glanceOfText(row.document);
      await songs.update({ glance }, { where: { id: row.id, glance: null }, silent: true });
    }
  }
}

export function songRoutes(database: Database, compute: Compute) {
  const { router, find, readable } = documentRoutes<SongRow, Song>({
    noun: 'song',
    rows: database.songs,
    schema: songSchema,
    createSchema: createSongSchema,
    replaceSchema: replaceSongSchema,
    nameOf: ({ title }) => title,
    columns: songColumns,
  });

  router.get('/', async (_request, response) => {
    const rows = (await readable()) as (Listed &
      Omit<SongSummary, 'updatedAt' | 'glance'> & { glance: string | null })[];
    const list = rows.map(
      ({ id, revision, updatedAt, title, instrument, meter, tempo, glance }): SongSummary => ({
        id,
        revision,
        updatedAt: new Date(updatedAt).toISOString(),
        title,
        instrument,
        meter,
        tempo,
        ...seen(glance),
      }),
    );
    list.sort((a, b) => (a.title < b.title ? -1 : a.title > b.title ? 1 : 0));
    response.json(list);
  });

  router.get('/:id/performance', async (request, response) => {
    const { document } = await find(request);
    const bytes = await compute('performance', document);
    sendWhole(response.type('application/json'), bytes);
  });

  router.get('/:id/changes', async (request, response) => {
    const { document } = await find(request);
    const timings = await timingsOn(database, document.instrument.strings.join());
    const bytes = await compute('changes', document, { timings });
    sendWhole(response.type('application/json'), bytes);
  });

  router.get('/:id/sheet.pdf', async (request, response) => {
    const { for: whom, ...wish } = check(sheetQuery, request.query);
    const { document } = await find(request);
    const tooLong = tooLongForPaper(document);
    if (tooLong !== null) throw new Refusal(422, { error: tooLong });
    const sheet = { ...USUAL_SHEET, ...wish, ...whom };
    const bytes = await compute('sheet', document, { sheet });
    const name = `${fileName(document.title)}.pdf`;
    sendWhole(response.attachment(name).type('application/pdf'), bytes);
  });

  /** A rhythm, or a chord, as a picture of its own. */
  router.get('/:id/pattern.svg', async (request, response) => {
    const { document } = await find(request);
    const bytes = await compute('picture', document);
    const name = `${fileName(document.pattern.name)}.svg`;
    sendWhole(response.attachment(name).type('image/svg+xml'), bytes);
  });
  router.get('/:id/chord.svg', async (request, response) => {
    const chord = check(chordQuery, request.query);
    const { document } = await find(request);
    const bytes = await compute('picture', document, { chord });
    if (bytes.length === 0) {
      throw new Refusal(400, { error: `“${chord.symbol}” is no chord that can be drawn here.` });
    }
    const name = `${fileName(chord.symbol)}.svg`;
    sendWhole(response.attachment(name).type('image/svg+xml'), bytes);
  });
  /** The rhythm alone: in words, or as it sounds on the song's first chord. */
  router.get('/:id/pattern.txt', async (request, response) => {
    const { document } = await find(request);
    const { name, meter } = document.pattern;
    const text = `${name}, ${describeMeter(meter)}\n${say(document.pattern)}\n`;
    response
      .attachment(`${fileName(name)}.txt`)
      .type('text/plain')
      .send(text);
  });
  router.get('/:id/pattern.mid', async (request, response) => {
    const { document } = await find(request);
    const [chord = 'G'] = songChords(document).filter((symbol) => !isNoChord(symbol));
    const bytes = await compute('midi', patternAlone(document, document.pattern, [chord]));
    const name = `${fileName(document.pattern.name)}.mid`;
    sendWhole(response.attachment(name).type('audio/midi'), bytes);
  });

  for (const { id, ending, route, mediaType } of FORMATS) {
    router.get(`/:id/export.${route}`, async (request, response) => {
      const { document } = await find(request);
      const bytes = await compute(id, document);
      const name = `${fileName(document.title)}.${ending}`;
      sendWhole(response.attachment(name).type(mediaType), bytes);
    });
  }

  return { router, find };
}
