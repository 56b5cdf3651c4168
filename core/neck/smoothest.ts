import type { Shape } from '../schema';
import { fingerChange } from './fingers';
import type { RankedShape } from './search';

/** A chord of the song with the shapes to choose from; a locked one offers just its own. */
export interface ShapeChoice {
  symbol: string;
  shapes: RankedShape[];
}

/** One change of the song, with what it costs before and after. */
export interface ChangeSaving {
  from: string;
  to: string;
  /** How often the song makes it. */
  times: number;
  before: number;
  after: number;
}

/** A chord in one of its shapes. */
interface Held {
  symbol: string;
  shape: Shape;
}

export interface SmoothestSet {
  /** The chosen shape of every chord. */
  shapes: Map<string, RankedShape>;
  before: number;
  after: number;
  changes: ChangeSaving[];
  /** False where the search was cut short and a better set may exist. */
  exact: boolean;
}

/** Shapes of one chord that are tried, each with all its fingerings. */
const TRIED = 7;
const MAX_STEPS = 800_000;
/** How much a shape's own difficulty counts beside one change into it. */
const HOLDING = 0.6;

/**
 * Chooses one shape for every chord so that all the changes of the song, repeats included, ask for
 * the least movement. A chord keeps one shape throughout, since that is how songs are learnt and
 * written down; so this is not a path through the changes one by one but a choice for all of them
 * together. It is made by branch and bound, from the best of a quick descent: exactly, unless the steps run
 * out, and then it says so.
 *
 * @param choices the chords with their shapes, first choice first
 * @param sequence the chords in the order in which they come
 * @param costOf what one change costs, where it is not how much the hand moves
 * @example smoothestSet(choices, ['G', 'C', 'D', 'G']).after
 */
export function smoothestSet(
  choices: ShapeChoice[],
  sequence: string[],
  costOf: (from: Held, to: Held) => number = (from, to) => fingerChange(from.shape, to.shape).cost,
): SmoothestSet {
  const chords = choices.filter(({ shapes }) => shapes.length > 0);
  const offers = chords.map(({ shapes }) => {
    const full = shapes.filter((shape) => asFull(shape, shapes[0]!));
    const frets = [...new Set(full.map((shape) => String(shape.frets)))].slice(0, TRIED);
    return full.filter((shape) => frets.includes(String(shape.frets)));
  });
  const place = new Map(chords.map(({ symbol }, index) => [symbol, index]));
  const counted = countChanges(sequence, place);
  const visits = chords.map(({ symbol }) => sequence.filter((name) => name === symbol).length);

  // costs[pair][i][j]: the change between shape i of one chord and shape j of the other, all times.
  const pairs = counted.map(({ from, to, times }) => ({
    from,
    to,
    times,
    costs: offers[from]!.map((a) =>
      offers[to]!.map(
        (b) =>
          costOf(
            { symbol: chords[from]!.symbol, shape: a },
            { symbol: chords[to]!.symbol, shape: b },
          ) * times,
      ),
    ),
  }));
  const holding = offers.map((shapes, chord) =>
    shapes.map((shape) => shape.difficulty * HOLDING * visits[chord]!),
  );
  const total = (chosen: number[]) =>
    pairs.reduce((sum, { from, to, costs }) => sum + costs[chosen[from]!]![chosen[to]!]!, 0) +
    holding.reduce((sum, costs, chord) => sum + costs[chosen[chord]!]!, 0);

  const first = chords.map(() => 0);
  const start = descend(first, offers, total);
  const { chosen, exact } = bound(start, total(start), offers, pairs, holding);

  const movement = (picked: number[]) =>
    pairs.map(({ from, to, times, costs }) => ({
      from: chords[from]!.symbol,
      to: chords[to]!.symbol,
      times,
      cost: costs[picked[from]!]![picked[to]!]! / times,
    }));
  const [before, after] = [movement(first), movement(chosen)];
  const sum = (list: { cost: number; times: number }[]) =>
    Number(list.reduce((all, { cost, times }) => all + cost * times, 0).toFixed(1));
  return {
    shapes: new Map(chords.map(({ symbol }, index) => [symbol, offers[index]![chosen[index]!]!])),
    before: sum(before),
    after: sum(after),
    changes: before.map(({ from, to, times, cost }, index) => ({
      from,
      to,
      times,
      before: Number(cost.toFixed(1)),
      after: Number(after[index]!.cost.toFixed(1)),
    })),
    exact,
  };
}

