import type { Ticks } from '../plain';
import type { FrettedChord, BassRun } from '../neck';
import type { Bar, Meter, Pattern, Song } from '../schema';
import { patternTicks } from '../stroke';
import { barTicks, secondsPerTick } from '../time';
import { arrange, type Arrangement } from './arrange';
import { evenBars } from './click';
import type { Performance, Strike } from './performance';

/** Something to hear outside a song: a strum of a chord, or one note of it. */
export interface PreviewStep {
  tick: Ticks;
  held: FrettedChord;
  /** One note in place of the strum. */
  note?: { string: number; fret: number; midi: number };
}

const RAKE = 0.012;

/**
 * A performance of single steps, for hearing a shape, a bass run or a round of changes.
 * @param ticks length of the whole
 * @example previewSteps([{ tick: 0, held }], 3840, 80, METERS['4/4']).strikes[0].kind // 'strum'
 */
export function previewSteps(
  steps: PreviewStep[],
  ticks: Ticks,
  tempo: number,
  meter: Meter,
): Performance {
  const perTick = secondsPerTick(tempo, meter);
  const strikes = steps.map(({ tick, held, note }, slot): Strike => {
    const strings = note
      ? [note]
      : held.pitches.flatMap((midi, string) =>
          midi === null ? [] : [{ midi, string, fret: held.shape.frets[string]! }],
        );
    return {
      kind: note ? 'bass' : 'strum',
      dir: 'down',
      accent: 'normal',
      tick,
      ticks: 0,
      late: 0,
      seconds: tick * perTick,
      bar: 0,
      slot,
      chord: held.symbol,
      landing: !note,
      transition: false,
      run: false,
      palm: false,
      flesh: false,
      tap: null,
      velocity: 0.7,
      notes: strings.map((string, order) => ({ ...string, delay: order * RAKE, velocity: 0.7 })),
      damps: [],
    };
  });
  const landings = steps
    .filter(({ note }, index) => !note && index > 0)
    .map(({ tick, held }) => ({ tick, symbol: held.symbol, push: 0, late: 0 }));
  return {
    tempo,
    ticks,
    seconds: ticks * perTick,
    tail: 0,
    bars: evenBars(meter, ticks),
    feels: [],
    landings,
    strikes,
    leftOut: [],
    lostRuns: [],
    silent: [],
  };
}

/**
 * A bass run in its place: a bar of the chord before, the run in its last notes, the chord it lands on.
 * @param noteTicks length of each note of the run
 */
export function previewRun(
  from: FrettedChord,
  to: FrettedChord,
  run: BassRun,
  noteTicks: Ticks,
  tempo: number,
  meter: Meter,
): Performance {
  const bar = barTicks(meter);
  const begin = bar - run.notes.length * noteTicks;
  return previewSteps(
    [
      { tick: 0, held: from, note: from.bass },
      { tick: Math.min(noteTicks, begin), held: from },
      ...run.notes.map((note, index) => ({ tick: begin + index * noteTicks, held: from, note })),
      { tick: bar, held: to, note: to.bass },
      { tick: bar + noteTicks, held: to },
    ],
    bar * 2,
    tempo,
    meter,
  );
}

/**
 * Some bars of a song alone, for hearing a place of it.
 * @param first and last bar as they are played, from 0
 * @example previewBars(arrangement(song), 2, 3).ticks // 7680
 */
export function previewBars(
  { bars, performance }: Pick<Arrangement, 'bars' | 'performance'>,
  first: number,
  last: number,
): Performance {
  const [start, end] = [bars[first]!, bars[last]!];
  const from = start.tick;
  const to = end.tick + end.ticks;
  const perTick = performance.ticks > 0 ? performance.seconds / performance.ticks : 0;
  const inside = ({ tick }: { tick: Ticks }) => tick >= from && tick < to;
  const moved = <T extends { tick: Ticks }>(one: T): T => ({ ...one, tick: one.tick - from });
  const feel = performance.feels.findLast(({ tick }) => tick <= from);
  return {
    ...performance,
    ticks: to - from,
    seconds: (to - from) * perTick,
    tail: 0,
    bars: performance.bars.slice(first, last + 1).map(moved),
    feels: [
      ...(feel ? [{ ...feel, tick: 0 }] : []),
      ...performance.feels.filter(({ tick }) => tick > from && tick < to).map(moved),
    ],
    landings: performance.landings.filter(inside).map(moved),
    strikes: performance.strikes.filter(inside).map((strike) => ({
      ...moved(strike),
      bar: strike.bar - first,
      seconds: strike.seconds - from * perTick,
    })),
    leftOut: [],
    lostRuns: [],
    silent: [],
  };
}

/**
 * A pattern alone, once round on one chord of the song, for hearing a variation or a pattern of the shelf.
 * @param symbol the chord; only percussion and open strings sound without one
 * @example previewPattern(song, fuller(song.pattern), 'G').ticks // one bar
 */
export function previewPattern(song: Song, pattern: Pattern, symbol: string | null): Performance {
  const ticks = patternTicks(pattern);
  const rest: Bar = { chords: [] };
  const first: Bar = { chords: symbol === null ? [] : [{ at: 0, push: 0, symbol }] };
  const bars = Math.ceil(ticks / barTicks(pattern.meter));
  const line = { bars: [first, ...Array.from({ length: bars - 1 }, () => rest)], times: 1 };
  const { meter } = pattern;
  const { chordPatterns: _, split: __, openStrokes: ___, ...plain } = song;
  const alone = arrange({ ...plain, meter, pattern, sections: [{ name: '', lines: [line] }] });
  const strikes = alone.strikes.filter(({ tick }) => tick < ticks);
  const seconds = ticks * secondsPerTick(song.tempo, meter);
  return { ...alone, ticks, seconds, strikes };
}
