import { createHash } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { brotliCompressSync, brotliDecompressSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { arrange } from './arrange';
import { songSchema } from './schema';

/**
 * Documents as they were kept, the demo songs and arbitrary ones: some of version 6, the others of version 9, twenty of
 * them without a sound. Each with what its strikes were: a document that was kept sounds as it did, whatever becomes
 * of the words that are typed.
 *
 * A rule of arranging that is changed on purpose changes some of them: then `STRIKES_MEANT=48`, with how many, writes
 * what they are now.
 */
const FILE = new URL('strikes-v6.json.br', import.meta.url);
const kept = JSON.parse(brotliDecompressSync(readFileSync(FILE)).toString()) as {
  song: unknown;
  strikes: string;
}[];

/** So many at the least, nine of ten of them sounding. */
const MANY = 300;

/**
 * Times to a millionth of a second: the last digits are the machine's. Parts in the order of their names: in which
 * order they were put into an object is nobody's business.
 */
const rounded = (_: string, value: unknown) => {
  if (typeof value === 'number') return Number(value.toFixed(6));
  if (value === null || typeof value !== 'object' || Array.isArray(value)) return value;
  return Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)));
};

const strikesOf = (song: unknown) => {
  const text = JSON.stringify(arrange(songSchema.parse(song)).strikes, rounded);
  return createHash('sha256').update(text).digest('base64url').slice(0, 16);
};

describe('documents of the version before', () => {
  it('are read with the same strikes', () => {
    expect(kept.length).toBeGreaterThan(MANY);
    const now = kept.map(({ song }) => ({ song, strikes: strikesOf(song) }));
    const changed = now.filter(({ strikes }, index) => strikes !== kept[index]!.strikes);
    if (process.env['STRIKES_MEANT'] === String(changed.length)) {
      writeFileSync(FILE, brotliCompressSync(JSON.stringify(now)));
    } else {
      expect(changed.map(({ song }) => now.findIndex((one) => one.song === song))).toEqual([]);
    }
  }, 120_000);
});
