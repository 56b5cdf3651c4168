import { newPattern, strum } from '../pattern';
import {
  type Direction,
  type Division,
  DIVISIONS,
  type Meter,
  type Pattern,
  type Stroke,
} from '../schema';
import { MISS } from '../stroke';
import { beatTicks, sameMeter } from '../time';

/** A stroke where a file has it, in ticks from the bar line; its direction where a sign says it. */
export interface ReadStroke {
  at: number;
  dir: Direction | null;
  accent: boolean;
  damped: boolean;
  /** The root of the chord alone, on its lowest string. */
  bass?: true;
  /** Only these strings of the chord, from 1, in their order; all of them where it is left out. */
  strings?: number[];
  /** Their frets, where they are not those of the chord. */
  frets?: Map<number, number>;
}

/** Bars that have to have a rhythm before it is that of the song. */
const ENOUGH = 2;

/**
 * The rhythm that most bars of a file have, as a pattern of one bar; null where no two bars are alike.
 * @param bars with their strokes, where the file has them
 * @param meter of the song: bars in another one are passed over
 * @example commonRhythm([{ meter, strokes }, { meter, strokes }], meter)?.beats.length // 4
 */
export function commonRhythm(
  bars: { meter: Meter; strokes?: ReadStroke[] }[],
  meter: Meter,
): Pattern | null {
  const counts = new Map<string, { strokes: ReadStroke[]; count: number }>();
  for (const { meter: own, strokes = [] } of bars) {
    if (strokes.length === 0 || !sameMeter(own, meter)) continue;
    const key = JSON.stringify(strokes);
    const known = counts.get(key) ?? { strokes, count: 0 };
    known.count += 1;
    counts.set(key, known);
  }
  const [most] = [...counts.values()].sort((a, b) => b.count - a.count);
  if (!most || (most.count < ENOUGH && bars.length >= ENOUGH)) return null;
  return rhythmOf(most.strokes, meter);
}

/** Strings next to each other from so many on are strummed, others picked. */
const STRUMMED = 3;

/** What is struck, as a stroke. */
function struckAs(
  { damped, bass, strings, frets, ...stroke }: ReadStroke,
  natural: Direction,
): Stroke {
  const dir = stroke.dir ?? natural;
  const accent = stroke.accent ? 'accent' : 'normal';
  if (damped) return { kind: 'chuck', dir, accent };
  if (bass) return { kind: 'bass', accent };
  if (!strings) return strum(dir, accent);
  const isRow = strings.every((string, at) => at === 0 || string === strings[at - 1]! + 1);
  if (isRow && strings.length >= STRUMMED && !frets)
    return { kind: 'strum', dir, accent, reach: strings };
  const picked = strings.map((string) => {
    const fret = frets?.get(string);
    return { string: `s${string}`, ...(fret !== undefined && { fret }) };
  });
  return { kind: 'pick', dir, accent, strings: picked };
}

/** Strokes of a bar as a pattern: on the coarsest grid of each beat, and as the arm swings where no sign says how. */
export function rhythmOf(strokes: ReadStroke[], meter: Meter): Pattern {
  const beat = beatTicks(meter);
  const inBeat = Array.from({ length: meter.beats }, (_, index) =>
    strokes
      .map((stroke) => ({ ...stroke, at: stroke.at - index * beat }))
      .filter(({ at }) => at >= 0 && at < beat),
  );
  const fits = (some: ReadStroke[], division: number) =>
    some.every(({ at }) => Number.isInteger((at * division) / beat));
  const grids = inBeat.map((some) => DIVISIONS.find((division) => fits(some, division)) ?? FINEST);
  // The arm goes on at one pace: beats in two, four or eight are counted as the finest of them.
  const even = Math.max(...grids.filter((division) => division % 3 !== 0 && division > 1), 1);
  const base = newPattern(meter, 'As it was read');
  const fine = Math.max(even, base.beats[0]!.division) as Division;
  const beats = inBeat.map((some, index) => {
    const division = grids[index]! % 3 === 0 ? grids[index]! : fine;
    const slots = Array.from({ length: division }, (_, position): Stroke => {
      const at = some.find((stroke) => Math.round((stroke.at * division) / beat) === position);
      if (!at) return MISS;
      return struckAs(at, position % 2 === 0 ? 'down' : 'up');
    });
    return { division, slots };
  });
  const halfSwings = Math.max(base.arm.halfSwings, even) as Pattern['arm']['halfSwings'];
  return { ...base, beats, arm: { ...base.arm, halfSwings } };
}

/** Of a beat whose strokes lie on no grid. */
const FINEST: Division = 8;
