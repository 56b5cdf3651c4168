import {
  createSongSchema,
  fileName,
  FORMATS,
  meterName,
  replaceSongSchema,
  type Song,
  songSchema,
  type SongSummary,
} from '#core';
import type { Compute } from '../compute/tasks';
import type { Database } from '../database';
import type { SongRow } from '../models';
import { timingsOn } from './changeTimes';
import { documentRoutes, type Listed } from './documents';
import { sendWhole } from './send';

export function songRoutes(database: Database, compute: Compute) {
  const { router, find, readable } = documentRoutes<SongRow, Song>({
    noun: 'song',
    rows: database.songs,
    schema: songSchema,
    createSchema: createSongSchema,
    replaceSchema: replaceSongSchema,
    nameOf: ({ title }) => title,
    columns: ({ title, instrument, meter, tempo }) => ({
      title,
      instrument: instrument.name,
      meter: meterName(meter),
      tempo,
    }),
  });

  router.get('/', async (_request, response) => {
    const rows = (await readable()) as (Listed & Omit<SongSummary, 'updatedAt'>)[];
    const list = rows.map(
      ({ id, revision, updatedAt, title, instrument, meter, tempo }): SongSummary => ({
        id,
        revision,
        updatedAt: new Date(updatedAt).toISOString(),
        title,
        instrument,
        meter,
        tempo,
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
