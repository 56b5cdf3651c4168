import {
  arrange,
  createSongSchema,
  fileName,
  meterName,
  replaceSongSchema,
  type Song,
  type SongSummary,
  songSchema,
  toMidi,
  toMusicXml,
} from '#core';
import type { Database } from '../database';
import type { SongRow } from '../models';
import { documentRoutes } from './documents';

export function songRoutes({ songs }: Database) {
  const { router, find } = documentRoutes<SongRow, Song>({
    noun: 'song',
    rows: songs,
    schema: songSchema,
    createSchema: createSongSchema,
    replaceSchema: replaceSongSchema,
    columns: ({ title, instrument, meter, tempo }) => ({
      title,
      instrument: instrument.name,
      meter: meterName(meter),
      tempo,
    }),
  });

  router.get('/', async (_request, response) => {
    const rows = await songs.findAll({
      attributes: ['id', 'revision', 'title', 'instrument', 'meter', 'tempo', 'updatedAt'],
      order: [['title', 'ASC']],
    });
    const list: SongSummary[] = rows.map((row) => ({
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
    const { document } = await find(request.params.id);
    response.json(arrange(document));
  });

  router.get('/:id/export.mid', async (request, response) => {
    const { document } = await find(request.params.id);
    response
      .type('audio/midi')
      .attachment(`${fileName(document.title)}.mid`)
      .send(Buffer.from(toMidi(document)));
  });

  router.get('/:id/export.musicxml', async (request, response) => {
    const { document } = await find(request.params.id);
    response
      .type('application/vnd.recordare.musicxml+xml')
      .attachment(`${fileName(document.title)}.musicxml`)
      .send(toMusicXml(document));
  });

  return router;
}
