import type { Ticks } from '../plain';
import type { Direction, Division, Meter, Pattern, PatternBeat } from '../schema';
import { beatTicks } from '../time';
import { MISS } from '../stroke';
import { strum } from './pattern';

/** One tap of the player: when, in ticks from the first beat of the pattern, and which way. */
export interface Tap {
  tick: Ticks;
  dir: Direction;
}

/** A grid that the taps may have meant. */
export interface TappedGrid {
  /** The division of each beat. */
  divisions: Division[];
  pattern: Pattern;
  /** For each slot that was tapped: how late the tap was, in ticks; early ones are negative. */
  errors: { slot: number; ticks: Ticks }[];
  /** Mean distance of the taps from their slots, in ticks. */
  spread: number;
  /** Taps that fell on a slot that was already taken, or outside the pattern. */
  dropped: number;
}

/** Divisions that taps are heard in, with how much a tap must gain, in squared shares of a beat, to want a finer one. */
const GRIDS: { division: Division; cost: number }[] = [
  { division: 1, cost: 0 },
  { division: 2, cost: 0.0015 },
  { division: 3, cost: 0.006 },
  { division: 4, cost: 0.008 },
];

const COUNTED: { division: Division; cost: number }[] = [
  { division: 1, cost: 0 },
  { division: 2, cost: 0.008 },
];

/** How badly a row of taps in one beat, as shares of the beat, fits a division. */
function misfit(shares: number[], division: number): number {
  const taken = new Set<number>();
  return shares.reduce((sum, share) => {
    const slot = Math.round(share * division);
    const error = share - slot / division;
    const clash = taken.has(slot) ? 0.05 : 0;
    taken.add(slot);
    return sum + error * error + clash;
  }, 0);
}

/**
 * Hears a tapped pattern: every beat in the division that its taps fit best, a finer one only where it
 * gains enough. The grids come likeliest first: as heard beat by beat, then the whole in one division.
 *
 * @param taps in order; a tap a little before the first beat belongs to it
 * @param base gives the meter, the arm and the name
 * @param beats how long it was tapped
 * @returns at least one grid where there is a tap; two of the same strokes are one
 * @example hearTaps([{ tick: 12, dir: 'down' }, { tick: 470, dir: 'up' }], newPattern(METERS['4/4']), 4)
 */
export function hearTaps(taps: Tap[], base: Pattern, beats: number): TappedGrid[] {
  if (taps.length === 0) return [];
  const beat = beatTicks(base.meter);
  const grids = base.meter.unit >= 8 ? COUNTED : GRIDS;
  // A tap belongs to the beat whose slots, the next number included, it is nearest to.
  const inBeat = Array.from({ length: beats }, (): number[] => []);
  for (const { tick } of taps) {
    const share = tick / beat;
    const index = Math.floor(share + 1 / 8);
    inBeat[index]?.push(share - index);
  }
  const cost = (index: number, { division, cost: extra }: (typeof GRIDS)[number]) => {
    const shares = inBeat[index]!;
    return shares.length === 0 ? extra : misfit(shares, division) + extra;
  };
  const heard = inBeat.map(
    (_, index) =>
      grids.reduce((best, grid) => (cost(index, grid) < cost(index, best) ? grid : best)).division,
  );
  const finest = evened(heard);
  const uniform = grids
    .map((grid) => ({
      divisions: inBeat.map(() => grid.division),
      cost: inBeat.reduce((sum, _, index) => sum + cost(index, grid), 0),
    }))
    .sort((a, b) => a.cost - b.cost);
  const candidates = [finest, ...uniform.map(({ divisions }) => divisions)];
  const found: TappedGrid[] = [];
  for (const divisions of candidates) {
    if (found.some((other) => other.divisions.join() === divisions.join())) continue;
    found.push(layTaps(taps, base, divisions));
  }
  return found;
}

/** Beats that were heard whole take the division that the others mostly have, where it holds them. */
function evened(heard: Division[]): Division[] {
  const counts = new Map<Division, number>();
  for (const division of heard)
    if (division > 1) counts.set(division, (counts.get(division) ?? 0) + 1);
  const [usual] = [...counts].sort((a, b) => b[1] - a[1])[0] ?? [null];
  return heard.map((division) => {
    if (usual === null) return division;
    if (division === 1) return usual;
    return division === 2 && usual === 4 ? 4 : division;
  });
}

function layTaps(taps: Tap[], base: Pattern, divisions: Division[]): TappedGrid {
  const beat = beatTicks(base.meter);
  const places = divisions.flatMap((division, index) =>
    Array.from({ length: division }, (_, position) => (index + position / division) * beat),
  );
  const hits = new Map<number, { dir: Direction; ticks: Ticks }>();
  let dropped = 0;
  for (const { tick, dir } of taps) {
    let nearest = 0;
    places.forEach((place, slot) => {
      if (Math.abs(tick - place) < Math.abs(tick - places[nearest]!)) nearest = slot;
    });
    const ticks = tick - places[nearest]!;
    if (hits.has(nearest) || Math.abs(ticks) > beat / 2) dropped += 1;
    else hits.set(nearest, { dir, ticks });
  }
  let slot = 0;
  const rows = divisions.map((division): PatternBeat => ({
    division,
    slots: Array.from({ length: division }, () => {
      const hit = hits.get(slot++);
      return hit ? strum(hit.dir) : MISS;
    }),
  }));
  const errors = [...hits]
    .map(([at, { ticks }]) => ({ slot: at, ticks }))
    .sort((a, b) => a.slot - b.slot);
  const spread =
    errors.reduce((sum, { ticks }) => sum + Math.abs(ticks), 0) / Math.max(1, errors.length);
  const { builds: _, ...rest } = base;
  return { divisions, pattern: { ...rest, beats: rows }, errors, spread, dropped };
}

/** How many bars may be tapped in. */
export function tapLengths(meter: Meter): { label: string; beats: number }[] {
  return [
    { label: '1 bar', beats: meter.beats },
    { label: '2 bars', beats: meter.beats * 2 },
  ];
}
