/**
 * A shape taken along the neck: the fingers go together, open strings stay open and those left out stay so. The same
 * shape at fret 10 is one that begins at fret 3, taken up by seven.
 * @param frets of the strings, 0 open, null left out
 * @param by frets up the neck, or down where it is negative
 * @param highest fret of the neck
 * @returns null where a finger would leave the neck, or none is on it
 * @example moveShape([null, 3, 5, 5, 5, 3], 7, 20) // [null, 10, 12, 12, 12, 10]
 */
export function moveShape(
  frets: (number | null)[],
  by: number,
  highest: number,
): (number | null)[] | null {
  const moved = frets.map((fret) => (fret === null || fret === 0 ? fret : fret + by));
  const pressed = moved.filter((_, string) => (frets[string] ?? 0) > 0) as number[];
  if (pressed.length === 0) return null;
  return pressed.every((fret) => fret >= 1 && fret <= highest) ? moved : null;
}
