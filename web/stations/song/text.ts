import { nearestChords } from '#core/neck';

/** Sentences of the song that hang on what is written, each of them whole. */
export const text = {
  /** @example text.noChord('Hm') // '“Hm” is not a chord we know; Am, Bm?' */
  noChord(symbol: string): string {
    const near = nearestChords(symbol);
    return near.length > 0
      ? `“${symbol}” is not a chord we know; ${near.join(', ')}?`
      : `“${symbol}” is not a chord we know.`;
  },
};
