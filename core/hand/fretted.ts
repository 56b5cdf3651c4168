import { type FrettedChord, fretChord, type FretOptions } from '../neck';

/** Chords under the hand by their symbol, each worked out once; null for one without a shape. */
export function fretted(options: FretOptions): (symbol: string) => FrettedChord | null {
  const known = new Map<string, FrettedChord | null>();
  return (symbol) => {
    if (!known.has(symbol)) known.set(symbol, fretChord(symbol, options));
    return known.get(symbol)!;
  };
}
