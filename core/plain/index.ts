/** Plain arithmetic and words that every room needs and no package of ours brings. */

/**
 * What is left over, never below zero.
 * @param by above zero
 * @example modulo(-1, 12) // 11
 */
export function modulo(value: number, by: number): number {
  return ((value % by) + by) % by;
}

/**
 * A count with its word; fractions to two places.
 * @param many where it is not the one with an s
 * @example plural(1, 'bar') // '1 bar'
 * @example plural(2.5, 'beat') // '2.5 beats'
 */
export function plural(count: number, one: string, many = `${one}s`): string {
  return `${Number(count.toFixed(2))} ${count === 1 ? one : many}`;
}
