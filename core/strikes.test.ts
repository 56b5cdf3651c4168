import { createHash } from 'node:crypto';
import { readFileSync, writeFileSync } from 'node:fs';
import { brotliCompressSync, brotliDecompressSync } from 'node:zlib';
import { describe, expect, it } from 'vitest';
import { arrange } from './arrange';
import { songSchema } from './schema';

/**
 * Documents of version 6 as the app of then kept them, the demo songs and 498 arbitrary ones, each with what its
 * strikes were, and the shapes that its chords had by default: a document that was kept sounds as it did, whatever becomes of the words that are typed. (Of five
 * hundred, one had a note that overtook the next, which was a fault; one had a shape for another neck.)
 *
 * A rule of arranging that is changed on purpose changes some of them: then `STRIKES_MEANT=48`, with how many, writes
 * what they are now.
 */
const FILE = new URL('strikes-v6.json.br', import.meta.url);
const kept = JSON.parse(brotliDecompressSync(readFileSync(FILE)).toString()) as {
  song: unknown;
  strikes: string;
}[];

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
    expect(kept.length).toBeGreaterThan(500);
    const now = kept.map(({ song }) => ({ song, strikes: strikesOf(song) }));
    const changed = now.filter(({ strikes }, index) => strikes !== kept[index]!.strikes);
    if (process.env['STRIKES_MEANT'] === String(changed.length)) {
      writeFileSync(FILE, brotliCompressSync(JSON.stringify(now)));
    } else {
      expect(changed.map(({ song }) => now.findIndex((one) => one.song === song))).toEqual([]);
    }
  }, 120_000);
});
