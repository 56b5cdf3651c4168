import { randomUUID } from 'node:crypto';
import { type Request, Router } from 'express';
import { literal, type Model, type ModelStatic, Op } from 'sequelize';
import { z } from 'zod';
import { DOCUMENT_VERSION, fileName, type StoredRevision, type Unreadable } from '#core';
import { check, Refusal } from '../errors';
import type { StoredRow } from '../models';

interface Kind<Row extends StoredRow<Row>, Document> {
  /** What one is called in messages, and where its routes are. */
  noun: 'song' | 'pattern';
  rows: ModelStatic<Row>;
  schema: z.ZodType<Document>;
  createSchema: z.ZodType<{ document: Document }>;
  replaceSchema: z.ZodType<{ revision: number; document: Document }>;
  /** The columns that the document is found and listed by. */
  columns: (document: Document) => Record<string, string | number>;
  /** What a row is called where its document cannot be read. */
  nameOf: (row: Row) => string;
}

export interface Stored<Document> {
  id: string;
  revision: number;
  updatedAt: string;
  document: Document;
}

const idSchema = z.uuid();
/** Documents that are read before other requests get their turn again. */
const READ_AT_ONCE = 50;

/** A document of a later version, or one that is no document at all, is never written over. */
const OVERWRITABLE = literal(
  `CASE WHEN json_valid(document) THEN json_extract(document, '$.schema') BETWEEN 1 AND ${DOCUMENT_VERSION} ELSE 0 END`,
);

/**
 * Documents with a revision: create, read, replace, delete. A write names the revision it started
 * from; one that is no longer current is refused with the current document, in a single statement,
 * so that two writers can never both succeed. A write answers with what this statement made, and
 * nothing that was read afterwards: that may be another writer's.
 */
export function documentRoutes<Row extends StoredRow<Row>, Document>(kind: Kind<Row, Document>) {
  // Sequelize cannot follow a generic row; the columns are those of `StoredRow` and `columns`.
  const rows = kind.rows as unknown as ModelStatic<Model>;

  /** The document in a row, or why it cannot be read. */
  const read = (row: Model): { document: Document } | { problem: string } => {
    const text = row.get('document') as string;
    let raw: unknown;
    try {
      raw = JSON.parse(text);
    } catch {
      return { problem: 'its text is not JSON' };
    }
    const { schema } = (raw ?? {}) as { schema?: unknown };
    if (typeof schema === 'number' && schema > DOCUMENT_VERSION) {
      return { problem: `it is of version ${schema}, which a later version of the app wrote` };
    }
    const result = kind.schema.safeParse(raw);
    if (result.success) return { document: result.data };
    const { path, message } = result.error.issues[0]!;
    return { problem: `${path.join('.')}: ${message}`.slice(0, 200) };
  };

  const stamped = (row: Model) => ({
    id: row.get('id') as string,
    revision: row.get('revision') as number,
    updatedAt: (row.get('updatedAt') as Date).toISOString(),
  });

  /** What was found of each row, until the row changes: whole lists need not be read again. */
  const looked = new Map<string, { stamp: string; problem: string | null }>();
  const stampOf = (row: Model) =>
    `${row.get('revision')} ${(row.get('updatedAt') as Date).getTime()} ${row.get('size')}`;

  /** The rows that can be read, and those that cannot with the reason. */
  const sorted = async (): Promise<{ good: Set<string>; bad: Unreadable[] }> => {
    const all = await rows.findAll({
      attributes: { exclude: ['document'], include: [[literal('length(document)'), 'size']] },
    });
    const unknown = all.filter(
      (row) => looked.get(row.get('id') as string)?.stamp !== stampOf(row),
    );
    for (let first = 0; first < unknown.length; first += READ_AT_ONCE) {
      const some = unknown.slice(first, first + READ_AT_ONCE);
      const ids = some.map((row) => row.get('id') as string);
      const whole = await rows.findAll({ attributes: ['id', 'document'], where: { id: ids } });
      const byId = new Map(whole.map((row) => [row.get('id') as string, row]));
      for (const row of some) {
        const id = row.get('id') as string;
        const found = byId.get(id);
        if (!found) continue;
        const answer = read(found);
        looked.set(id, {
          stamp: stampOf(row),
          problem: 'problem' in answer ? answer.problem : null,
        });
      }
    }
    const good = new Set<string>();
    const bad: Unreadable[] = [];
    for (const row of all) {
      const id = row.get('id') as string;
      const problem = looked.get(id)?.problem;
      if (problem === null) good.add(id);
      else if (problem !== undefined) {
        const name = kind.nameOf(row as unknown as Row);
        bad.push({ kind: kind.noun, ...stamped(row), name, problem });
      }
    }
    return { good, bad };
  };

  const rowOf = async (request: Request): Promise<Model> => {
    const id = idSchema.safeParse(request.params.id);
    const row = id.success ? await rows.findByPk(id.data) : null;
    if (!row) throw new Refusal(404, { error: `There is no such ${kind.noun}.` });
    return row;
  };

  const present = (row: Model): Stored<Document> => {
    const found = read(row);
    if ('document' in found) return { ...stamped(row), document: found.document };
    throw new Refusal(422, {
      error: `This ${kind.noun} cannot be read: ${found.problem}. It is kept as it is; its text can be saved as a file.`,
    });
  };

  const find = async (request: Request): Promise<Stored<Document>> => present(await rowOf(request));

  const columns = (document: Document) => ({
    ...kind.columns(document),
    document: JSON.stringify(document),
  });

  const router = Router();

  router.post('/', async (request, response) => {
    const { document } = check(kind.createSchema, request.body);
    const id = randomUUID();
    const row = await rows.create({ id, revision: 1, ...columns(document) });
    response.status(201).json({ ...stamped(row), document });
  });

  router.get('/unreadable', async (_request, response) => {
    response.json((await sorted()).bad);
  });

  router.get('/:id', async (request, response) => {
    response.json(await find(request));
  });

  /** The text of a document as it is kept, whether it can be read or not. */
  router.get('/:id/text', async (request, response) => {
    const row = await rowOf(request);
    const name = fileName(kind.nameOf(row as unknown as Row));
    response.attachment(`${name}.json`).type('text/plain').send(row.get('document'));
  });

  router.put('/:id', async (request, response) => {
    const { revision, document } = check(kind.replaceSchema, request.body);
    const id = idSchema.safeParse(request.params.id).data ?? '';
    const updatedAt = new Date();
    const [changed] = await rows.update(
      { ...columns(document), revision: revision + 1, updatedAt },
      { where: { [Op.and]: [{ id, revision }, OVERWRITABLE] }, silent: true },
    );
    if (changed === 0) {
      throw new Refusal(409, {
        error: `This ${kind.noun} was changed elsewhere since revision ${revision}; nothing was overwritten.`,
        current: await find(request),
      });
    }
    const written: StoredRevision = {
      id,
      revision: revision + 1,
      updatedAt: updatedAt.toISOString(),
    };
    response.json(written);
  });

  router.delete('/:id', async (request, response) => {
    await (await rowOf(request)).destroy();
    response.status(204).end();
  });

  return { router, find, present, sorted };
}
