import {
  type Arrangement,
  type Performance,
  type RhythmPart,
  type Strike,
  slotsOfBars,
} from '../arrange';
import {
  type BarRules,
  type Division,
  DIVISIONS,
  MAX_BARS_OF_LINE,
  MAX_LINES,
  MAX_SECTIONS,
  type Pattern,
  type PatternBeat,
  type Placement,
  type Section,
  type Song,
  type Stroke,
} from '../schema';
import { type PlayedBar, type SungPiece, lyricsByBar } from '../song';
import { armPasses, MISS, type Slot, slots, strokeDirection } from '../stroke';
import { beatTicks } from '../time';
import { strum } from '../pattern';

/** A bar where it is played, with the pattern that it has there: one bar long, and its own. */
export interface UnfoldedBar {
  bar: PlayedBar;
  pattern: Pattern;
  /** The slots of that pattern, with what is struck on each; null where nothing is. */
  slots: { slot: Slot; strike: Strike | null }[];
}

/** A stroke in a bar: ticks from its bar line as it is counted, so that a pick-up begins late. */
interface PlacedStroke {
  at: number;
  stroke: Stroke;
}

/** The coarsest division of a beat on whose slots all those places lie; else the one on which most do. */
function divisionFor(places: number[], beat: number): Division {
  const fits = (division: Division) =>
    places.filter((place) => Number.isInteger((place * division) / beat)).length;
  return DIVISIONS.reduce((best, division) => (fits(division) > fits(best) ? division : best));
}

/** One bar as a pattern of its own. Strokes that lie on no grid of eight or six to the beat are left out. */
function ownPattern({ meter }: PlayedBar, placed: PlacedStroke[], row: RhythmPart[]): Pattern {
  const beat = beatTicks(meter);
  const beats = Array.from({ length: meter.beats }, (_, index): PatternBeat => {
    const from = index * beat;
    const inside = placed.filter(({ at }) => at >= from && at < from + beat);
    const division = divisionFor(
      inside.map(({ at }) => at - from),
      beat,
    );
    const strokes = Array.from({ length: division }, (_, position) => {
      const at = from + (position * beat) / division;
      return inside.find((one) => one.at === at)?.stroke ?? MISS;
    });
    return { division, slots: strokes };
  });
  const first = row[0]!;
  const { builds: _, loose: __, ...rest } = first.pattern;
  // Where the arm is on its way up at the bar line, a pattern that starts anew has it on its way down.
  const next = armPasses(first.pattern).find(({ tick }) => tick >= first.offset);
  const arm = next?.dir !== 'up' ? rest.arm : { ...rest.arm, school: 'free' as const };
  return { ...rest, meter, beats, arm };
}

/** What the arm strikes, and where a chord lands: not what the fretting hand sounds in between. */
export function armStrikes({ strikes }: Performance): Strike[] {
  return strikes.filter(({ kind, landing }) => kind !== 'legato' || landing);
}

/**
 * Every bar of a song as it is played, each with a pattern of its own that has the same strokes at the same
 * ticks.
 * @example unfold(arrangement(song))[0].slots.filter(({ strike }) => strike).length // 6
 */
export function unfold({ bars, changes, rhythms, performance }: Arrangement): UnfoldedBar[] {
  const placed: PlacedStroke[][] = bars.map(() => []);
  for (const { slot, tick, bar } of slotsOfBars(bars, rhythms, changes)) {
    placed[bar.index]!.push({ at: tick - bar.tick + bar.lead, stroke: slot.stroke });
  }
  const struck = new Map(armStrikes(performance).map((strike) => [strike.tick, strike]));
  const known = new Map<Pattern, Map<string, { pattern: Pattern; grid: Slot[] }>>();
  return bars.map((bar) => {
    const row = rhythms[bar.index]!;
    const [{ pattern: from, offset }] = row as [RhythmPart];
    const alike = row.length === 1 && !from.loose;
    const likes = known.get(from) ?? new Map<string, { pattern: Pattern; grid: Slot[] }>();
    known.set(from, likes);
    const key = `${offset} ${bar.lead} ${bar.ticks} ${bar.meter.beats}/${bar.meter.unit}`;
    let made = alike ? likes.get(key) : undefined;
    if (!made) {
      const pattern = ownPattern(bar, placed[bar.index]!, row);
      made = { pattern, grid: slots(pattern) };
      if (alike) likes.set(key, made);
    }
    return {
      bar,
      pattern: made.pattern,
      slots: made.grid.map((slot) => ({
        slot,
        strike: struck.get(bar.tick + slot.tick - bar.lead) ?? null,
      })),
    };
  });
}

/** What a rung makes of a slot, and of the chords of a bar. */
export interface Remake {
  stroke: (slot: Slot, strike: Strike | null) => Stroke;
  chords: (bar: PlayedBar) => Placement[];
  /** Whether bars stop where they do in the song: their chords are held from there. */
  stops?: boolean;
}

