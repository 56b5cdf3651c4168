/** One thing that was seen: what it is made of, what it came to, and how much it counts. */
export interface Observation {
  parts: ArrayLike<number>;
  value: number;
  weight?: number;
}

/**
 * How much of each part comes nearest to what was seen, in the sense of least squares (normal equations, solved
 * by elimination).
 * @param size number of parts
 * @param ridge added to the middle values: parts that cannot be told apart share their weight instead of fighting
 * @returns null where it has no answer
 * @example leastSquares(1, [{ parts: [1], value: 2 }, { parts: [1], value: 4 }], 1e-12)[0] // about 3
 */
export function leastSquares(
  size: number,
  seen: Iterable<Observation>,
  ridge: number,
): number[] | null {
  const rows = Array.from({ length: size }, () => new Float64Array(size + 1));
  for (const { parts, value, weight = 1 } of seen) {
    for (let row = 0; row < size; row += 1) {
      const target = rows[row]!;
      const share = weight * parts[row]!;
      for (let column = 0; column < size; column += 1) {
        target[column] = target[column]! + share * parts[column]!;
      }
      target[size] = target[size]! + share * value;
    }
  }
  for (let row = 0; row < size; row += 1) rows[row]![row] = rows[row]![row]! + ridge;
  for (let row = 0; row < size; row += 1) {
    const pivot = rows[row]!;
    if (Math.abs(pivot[row]!) < 1e-12) return null;
    for (let other = 0; other < size; other += 1) {
      if (other === row) continue;
      const factor = rows[other]![row]! / pivot[row]!;
      for (let column = row; column <= size; column += 1) {
        rows[other]![column] = rows[other]![column]! - factor * pivot[column]!;
      }
    }
  }
  return rows.map((row, index) => row[size]! / row[index]!);
}
