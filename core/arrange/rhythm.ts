import { modulo, plural, type Ticks } from '../plain';
import type { Meter, Pattern, Song, SplitRule } from '../schema';
import { spellChord, transposeChord } from '../neck';
import { doubleTime, fitPattern, halveForSplit, setLength } from '../pattern';
import { patternTicks } from '../stroke';
import { beatTicks, describeMeter, sameMeter } from '../time';
import type { PlayedBar } from '../song';

/**
 * Which rhythm carries each bar. The nearest rule wins: a bar's own pattern before its chord's, before
 * its section's, before the song's. In a bar that chords share, a rule says what becomes of it. A bar of
 * another meter is played with the pattern fitted to it, a pick-up with the pattern's end; after either
 * it begins anew.
 */

/** Where a rhythm comes from. */
export type RhythmSource = 'song' | 'section' | 'chord' | 'bar';

/** A stretch of a bar that is played with one pattern. */
export interface RhythmPart {
  /** From the start of the song. */
  tick: Ticks;
  ticks: Ticks;
  pattern: Pattern;
  /** Ticks into the pattern at which the part begins. */
  offset: Ticks;
  source: RhythmSource;
  /** What was done to it because chords share the bar; null where nothing was. */
  split: SplitRule | null;
  /** A wish that could not be met, in a few words. */
  note: string | null;
}

type RhythmSong = Pick<Song, 'pattern' | 'meter' | 'sections' | 'chordPatterns' | 'split'>;

interface Share {
  tick: Ticks;
  ticks: Ticks;
  symbol: string | null;
  /** Where this chord began to be held with its own rhythm. */
  since: number;
}

/** The chords that share a bar, each from its place to the next. */
function sharesOf(bar: PlayedBar, before: Share | null): Share[] {
  const { chords } = bar.content;
  const starts: typeof chords = [];
  for (const chord of chords) {
    if (chord.at <= 0 || chord.at >= bar.ticks) continue;
    // As it lands: a later chord that comes no later than the one before it takes its place.
    while (starts.length > 0 && starts.at(-1)!.at >= chord.at) starts.pop();
    starts.push(chord);
  }
  const first = chords.findLast(({ at }) => at === 0)?.symbol ?? before?.symbol ?? null;
  const held = before !== null && first === before.symbol;
  const shares: Share[] = [
    { tick: bar.tick, ticks: bar.ticks, symbol: first, since: held ? before.since : bar.tick },
  ];
  for (const { at, symbol } of starts) {
    const last = shares.at(-1)!;
    if (last.symbol === symbol) continue;
    last.ticks = bar.tick + at - last.tick;
    shares.push({ tick: bar.tick + at, ticks: bar.ticks - at, symbol, since: bar.tick + at });
  }
  return shares;
}

/** A pattern's first bar in half the time, for half a bar; null where its beats cannot be joined. */
function squeezed(pattern: Pattern): Pattern | null {
  const bar = setLength(pattern, Math.min(pattern.beats.length, pattern.meter.beats));
  const half = bar.beats.length / 2;
  const double = Number.isInteger(half) ? doubleTime(bar) : null;
  return double && setLength(double, half);
}

/**
 * The rhythm of every bar, in the order of playing: parts that follow each other without a gap from
 * bar line to bar line.
 * @example rhythms(song, playedBars(song))[6].map((part) => part.split) // ['half', 'half']
 */
export function rhythms(song: RhythmSong, bars: PlayedBar[]): RhythmPart[][] {
  const byChord = new Map(
    (song.chordPatterns ?? []).map(({ symbol, pattern }) => [symbol, pattern]),
  );
  /** Rhythms go with their chords into other keys, however those are spelled there. */
  const inKeys = new Map<number, Map<string, Pattern>>();
  const ofChord = (symbol: string, shift: number): Pattern | undefined => {
    if (shift === 0 || byChord.size === 0) return byChord.get(symbol);
    const known =
      inKeys.get(shift) ??
      new Map([...byChord].map(([own, pattern]) => [transposeChord(own, shift, true), pattern]));
    inKeys.set(shift, known);
    return known.get(spellChord(symbol, true));
  };
  const halves = new Map<Pattern, Pattern | null>();
  const squeezes = new Map<Pattern, Pattern | null>();
  const once = (
    known: Map<Pattern, Pattern | null>,
    pattern: Pattern,
    make: (pattern: Pattern) => Pattern | null,
  ) => {
    if (!known.has(pattern)) known.set(pattern, make(pattern));
    return known.get(pattern) ?? null;
  };

  const fits = new Map<Meter, Map<Pattern, Pattern | null>>();
  const fitted = (pattern: Pattern, meter: Meter): Pattern => {
    const known = fits.get(meter) ?? new Map<Pattern, Pattern | null>();
    fits.set(meter, known);
    return once(known, pattern, (asked) => fitPattern(asked, meter)) ?? pattern;
  };

  const lengths = new Map<Pattern, number>();
  const lengthOf = (pattern: Pattern) => {
    const known = lengths.get(pattern) ?? patternTicks(pattern);
    lengths.set(pattern, known);
    return known;
  };

  let passage = -1;
  let from = 0;
  let before: Share | null = null;
  let anew = false;
  return bars.map((bar) => {
    if (anew && before) {
      from = bar.tick;
      before = { ...before, since: bar.tick };
    }
    const odd = !sameMeter(bar.meter, song.meter);
    anew = odd || bar.lead > 0;
    if (bar.passage !== passage) {
      passage = bar.passage;
      from = bar.tick;
      before = null;
    }
    const rules = song.sections[bar.section]?.rules;
    const base = rules?.pattern ?? song.pattern;
    const baseSource: RhythmSource = rules?.pattern ? 'section' : 'song';
    const shares = sharesOf(bar, before);
    before = shares.at(-1)!;
    const own = bar.content.rules?.pattern;
    if (own) {
      return [
        {
          tick: bar.tick,
          ticks: bar.ticks,
          pattern: odd ? fitted(own, bar.meter) : own,
          offset: bar.lead,
          source: 'bar',
          split: null,
          note: null,
        },
      ];
    }
    const rule = bar.content.rules?.split ?? rules?.split ?? song.split ?? 'roll';
    const parts = shares.map(({ tick, ticks, symbol, since }): RhythmPart => {
      const chord = symbol === null ? undefined : ofChord(symbol, bar.shift ?? 0);
      const pattern = odd ? fitted(chord ?? base, bar.meter) : (chord ?? base);
      const source: RhythmSource = chord ? 'chord' : baseSource;
      const begun = odd ? bar.tick : chord ? since : from;
      const length = lengthOf(pattern);
      const rolling =
        bar.lead > 0 ? modulo(tick - bar.tick - bar.ticks, length) : (tick - begun) % length;
      // As most bars are, so made without a copy of anything.
      if (shares.length === 1 || rule === 'roll') {
        return { tick, ticks, pattern, offset: rolling, source, split: null, note: null };
      }
      const part = { tick, ticks, source, note: null };
      if (rule === 'half') {
        const half = once(halves, pattern, halveForSplit);
        return { ...part, pattern: half ?? pattern, offset: 0, split: rule };
      }
      if (rule === 'squeeze') {
        const fits = ticks * 2 === bar.ticks ? once(squeezes, pattern, squeezed) : null;
        if (fits) return { ...part, pattern: fits, offset: 0, split: rule };
        return { ...part, pattern, offset: 0, split: 'restart', note: 'too fine to be squeezed' };
      }
      return { ...part, pattern, offset: 0, split: rule };
    });
    return joined(parts, lengthOf);
  });
}

