import express, { type Request, Router } from 'express';
import {
  createTakeSchema,
  LARGEST_RECORDING,
  MAX_ONSETS,
  type Song,
  takeAnswerSchema,
  takeOnsetsSchema,
  tempoSchema,
} from '#core/schema';
import { playedBars } from '#core/song';
import { checkWav, NotSound } from '#core/take';
import { takeFigures } from '#core/log';
import { fileName } from '#core/formats';
import { z } from 'zod';
import { boundedTo, jsonUpTo } from '../bounds';
import type { Compute } from '../compute/tasks';
import type { Database } from '../database';
import { check, Refusal } from '../errors';
import { addEntry, entryOf, once, stampOf, whole } from './entries';
import type { TakeRow } from '../models';
import { dropFile } from '../recordings';
import { sentTake, soundFile } from '../sentTakes';
import { summaryOfRow, takeOfRow } from '../storedTakes';
import { sendWhole } from './send';
import { takeSoundRoutes } from './takeSounds';

/** The largest recording: about six minutes of stereo, twelve of one channel. */
const LARGEST = '64mb';
/** Takes that one answer lists, the newest. */
const MAX_LISTED = 200;

const bar = z.coerce.number().pipe(z.int().min(1));
const querySchema = z.strictObject({
  tempo: z.coerce.number().pipe(tempoSchema).optional(),
  from: bar.optional(),
  to: bar.optional(),
});

function refuse(path: string, message: string): never {
  throw new Refusal(400, { error: `${path}: ${message}`, problems: [{ path, message }] });
}

/** The bytes of a WAV file; refused with what is wrong with them. */
function soundOf(body: Buffer): Uint8Array {
  try {
    checkWav(body);
  } catch (error) {
    if (!(error instanceof NotSound)) throw error;
    const message = `byte ${error.byte}: ${error.message}`;
    throw new Refusal(400, {
      error: `This is not a WAV file that can be read: ${error.message} (at byte ${error.byte}).`,
      problems: [{ path: 'body', message }],
    });
  }
  return body;
}

/** The bars that were played, from 0; refused where the song has no such bars. */
function partOf(song: Song, { from, to }: z.infer<typeof querySchema>) {
  const count = playedBars(song).length;
  if (count === 0) refuse('from', 'this song has no bars yet');
  const [first, last] = [from ?? 1, to ?? count];
  if (first > count) refuse('from', `the song has ${count} bars`);
  if (last > count) refuse('to', `the song has ${count} bars`);
  if (last < first) refuse('to', 'comes before the first bar');
  return { first: first - 1, last: last - 1 };
}

/**
 * Takes of a song: judged from their sound or their onsets without being kept, and kept as what was judged.
 * @param find the song of a request
 * @param folder the data folder, for the sound of takes; without it none is kept
 */
