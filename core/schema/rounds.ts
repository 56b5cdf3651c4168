/** Which time round a section is when it is played, from 1, and whether it is the last one. */
export interface Round {
  time: number;
  last: boolean;
}

/** Over what times round are counted: each passage by itself (the usual), or the whole song. */
export type RoundsOver = 'song' | undefined;

/**
 * Which time round each of the sections is that are played one after the other, as players read "1st time" and "last
 * time": within each passage that comes several times in a row. A passage that is shorter than the longest of its
 * section ends on the last time round too, as a repeat that is not taken does in print. A section that never comes
 * twice in a row is counted over the whole song, as verses with a chorus between them are.
 *
 * @param played the sections in the order of playing, each by anything that names it
 * @param over `'song'` where every section is counted over the whole song
 * @example roundsOf(['V', 'V', 'C', 'V', 'V']).map(({ time }) => time) // [1, 2, 1, 1, 2]
 * @example roundsOf(['V', 'C', 'V']).map(({ time }) => time) // [1, 1, 2]
 */
export function roundsOf(played: unknown[], over?: RoundsOver): Round[] {
  const all = new Map<unknown, number>();
  const longest = new Map<unknown, number>();
  const places = played.map((one, at) => {
    all.set(one, (all.get(one) ?? 0) + 1);
    return { one, place: all.get(one)!, from: at };
  });
  for (let from = 0; from < played.length;) {
    let to = from + 1;
    while (to < played.length && played[to] === played[from]) to += 1;
    for (let at = from; at < to; at += 1) places[at]!.from = from;
    longest.set(played[from], Math.max(longest.get(played[from]) ?? 0, to - from));
    from = to;
  }
  return places.map(({ one, place, from }, at) => {
    const most = longest.get(one)!;
    if (over === 'song' || most === 1) return { time: place, last: place === all.get(one) };
    const last = played[at + 1] !== one;
    return { time: last ? most : at - from + 1, last };
  });
}
