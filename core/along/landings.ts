import { type Milliseconds, modulo, type Seconds, type Ticks } from '../plain';
import type { Bar, BeatMap, HeardLanding, Placement, Section } from '../schema';
import { printProgression } from '../song';
import { barTicks, beatTicks, countNumber, EIGHTH, SIXTEENTH, strongBeats } from '../time';
import { secondsOf, tickOf, wholeBars } from './beatMap';

/** Chord changes that were heard, on the grid of the bars. */

/**
 * A press, put on the nearest slot of the grid.
 * @param seconds of the recording at which the key was pressed
 * @param late seconds by which presses of this player come after what they hear
 * @param step ticks of the grid: a sixteenth where it is left out
 * @returns its tick from the first bar line, and by how many milliseconds the press was moved
 */
export function landOn(
  map: BeatMap,
  seconds: Seconds,
  late: Seconds = 0,
  step: Ticks = SIXTEENTH,
): { tick: Ticks; moved: Milliseconds } {
  const tick = Math.round(tickOf(map, seconds - late) / step) * step;
  return { tick, moved: Math.round((secondsOf(map, tick) - seconds) * 1000) };
}

/** A press at a change that was heard. */
export interface Press {
  /** Of the recording. */
  seconds: Seconds;
  symbol: string | null;
}

/** The presses of landings, as they were pressed. */
export function pressesOf(map: BeatMap, landings: HeardLanding[]): Press[] {
  return landings.map(({ tick, moved, symbol }) => ({
    seconds: secondsOf(map, tick) - moved / 1000,
    symbol,
  }));
}

/** From so many presses on it is known by how much a player is late. */
const FEWEST_PRESSES = 4;
/** Seconds by which presses may be late, as they are tried, and how far from what was measured costs how much. */
const EARLIEST_PRESS = -0.03;
const LATEST_PRESS = 0.2;
const PRESS_STEP = 0.005;
const UNUSUAL = 0.08;
/** Seconds by which presses scatter, and what it costs to land off the beat: chords seldom change there. */
const SCATTER = 0.03;
/** What a press costs that slipped: one alone says nothing about the others. */
const SLIP = 9;
const OFF_BEAT = { beat: 0, eighth: 1, sixteenth: 3 };

/** The cheapest place for a moment: the nearest, unless one on a beat is nearly as near. */
function placeOf(map: BeatMap, seconds: Seconds): { tick: Ticks; cost: number } {
  const beat = beatTicks(map.meter);
  const near = Math.floor(tickOf(map, seconds) / SIXTEENTH) * SIXTEENTH;
  const costs = [near - SIXTEENTH, near, near + SIXTEENTH, near + 2 * SIXTEENTH].map((tick) => {
    const off = (secondsOf(map, tick) - seconds) / SCATTER;
    const kind = tick % beat === 0 ? 'beat' : tick % EIGHTH === 0 ? 'eighth' : 'sixteenth';
    return { tick, cost: Math.min(SLIP, off * off + OFF_BEAT[kind]) };
  });
  return costs.reduce((best, one) => (one.cost < best.cost ? one : best));
}

/**
 * Presses as landings. Who presses steadily late is late by the same each time: that is found from all presses
 * together, and taken off.
 * @param late seconds by which presses on this device come late, as far as that was measured
 * @returns landings in order, one a place; of two presses on one place the later counts
 * @example landPresses(map, presses, 0)[3].moved // -62: the press was late by as much
 */
export function landPresses(map: BeatMap, presses: Press[], late: Seconds = 0): HeardLanding[] {
  let own = late;
  if (presses.length >= FEWEST_PRESSES) {
    let least = Infinity;
    for (let tried = EARLIEST_PRESS; tried <= LATEST_PRESS; tried += PRESS_STEP) {
      const cost = presses.reduce(
        (sum, { seconds }) => sum + placeOf(map, seconds - tried).cost,
        ((tried - late) / UNUSUAL) ** 2,
      );
      if (cost < least) [least, own] = [cost, tried];
    }
  }
  const landed = new Map<Ticks, HeardLanding>();
  for (const { seconds, symbol } of presses) {
    const { tick } = placeOf(map, seconds - own);
    const moved = Math.round((secondsOf(map, tick) - seconds) * 1000);
    landed.set(tick, { tick, moved, symbol });
  }
  return [...landed.values()].sort((a, b) => a.tick - b.tick);
}

/**
 * Landings on an odd sixteenth whose neighbours lie on beats: a push, or a press that slipped.
 * @example oddLandings(map, landings).length // 1
 */
export function oddLandings({ meter }: BeatMap, landings: HeardLanding[]): HeardLanding[] {
  const beat = beatTicks(meter);
  const onBeat = (one: HeardLanding | undefined) => one === undefined || one.tick % beat === 0;
  return landings.filter(
    ({ tick }, at) =>
      tick % EIGHTH !== 0 &&
      landings.length > 1 &&
      onBeat(landings[at - 1]) &&
      onBeat(landings[at + 1]),
  );
}

