import { noise } from '../random';

/**
 * Deals chords in a random order to practise their changes: never the same chord twice in a row,
 * and the changes that came least often before the others, so that all come round.
 * @param seed the same seed deals the same order
 * @example shuffleChanges(['G', 'C', 'D'], 6, 1) // ['D', 'G', 'C', 'D', 'C', 'G'], say
 */
export function shuffleChanges(chords: string[], count: number, seed: number): string[] {
  const names = [...new Set(chords)];
  if (names.length < 2) return names.slice(0, count);
  const random = noise(seed);
  const pick = <T>(items: T[]) =>
    items[Math.floor(((random() + 1) / 2) * items.length) % items.length]!;
  const made = new Map<string, number>();
  const order = [pick(names)];
  while (order.length < count) {
    const last = order.at(-1)!;
    const others = names.filter((name) => name !== last);
    const times = (name: string) => made.get(`${last}>${name}`) ?? 0;
    const least = Math.min(...others.map(times));
    const next = pick(others.filter((name) => times(name) === least));
    made.set(`${last}>${next}`, least + 1);
    order.push(next);
  }
  return order;
}