function barStops({ stop, skipFirst }: BarRules = {}): BarRules {
  return { ...(stop !== undefined && { stop }), ...(skipFirst && { skipFirst }) };
}

/** What is sung in a bar, which is written out and comes only once. */
function sung(pieces: SungPiece[], { tick }: PlayedBar): Pick<BarRules, 'words'> {
  const words = pieces.map((piece) => ({ verse: 1, at: piece.tick - tick, text: piece.text }));
  return words.length > 0 ? { words } : {};
}

/** A chord as it is written, without what comes before it and without those that stand in for it. */
export function bare(placement: Placement): Placement {
  const { run: _, substitutes: __, openStrokes: ___, travel: ____, ...rest } = placement;
  return rest;
}

/**
 * The song once more, written out bar by bar as it is played, with other strokes and other chords.
 * It is as long as the song, to the tick.
 */
export function remade(
  song: Song,
  bars: UnfoldedBar[],
  { stroke, chords, stops = false }: Remake,
): Song {
  const patterns = patternMaker(stroke);
  const words = lyricsByBar(
    song,
    bars.map(({ bar }) => bar),
  );
  const sections: Section[] = [];
  let passage = -1;
  let line: unknown = null;
  for (const unfolded of bars) {
    const { bar } = unfolded;
    const { content } = bar;
    if (bar.passage !== passage && sections.length < MAX_SECTIONS) {
      const { name, rules } = song.sections[bar.section]!;
      const { level, build } = rules ?? {};
      const kept = { ...(level && { level }), ...(build && { build }) };
      sections.push({ name, lines: [], ...((level ?? build) && { rules: kept }) });
      line = null;
    }
    passage = bar.passage;
    const { lines } = sections.at(-1)!;
    const full = (lines.at(-1)?.bars.length ?? 0) >= MAX_BARS_OF_LINE;
    if (full || (line !== song.sections[bar.section]!.lines[bar.line] && lines.length < MAX_LINES))
      lines.push({ bars: [], times: 1 });
    line = song.sections[bar.section]!.lines[bar.line];
    lines.at(-1)!.bars.push({
      chords: chords(bar).map(bare),
      ...(content.unread !== undefined && { unread: content.unread }),
      ...(content.meter && { meter: content.meter }),
      ...(content.pickup !== undefined && { pickup: content.pickup }),
      rules: {
        ...(stops && barStops(content.rules)),
        pattern: patterns(unfolded),
        ...sung(words[bar.index]!, bar),
      },
    });
  }
  const {
    order: _,
    chordPatterns: __,
    split: ___,
    openStrokes: ____,
    travel: _____,
    ...rest
  } = song;
  return { ...rest, sections };
}

/** Patterns with other strokes; bars that come out alike share one, so that what is drawn of it is shared. */
function patternMaker(stroke: Remake['stroke']): (bar: UnfoldedBar) => Pattern {
  const known = new Map<Pattern, Map<string, Pattern>>();
  const numbers = new Map<Stroke, number>();
  const numberOf = (one: Stroke) => {
    const number = numbers.get(one) ?? numbers.size;
    numbers.set(one, number);
    return number;
  };
  return ({ pattern, slots: grid }) => {
    const made = grid.map(({ slot, strike }) => stroke(slot, strike));
    const likes = known.get(pattern) ?? new Map<string, Pattern>();
    known.set(pattern, likes);
    const key = made.map(numberOf).join();
    const same = likes.get(key);
    if (same) return same;
    let at = 0;
    const beats = pattern.beats.map(({ division, slots: { length } }) => {
      const strokes = made.slice(at, at + length);
      at += length;
      return { division, slots: strokes };
    });
    const fresh = { ...pattern, beats };
    likes.set(key, fresh);
    return fresh;
  };
}

/** A whole strum down, as for a chord alone. */
export const WHOLE_DOWN = strum('down');
const DRIVEN = strum('down', 'accent');
export const REST: Stroke = { kind: 'hold' };

/** What is struck on a slot, as a stroke: a stop or a held chord may strike where the pattern passes. */
export function strokeAt({ stroke }: Slot): Stroke {
  return stroke.kind === 'miss' || stroke.kind === 'hold' || stroke.kind === 'legato'
    ? DRIVEN
    : stroke;
}

const chucks = new WeakMap<Stroke, Stroke>();

/** The stroke on damped strings, as loud and the same way. */
export function onDamped(stroke: Stroke): Stroke {
  if (stroke.kind === 'legato') return MISS;
  if (stroke.kind === 'miss' || stroke.kind === 'hold' || stroke.kind === 'tap') return stroke;
  const known = chucks.get(stroke);
  if (known) return known;
  const dir = strokeDirection(stroke) ?? 'down';
  const made: Stroke = { kind: 'chuck', dir, accent: stroke.accent };
  chucks.set(stroke, made);
  return made;
}