/**
 * True where a shape is as much of the chord as another: at most one string fewer, and none muted
 * between sounding ones where the other has none. Smoothness that is bought with thin chords is none.
 */
function asFull(shape: Shape, first: Shape): boolean {
  const sounding = ({ frets }: Shape) => frets.filter((fret) => fret !== null).length;
  const inner = ({ frets }: Shape) => {
    const open = frets.map((fret) => fret !== null);
    return frets.slice(open.indexOf(true), open.lastIndexOf(true)).filter((fret) => fret === null)
      .length;
  };
  return sounding(shape) >= sounding(first) - 1 && inner(shape) <= inner(first);
}

function countChanges(sequence: string[], place: Map<string, number>) {
  const counts = new Map<string, { from: number; to: number; times: number }>();
  sequence.slice(1).forEach((symbol, index) => {
    const from = place.get(sequence[index]!);
    const to = place.get(symbol);
    if (from === undefined || to === undefined || from === to) return;
    const key = `${from}>${to}`;
    const known = counts.get(key) ?? { from, to, times: 0 };
    known.times += 1;
    counts.set(key, known);
  });
  return [...counts.values()];
}

/** Changes one chord at a time for the better until none is left. */
function descend(
  start: number[],
  offers: Shape[][],
  total: (chosen: number[]) => number,
): number[] {
  let chosen = [...start];
  let best = total(chosen);
  for (let better = true; better;) {
    better = false;
    for (let chord = 0; chord < offers.length; chord += 1) {
      for (let shape = 0; shape < offers[chord]!.length; shape += 1) {
        const tried = chosen.with(chord, shape);
        const cost = total(tried);
        if (cost < best - 1e-9) {
          best = cost;
          chosen = tried;
          better = true;
        }
      }
    }
  }
  return chosen;
}

interface Pair {
  from: number;
  to: number;
  costs: number[][];
}

/** Finds the cheapest choice of all, or the best within the steps allowed. */
function bound(
  start: number[],
  startCost: number,
  offers: Shape[][],
  pairs: Pair[],
  holding: number[][],
): { chosen: number[]; exact: boolean } {
  // The busiest chords first: they settle the most.
  const busy = (chord: number) =>
    pairs.filter(({ from, to }) => from === chord || to === chord).length;
  const order = offers.map((_, chord) => chord).sort((a, b) => busy(b) - busy(a));
  const rank = order.reduce<number[]>(
    (ranks, chord, at) => ranks.with(chord, at),
    offers.map(() => 0),
  );
  // What each chord adds once it and an earlier one are chosen, and the least that the rest can cost.
  const settled = order.map((chord, at) =>
    pairs.filter(
      ({ from, to }) => Math.max(rank[from]!, rank[to]!) === at && (from === chord || to === chord),
    ),
  );
  const least = order.map(
    (chord, at) =>
      Math.min(...holding[chord]!) +
      settled[at]!.reduce((sum, { costs }) => sum + Math.min(...costs.flat()), 0),
  );
  const rest = [...order.keys()].map((at) => least.slice(at).reduce((sum, cost) => sum + cost, 0));

  let best = startCost;
  let chosen = start;
  let steps = 0;
  const now = [...start];
  const visit = (at: number, cost: number): void => {
    if (at === order.length) {
      if (cost < best - 1e-9) {
        best = cost;
        chosen = [...now];
      }
      return;
    }
    const chord = order[at]!;
    for (let shape = 0; shape < offers[chord]!.length; shape += 1) {
      steps += 1;
      if (steps > MAX_STEPS) return;
      now[chord] = shape;
      const added = settled[at]!.reduce(
        (sum, { from, to, costs }) => sum + costs[now[from]!]![now[to]!]!,
        holding[chord]![shape]!,
      );
      const reached = cost + added;
      if (reached + (rest[at + 1] ?? 0) < best - 1e-9) visit(at + 1, reached);
    }
  };
  visit(0, 0);
  return { chosen, exact: steps <= MAX_STEPS };
}
