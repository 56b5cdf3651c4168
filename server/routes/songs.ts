import {
  createSongSchema,
  fileName,
  meterName,
  replaceSongSchema,
  type Song,
  type SongSummary,
  songSchema,
} from '#core';
import type { Compute, TaskName } from '../compute/tasks';
import type { Database } from '../database';
import type { SongRow } from '../models';
import { documentRoutes } from './documents';

/** Files of a song, each with its ending, its media type, and what works it out. */
const FILES: { ending: string; type: string; task: TaskName }[] = [
  { ending: 'mid', type: 'audio/midi', task: 'midi' },
  { ending: 'musicxml', type: 'application/vnd.recordare.musicxml+xml', task: 'musicxml' },
];

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

  for (const { ending, type, task } of FILES) {
    router.get(`/:id/export.${ending}`, async (request, response) => {
      const { document } = await find(request);
      const file = await compute(task, document);
      response
        .type(type)
        .attachment(`${fileName(document.title)}.${ending}`)
        .send(typeof file === 'string' ? file : Buffer.from(file));
    });
  }

  return router;
}
