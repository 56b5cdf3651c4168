import { randomUUID } from 'node:crypto';
import { type Request, Router } from 'express';
import type { Model, ModelStatic } from 'sequelize';
import { z } from 'zod';
import { check, Refusal } from '../errors';
import type { StoredRow } from '../models';

interface Kind<Row extends StoredRow<Row>, Document> {
  /** What one is called in messages. */
  noun: string;
  rows: ModelStatic<Row>;
  schema: z.ZodType<Document>;
  createSchema: z.ZodType<{ document: Document }>;
  replaceSchema: z.ZodType<{ revision: number; document: Document }>;
  /** The columns that the document is found and listed by. */
  columns: (document: Document) => Record<string, string | number>;
}

export interface Stored<Document> {
  id: string;
  revision: number;
  updatedAt: string;
  document: Document;
}

/**
 * Documents with a revision: create, read, replace, delete. A write names the revision it started
 * from; one that is no longer current is refused with the current document, in a single statement,
 * so that two writers can never both succeed.
 */
export function documentRoutes<Row extends StoredRow<Row>, Document>(kind: Kind<Row, Document>) {
  // Sequelize cannot follow a generic row; the columns are those of `StoredRow` and `columns`.
  const rows = kind.rows as unknown as ModelStatic<Model>;

  const present = (row: Model): Stored<Document> => ({
    id: row.get('id') as string,
    revision: row.get('revision') as number,
    updatedAt: (row.get('updatedAt') as Date).toISOString(),
    document: kind.schema.parse(JSON.parse(row.get('document') as string)),
  });

  const find = async (id: string): Promise<Stored<Document>> => {
    const row = await rows.findByPk(id);
    if (!row) throw new Refusal(404, { error: `There is no such ${kind.noun}.` });
    return present(row);
  };

  const columns = (document: Document) => ({
    ...kind.columns(document),
    document: JSON.stringify(document),
  });

  const idOf = (request: Request) => String(request.params.id);
  const router = Router();

  router.post('/', async (request, response) => {
    const { document } = check(kind.createSchema, request.body);
    const row = await rows.create({ id: randomUUID(), revision: 1, ...columns(document) });
    response.status(201).json(present(row));
  });

  router.get('/:id', async (request, response) => {
    response.json(await find(idOf(request)));
  });

  router.put('/:id', async (request, response) => {
    const { revision, document } = check(kind.replaceSchema, request.body);
    const id = idOf(request);
    const [changed] = await rows.update(
      { ...columns(document), revision: revision + 1 },
      { where: { id, revision } },
    );
    const current = await find(id);
    if (changed === 0) {
      throw new Refusal(409, {
        error: `This ${kind.noun} was changed elsewhere since revision ${revision}; nothing was overwritten.`,
        current,
      });
    }
    response.json(current);
  });

  router.delete('/:id', async (request, response) => {
    const removed = await rows.destroy({ where: { id: idOf(request) } });
    if (removed === 0) throw new Refusal(404, { error: `There is no such ${kind.noun}.` });
    response.status(204).end();
  });

  return { router, find, present };
}
