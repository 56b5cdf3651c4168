import {
  createPatternSchema,
  meterName,
  type Pattern,
  patternSchema,
  replacePatternSchema,
} from '#core';
import type { Database } from '../database';
import type { PatternRow } from '../models';
import { documentRoutes } from './documents';

export function patternRoutes({ patterns }: Database) {
  const { router, present } = documentRoutes<PatternRow, Pattern>({
    noun: 'pattern',
    rows: patterns,
    schema: patternSchema,
    createSchema: createPatternSchema,
    replaceSchema: replacePatternSchema,
    columns: ({ name, meter }) => ({ name, meter: meterName(meter) }),
  });

  router.get('/', async (_request, response) => {
    const rows = await patterns.findAll({ order: [['name', 'ASC']] });
    response.json(rows.map((row) => present(row)));
  });

  return router;
}
