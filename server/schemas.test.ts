import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import {
  archiveSettingsSchema,
  changeEntrySchema,
  createChangeTimeSchema,
  createInstrumentSchema,
  createPatternSchema,
  createSongSchema,
  createTakeSchema,
  entrySchema,
  newEntrySchema,
  recordingMapSchema,
  replacePatternSchema,
  replaceSongSchema,
  sentTakeSchema,
  storedPatternSchema,
  storedSongSchema,
  storedTakeSchema,
  takeAnswerSchema,
  takeOnsetsSchema,
} from '#core/schema';

const OF_REQUESTS = {
  archiveSettingsSchema,
  changeEntrySchema,
  createChangeTimeSchema,
  createInstrumentSchema,
  createPatternSchema,
  createSongSchema,
  createTakeSchema,
  entrySchema,
  newEntrySchema,
  recordingMapSchema,
  replacePatternSchema,
  replaceSongSchema,
  sentTakeSchema,
  storedPatternSchema,
  storedSongSchema,
  storedTakeSchema,
  takeAnswerSchema,
  takeOnsetsSchema,
};

/** What Zod keeps of a schema, as far as it is looked at here. */
interface Def {
  type: string;
  checks?: { _zod: { def: { check: string } } }[];
  check?: string;
  format?: string;
  [part: string]: unknown;
}
/** Formats whose texts are short by themselves. */
const SHORT = ['uuid', 'date', 'datetime', 'guid'];

/** Lists and texts of a schema that have no end. */
function unbounded(schema: z.ZodType, path: string, seen: Set<unknown>): string[] {
  if (seen.has(schema)) return [];
  seen.add(schema);
  const def = (schema as unknown as { _zod: { def: Def } })._zod.def;
  const checks = (def.checks ?? []).map((one) => one._zod.def.check);
  const ends = checks.some((one) => ['max_length', 'length_equals'].includes(one));
  const patterned = checks.includes('string_format');
  const own =
    (def.type === 'array' && !ends) ||
    (def.type === 'string' && !ends && !patterned && !SHORT.includes(def.format ?? ''));
  const inner = (value: unknown, at: string): string[] => {
    if (value === null || typeof value !== 'object') return [];
    if ('_zod' in value) return unbounded(value as z.ZodType, at, seen);
    if (Array.isArray(value)) return value.flatMap((one, index) => inner(one, `${at}/${index}`));
    return [];
  };
  const shape = def.type === 'object' ? (def.shape as Record<string, z.ZodType>) : {};
  return [
    ...(own ? [`${path} (${def.type})`] : []),
    ...Object.entries(shape).flatMap(([name, one]) => unbounded(one, `${path}.${name}`, seen)),
    ...[
      'element',
      'innerType',
      'in',
      'out',
      'options',
      'items',
      'keyType',
      'valueType',
      'left',
      'right',
    ].flatMap((part) => inner(def[part], path)),
  ];
}

describe('schemas of requests', () => {
  it('are looked through to the last text', () => {
    const open = z.strictObject({
      a: z.array(z.union([z.int(), z.string()])),
      b: z.string().max(3),
    });
    const found = unbounded(open.optional(), 'open', new Set());
    expect(found).toEqual(['open.a (array)', 'open.a/1 (string)']);
  });

  it.each(Object.entries(OF_REQUESTS))(
    '%s has no list and no text without an end',
    (name, schema) => {
      expect(unbounded(schema, name, new Set())).toEqual([]);
    },
  );
});
