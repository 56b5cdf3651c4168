import { randomUUID } from 'node:crypto';
import { Router } from 'express';
import { z } from 'zod';
import { createInstrumentSchema, type OwnInstrument, ownInstrumentSchema } from '#core/schema';
import type { Database } from '../database';
import { check, Refusal } from '../errors';

/** More instruments than anybody has. */
const MOST = 200;

/** Instruments of the player's own: listed by name, kept, taken away. Songs keep theirs whatever happens here. */
export function instrumentRoutes({ instruments }: Pick<Database, 'instruments'>) {
  const router = Router();

  router.get('/', async (_request, response) => {
    const rows = await instruments.findAll({ order: [['name', 'ASC']], limit: MOST });
    response.json(
      rows.flatMap(({ id, instrument }): OwnInstrument[] => {
        const read = ownInstrumentSchema.safeParse({
          id,
          instrument: JSON.parse(instrument) as unknown,
        });
        return read.success ? [read.data] : [];
      }),
    );
  });

  router.post('/', async (request, response) => {
    const { instrument } = check(createInstrumentSchema, request.body);
    if ((await instruments.count()) >= MOST) {
      throw new Refusal(400, { error: `${MOST} instruments are the most; take one away first.` });
    }
    const id = randomUUID();
    await instruments.create({ id, name: instrument.name, instrument: JSON.stringify(instrument) });
    response.status(201).json({ id, instrument });
  });

  router.delete('/:id', async (request, response) => {
    const id = z.uuid().safeParse(request.params.id);
    const gone = id.success ? await instruments.destroy({ where: { id: id.data } }) : 0;
    if (gone === 0) throw new Refusal(404, { error: 'There is no such instrument.' });
    response.status(204).end();
  });

  return router;
}
