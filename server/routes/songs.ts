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
import { documentRoutes } from './documents';

export function songRoutes({ songs }: Database, compute: Compute) {
  const { router, find, sorted } = documentRoutes<SongRow, Song>({
    noun: 'song',
    rows: songs,
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
    const { good } = await sorted();
    const rows = await songs.findAll({
      attributes: ['id', 'revision', 'title', 'instrument', 'meter', 'tempo', 'updatedAt'],
      order: [['title', 'ASC']],
    });
    const list: SongSummary[] = rows
      .filter(({ id }) => good.has(id))
      .map((row) => ({
        id: row.id,
        revision: row.revision,
        updatedAt: row.updatedAt.toISOString(),
        title: row.title,
        instrument: row.instrument,
        meter: row.meter,
        tempo: row.tempo,
      }));
    response.json(list);
  });

  router.get('/:id/performance', async (request, response) => {
    const { document } = await find(request);
    response.type('application/json').send(await compute('performance', document));
  });

  for (const { id, ending, route, mediaType } of FORMATS) {
    router.get(`/:id/export.${route}`, async (request, response) => {
      const { document } = await find(request);
      const file = await compute(id, document);
      response
        .attachment(`${fileName(document.title)}.${ending}`)
        .type(mediaType)
        .send(typeof file === 'string' ? file : Buffer.from(file));
    });
  }

  return router;
}
