import {
  createPatternSchema,
  type Pattern,
  patternSchema,
  replacePatternSchema,
} from '#core/schema';
import { patternColumns } from '../columns';
import type { Database } from '../database';
import type { PatternRow } from '../models';
import { documentRoutes } from './documents';

export function patternRoutes({ patterns }: Database) {
  const { router, present, readable } = documentRoutes<PatternRow, Pattern>({
    noun: 'pattern',
    rows: patterns,
    schema: patternSchema,
    createSchema: createPatternSchema,
    replaceSchema: replacePatternSchema,
    nameOf: ({ name }) => name,
    columns: patternColumns,
  });

  router.get('/', async (_request, response) => {
    const good = new Set((await readable()).map(({ id }) => id));
    const rows = await patterns.findAll({ order: [['name', 'ASC']] });
    response.json(rows.filter(({ id }) => good.has(id)).map((row) => present(row)));
  });

  return router;
}
