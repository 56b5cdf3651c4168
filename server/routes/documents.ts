import { randomUUID } from 'node:crypto';
import { type Request, Router } from 'express';
import { literal, type Model, type ModelStatic, Op } from 'sequelize';
import { z } from 'zod';
import { DOCUMENT_VERSION, type StoredRevision, type Unreadable } from '#core/schema';
import { fileName } from '#core/formats';
import { check, Refusal } from '../errors';
import type { StoredRow } from '../models';

interface Kind<Row extends StoredRow<Row>, Document> {
  /** What one is called in messages, and where its routes are. */
  noun: 'song' | 'pattern';
  rows: ModelStatic<Row>;
  schema: z.ZodType<Document>;
  createSchema: z.ZodType<{
    document: Document;
    was?: { id: string; revision: number } | undefined;
  }>;
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
const READ_AT_ONCE = 10;

/** The columns of a row, but for its document. */
export interface Listed {
  id: string;
  revision: number;
  /** As the database has it: text or a date. */
  updatedAt: string | Date;
  /** Letters of its document. */
  size: number;
}

/** The version that a document says it is of; null where its text is not JSON. */
const VERSION = `CASE WHEN json_valid(document) THEN coalesce(json_extract(document, '$.schema'), 0) END`;

function versionProblem(version: number | null): string | null {
  if (version === null) return 'its text is not JSON';
  if (version > DOCUMENT_VERSION) {
    return `it is of version ${version}, which a later version of the app wrote`;
  }
  return version >= 1 ? null : 'it is no document of this app';
}

/** A document of a later version, or one that is no document at all, is never written over. */
const OVERWRITABLE = literal(`coalesce((${VERSION}) BETWEEN 1 AND ${DOCUMENT_VERSION}, 0)`);

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
    const later = typeof schema === 'number' ? versionProblem(schema) : null;
    if (later) return { problem: later };
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
  const looked = new Map<string, { stamp: string; problem: string | null; whole: boolean }>();
  const stampOf = (row: Listed) => `${row.revision} ${String(row.updatedAt)} ${row.size}`;

  /** All rows but for their documents; of those that are new, the version is asked of the database. */
  const listed = async (): Promise<Listed[]> => {
    const all = (await rows.findAll({
      attributes: { exclude: ['document'], include: [[literal('length(document)'), 'size']] },
      raw: true,
    })) as unknown as Listed[];
    const unknown = all.filter((row) => looked.get(row.id)?.stamp !== stampOf(row));
    if (unknown.length === 0) return all;
    const versions = (await rows.findAll({
      attributes: ['id', [literal(VERSION), 'version']],
      ...(unknown.length < all.length && { where: { id: unknown.map(({ id }) => id) } }),
      raw: true,
    })) as unknown as { id: string; version: number | null }[];
    const byId = new Map(versions.map(({ id, version }) => [id, version]));
    for (const row of unknown) {
      const problem = versionProblem(byId.get(row.id) ?? null);
      looked.set(row.id, { stamp: stampOf(row), problem, whole: problem !== null });
    }
    return all;
  };

  /** Reads the documents that were only asked for their version, a few at a time; one reader is enough. */
  let reading: Promise<void> = Promise.resolve();
  const readWhole = (all: Listed[]): Promise<void> => {
    reading = reading.catch(() => undefined).then(() => readWaiting(all));
    return reading;
  };
  const readWaiting = async (all: Listed[]): Promise<void> => {
    const waiting = all.filter(({ id }) => looked.get(id)?.whole === false);
    for (let first = 0; first < waiting.length; first += READ_AT_ONCE) {
      const ids = waiting.slice(first, first + READ_AT_ONCE).map(({ id }) => id);
      const some = await rows.findAll({ attributes: ['id', 'document'], where: { id: ids } });
      for (const row of some) {
        const known = looked.get(row.get('id') as string);
        const found = read(row);
        if (known) {
          known.problem = 'problem' in found ? found.problem : null;
          known.whole = true;
        }
      }
      await new Promise((resolve) => setImmediate(resolve));
    }
  };

  /** The rows that can be read; those not read before are taken at their word, and read right after. */
  const readable = async (): Promise<Listed[]> => {
    const all = await listed();
    void readWhole(all).catch(() => undefined);
    return all.filter(({ id }) => looked.get(id)?.problem === null);
  };

  /** The rows that cannot be read, each with the reason. */
  const unreadable = async (): Promise<Unreadable[]> => {
    const all = await listed();
    await readWhole(all);
    return all.flatMap((row) => {
      const problem = looked.get(row.id)?.problem;
      if (problem == null) return [];
      const { id, revision } = row;
      const updatedAt = new Date(row.updatedAt).toISOString();
      const name = kind.nameOf(row as unknown as Row);
      return [{ kind: kind.noun, id, revision, updatedAt, name, problem }];
    });
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
    const { document, was } = check(kind.createSchema, request.body);
    if (was && (await rows.findByPk(was.id))) {
      throw new Refusal(409, { error: `This ${kind.noun} is on the shelf already.` });
    }
    const [id, revision] = was ? [was.id, was.revision + 1] : [randomUUID(), 1];
    const row = await rows.create({ id, revision, ...columns(document) });
    response.status(201).json({ ...stamped(row), document });
  });

  router.get('/unreadable', async (_request, response) => {
    response.json(await unreadable());
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

  return { router, find, present, readable };
}
