import { type Request, Router } from 'express';
import type { Database } from '../database';
import { noRange, Refusal } from '../errors';
import type { TakeRow } from '../models';
import { alone, dropFile, keepFile, NoRecording, recordingsFolder } from '../recordings';

/**
 * The sound of a take, kept only where the player says so: written whole or not at all, streamed with ranges, taken
 * away alone or with its take.
 * @param folder the data folder
 * @param rowOf the take of a request
 */
export function takeSoundRoutes(
  { takeSounds }: Pick<Database, 'takeSounds'>,
  folder: string,
  rowOf: (request: Request) => Promise<TakeRow>,
) {
  const router = Router({ mergeParams: true });

  const soundOf = async (request: Request) => {
    const { id } = await rowOf(request);
    const sound = await takeSounds.findByPk(id);
    if (!sound) throw new Refusal(404, { error: 'The sound of this take was not kept.' });
    return sound;
  };

  router.put('/', async (request: Request, response) => {
    const { id, songId } = await rowOf(request);
    const { before, bytes } = await alone(id, async () => {
      const kept = await keepFile(folder, songId, request).catch((error: unknown) => {
        if (!(error instanceof NoRecording)) throw error;
        throw new Refusal(error.status, { error: error.message });
      });
      try {
        // The take may have been deleted meanwhile: then nobody would own the file.
        await rowOf(request);
        const known = await takeSounds.findByPk(id);
        await takeSounds.upsert({ takeId: id, songId, ...kept });
        return { before: known, bytes: kept.bytes };
      } catch (error) {
        await dropFile(folder, kept.file);
        throw error;
      }
    });
    if (before) await dropFile(folder, before.file);
    response.status(before ? 200 : 201).json({ bytes });
  });

  router.get('/', async (request: Request, response, next) => {
    const { file, type } = await soundOf(request);
    const headers = { 'Content-Type': type, 'Cache-Control': 'private, no-cache' };
    response.sendFile(file, { root: recordingsFolder(folder), headers }, (error) => {
      if (!error || response.headersSent) return;
      next(
        noRange(error) ??
          new Refusal(404, { error: 'The sound of this take is gone from the data folder.' }),
      );
    });
  });

  router.delete('/', async (request: Request, response) => {
    const sound = await soundOf(request);
    await sound.destroy();
    await dropFile(folder, sound.file);
    response.status(204).end();
  });

  return router;
}
