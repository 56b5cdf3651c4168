/**
 * Noise between -1 and 1 that is the same for the same seed (the mulberry32 generator), so that a
 * string sounds the same each time it is rendered.
 */
export function noise(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), state | 1);
    mixed ^= mixed + Math.imul(mixed ^ (mixed >>> 7), mixed | 61);
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 0x80000000 - 1;
  };
}