/** Landings with some of them put on the beat that is nearest; a place that is taken already stays as it is. */
export function onBeats(
  map: BeatMap,
  landings: HeardLanding[],
  odd: HeardLanding[],
): HeardLanding[] {
  const beat = beatTicks(map.meter);
  const taken = new Set(landings.map(({ tick }) => tick));
  return landings
    .map((one) => {
      const tick = Math.round(one.tick / beat) * beat;
      if (!odd.some((other) => other.tick === one.tick) || taken.has(tick)) return one;
      const by = (secondsOf(map, tick) - secondsOf(map, one.tick)) * 1000;
      return { ...one, tick, moved: Math.round(one.moved + by) };
    })
    .sort((a, b) => a.tick - b.tick);
}

/**
 * Where on the grid a landing is, in the player's words.
 * @example placeWords(map, 4800) // 'bar 2, the & of 2'
 */
export function placeWords({ meter }: Pick<BeatMap, 'meter'>, tick: Ticks): string {
  const bar = barTicks(meter);
  const into = modulo(tick, bar) / beatTicks(meter);
  const number = countNumber(meter, Math.floor(into));
  const part = into % 1;
  const after = part === 0.5 ? 'the & of ' : part < 0.5 ? 'the e of ' : 'the a of ';
  const place = tick < 0 ? 'before the first bar' : `bar ${Math.floor(tick / bar) + 1}`;
  return `${place}, ${part === 0 ? '' : after}${number}`;
}

/** How early a change on this tick is of a strong beat, as a push: an eighth, a sixteenth, or not at all. */
function pushOf(tick: Ticks, beat: number, strong: number[], bar: number): Placement['push'] {
  for (const push of [EIGHTH, SIXTEENTH] as const) {
    const into = (tick + push) % bar;
    if (push < beat && into % beat === 0 && strong.includes(into / beat)) return push;
  }
  return 0;
}

/**
 * The bars of a song from the changes that were heard: splits where chords share a bar, pushes where one comes
 * just before a strong beat. A change that has no name yet is left out.
 * @example barsOf(map, [{ tick: 0, moved: 0, symbol: 'A' }]).length
 */
export function barsOf(map: BeatMap, landings: HeardLanding[]): Bar[] {
  const { meter } = map;
  const length = barTicks(meter);
  const beat = beatTicks(meter);
  const strong = strongBeats(meter);
  const bars: Bar[] = Array.from({ length: wholeBars(map) }, () => ({ chords: [] }));
  let before: string | null = null;
  for (const { tick, symbol } of [...landings].sort((a, b) => a.tick - b.tick)) {
    if (symbol === null || symbol === before) continue;
    const push = pushOf(tick, beat, strong, length);
    const meant = tick + push;
    const bar = bars[Math.floor(meant / length)];
    if (!bar) continue;
    const at = meant % length;
    if (bar.chords.some((chord) => chord.at === at)) continue;
    bar.chords.push({ at, push, symbol });
    before = symbol;
  }
  const last = bars.findLastIndex(({ chords }) => chords.length > 0);
  return bars.slice(0, Math.max(1, last + 1));
}

const BARS_A_LINE = 4;

/** The same as sections, four bars to a line, for a song. */
export function sectionsOf(map: BeatMap, landings: HeardLanding[], name = ''): Section[] {
  const bars = barsOf(map, landings);
  const lines = [];
  for (let from = 0; from < bars.length; from += BARS_A_LINE) {
    lines.push({ bars: bars.slice(from, from + BARS_A_LINE), times: 1 });
  }
  return [{ name, lines }];
}

/**
 * The line of text that the changes make.
 * @param begins tick of the recording at which the song does: what landed before is not of it
 */
export function lineOf(map: BeatMap, landings: HeardLanding[], begins: Ticks = 0): string {
  const own = landings.flatMap((one) => {
    const tick = one.tick - begins;
    return tick < 0 ? [] : [{ ...one, tick }];
  });
  return printProgression(sectionsOf(map, own), map.meter);
}

/**
 * Landings on a map whose beats were counted anew: each stays at its second of the recording.
 * @example carryLandings(landings, map, doublePulses(map))[1].tick // twice as far
 */
export function carryLandings(
  landings: HeardLanding[],
  before: BeatMap,
  after: BeatMap,
): HeardLanding[] {
  const carried = new Map<Ticks, HeardLanding>();
  for (const one of landings) {
    const { tick } = landOn(after, secondsOf(before, one.tick));
    if (!carried.has(tick)) carried.set(tick, { ...one, tick });
  }
  return [...carried.values()];
}