export function takeRoutes(
  database: Pick<Database, 'takes' | 'takeSounds' | 'entries' | 'sequelize'>,
  compute: Compute,
  find: (request: Request) => Promise<{ id: string; document: Song }>,
  folder: string | undefined,
) {
  const { takes, takeSounds, entries, sequelize } = database;
  const router = Router({ mergeParams: true });
  const isJson = (request: { headers: Record<string, unknown> }) =>
    /json/i.test(String(request.headers['content-type'] ?? ''));
  const bodies = [
    jsonUpTo('4mb', isJson),
    express.raw({ limit: LARGEST, type: (request) => !isJson(request as never) }),
    boundedTo(MAX_ONSETS),
  ];

  router.post('/judge', ...bodies, async (request: Request, response) => {
    const query = check(querySchema, request.query);
    const { document } = await find(request);
    const part = partOf(document, query);
    const song = query.tempo === undefined ? document : { ...document, tempo: query.tempo };
    const body: unknown = request.body;
    const taken = Buffer.isBuffer(body)
      ? { sound: soundOf(body) }
      : { onsets: check(takeOnsetsSchema, body ?? {}).onsets };
    const bytes = await compute('take', song, { part, ...taken });
    sendWhole(response.type('application/json'), bytes);
  });

  router.get('/', async (request: Request, response) => {
    const { id } = await find(request);
    const rows = await takes.findAll({
      attributes: { exclude: ['judgement'] },
      where: { songId: id },
      order: [['madeAt', 'DESC']],
      limit: MAX_LISTED,
    });
    const sounds = await takeSounds.findAll({ where: { songId: id } });
    const bytesOf = new Map(sounds.map(({ takeId, bytes }) => [takeId, bytes]));
    response.json(
      rows.map((row) => {
        const soundBytes = bytesOf.get(row.id);
        return { ...summaryOfRow(row), ...(soundBytes !== undefined && { soundBytes }) };
      }),
    );
  });

  router.post('/', jsonUpTo('4mb'), boundedTo(MAX_ONSETS), async (request: Request, response) => {
    const { id, document } = await find(request);
    const { id: own, madeAt, judgement, ...taken } = check(createTakeSchema, request.body);
    const { trouble, sentence } = judgement.verdict;
    const row = { ...stampOf({ id: own, madeAt }), songId: id };
    const bars = playedBars(document).length;
    const entry = entryOf({
      ...taken,
      id: row.id,
      madeAt: row.madeAt.toISOString(),
      kind: 'take',
      songId: id,
      song: document.title,
      instrument: document.instrument.name,
      rung: taken.rung ?? 'song',
      hands: taken.hands ?? 'both',
      whole: taken.from === 1 && taken.to >= bars,
      ...takeFigures(judgement, bars),
    });
    const made = await once(
      () => (own === undefined ? Promise.resolve(null) : takes.findByPk(own)),
      () =>
        whole(sequelize, async (transaction) => {
          const kept = await takes.create(
            {
              ...row,
              ...taken,
              rung: taken.rung ?? null,
              hands: taken.hands ?? null,
              answer: null,
              trouble,
              sentence,
              judgement: JSON.stringify(judgement),
            },
            { transaction },
          );
          await addEntry(database, entry, transaction);
          return kept;
        }),
    );
    if (made.kept.songId !== id) refuse('id', 'is a take of another song');
    response.status(made.isNew ? 201 : 200).json(summaryOfRow(made.kept));
  });

  const rowOf = async (request: Request) => {
    const { id } = await find(request);
    const take = z.uuid().safeParse(request.params.take);
    const row = take.success ? await takes.findOne({ where: { id: take.data, songId: id } }) : null;
    if (!row) throw new Refusal(404, { error: 'There is no such take.' });
    return row;
  };

  router.get('/:take', async (request: Request, response) => {
    response.json(readable(await rowOf(request)));
  });

  router.put('/:take/answer', jsonUpTo('64kb'), async (request: Request, response) => {
    const { answer } = check(takeAnswerSchema, request.body);
    const row = await rowOf(request);
    await row.update({ answer: answer || null });
    response.json({ answer });
  });

  // The sound of a take that is not kept is sent along, and is in the file alone.
  const sound = express.raw({ limit: LARGEST_RECORDING, type: () => true });
  router.post('/:take/file', sound, async (request: Request, response) => {
    const { document } = await find(request);
    const row = await rowOf(request);
    const brought = Buffer.isBuffer(request.body) && request.body.length > 0 ? request.body : null;
    const kept = folder ? await takeSounds.findByPk(row.id) : null;
    const bytes = await sentTake(
      document,
      readable(row),
      brought ? soundOf(brought) : kept && folder ? await soundFile(folder, kept.file) : null,
    );
    const name = `${fileName(document.title)}.take.zip`;
    sendWhole(response.attachment(name).type('application/zip'), bytes);
  });

  const readable = (row: TakeRow) => {
    const take = takeOfRow(row);
    if (!take) throw new Refusal(422, { error: 'This take cannot be read any more.' });
    return take;
  };

  router.delete('/:take', async (request: Request, response) => {
    const row = await rowOf(request);
    const sound = await takeSounds.findByPk(row.id);
    await whole(sequelize, async (transaction) => {
      await row.destroy({ transaction });
      await sound?.destroy({ transaction });
      await entries.destroy({ where: { id: row.id }, transaction });
    });
    if (sound && folder) await dropFile(folder, sound.file);
    response.status(204).end();
  });

  if (folder) router.use('/:take/sound', takeSoundRoutes(database, folder, rowOf));

  return router;
}