/**
 * The rhythm of one bar as it goes there, for a rhythm of the bar's own to begin with: the beats of its pattern that
 * fall on it. A pattern that begins inside a beat there is taken whole.
 * @example barRhythm(parts[0]!, bar).beats.length // 4, of a pattern of eight beats
 */
export function barRhythm({ pattern, offset }: RhythmPart, bar: PlayedBar): Pattern {
  const beat = beatTicks(pattern.meter);
  const count = bar.meter.beats;
  const { length } = pattern.beats;
  if (offset % beat !== 0 || !sameMeter(pattern.meter, bar.meter)) return pattern;
  if (length === count && offset === bar.lead) return pattern;
  const first = (offset - bar.lead) / beat;
  const { builds: _, ...plain } = pattern;
  const beats = Array.from(
    { length: count },
    (_, at) => pattern.beats[modulo(first + at, length)]!,
  );
  return { ...plain, beats };
}

/** Parts that go on in one pattern are one. */
function joined(parts: RhythmPart[], lengthOf: (pattern: Pattern) => Ticks): RhythmPart[] {
  if (parts.length === 1) return parts;
  const [first, ...rest] = parts;
  const goesOn = rest.every(
    ({ pattern, split, tick, offset }) =>
      split === null &&
      first!.split === null &&
      pattern === first!.pattern &&
      offset === (first!.offset + tick - first!.tick) % lengthOf(pattern),
  );
  if (!goesOn) return parts;
  return [{ ...first!, ticks: parts.reduce((sum, { ticks }) => sum + ticks, 0) }];
}

/** What becomes of a rhythm where chords share its bar, in the words that the player reads. */
export const SPLIT_LABELS: { value: SplitRule; label: string }[] = [
  { value: 'roll', label: 'keeps going' },
  { value: 'restart', label: 'starts again' },
  { value: 'half', label: 'half pattern' },
  { value: 'squeeze', label: 'squeezed' },
];
const splitWords = (rule: SplitRule) => {
  const { label } = SPLIT_LABELS.find(({ value }) => value === rule)!;
  return rule === 'restart' ? `${label} with each chord` : label;
};

/**
 * Why a bar is played otherwise than the song's pattern would have it, in one line; null where it is not.
 * @example whyDifferent(bar, parts) // 'bar 7: split, half pattern'
 */
export function whyDifferent(bar: PlayedBar, parts: RhythmPart[]): string | null {
  const reasons: string[] = [];
  const { pickup, meter } = bar.content;
  if (pickup) reasons.push(`a pick-up of ${plural(pickup, 'beat')}`);
  if (meter) reasons.push(`in ${describeMeter(meter)}`);
  const split = parts.find((part) => part.split !== null);
  const chord = parts.find(({ source }) => source === 'chord');
  if (parts[0]!.source === 'bar') reasons.push('a strum of its own');
  if (chord) reasons.push(`a strum of its chord, “${chord.pattern.name}”`);
  if (split)
    reasons.push(`split, ${splitWords(split.split!)}${split.note ? ` (${split.note})` : ''}`);
  if (bar.content.rules?.skipFirst) reasons.push('the first stroke is left out');
  if (bar.content.rules?.stop !== undefined) reasons.push('a stop');
  if (bar.content.chords.some(({ fermata }) => fermata)) reasons.push('struck once and held');
  return reasons.length > 0 ? `bar ${bar.index + 1}: ${reasons.join('; ')}` : null;
}
