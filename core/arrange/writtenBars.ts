import type { Ticks } from '../plain';
import { isNoChord, parseChord } from '../neck';
import type { Bar, Line } from '../schema';
import {
  barLength,
  barNumbers,
  firstFrom,
  hasLyrics,
  type Landing,
  type PlayedBar,
  roundWords,
  type SungPiece,
  lyricsByBar,
  timedWords,
} from '../song';
import { countNumber } from '../time';
import type { Arrangement } from './arrange';
import type { Reach } from '../path';
import { asPlayed, isPlayedOtherwise, struckStrings } from './drawn';
import { type BarPattern, barPatterns } from './passes';
import type { Strike } from './performance';
import { whyDifferent } from './rhythm';

/** The flag of a chord, planted on a drawing. */
export interface ChordFlag {
  /** Where the chord lands, in ticks from the start of the drawing. */
  tick: Ticks;
  symbol: string;
  /** False where the symbol names no chord. */
  known: boolean;
}

/** A bar as it is written, and as it is played the first time. */
export interface WrittenBar {
  /** Where it is first played; its index is -1 where the order leaves its section out. */
  played: PlayedBar;
  flags: ChordFlag[];
  /** In words: its number, its chords, what is otherwise in it. */
  label: string;
  part: BarPattern;
  /** The strings of its picks and basses on the chords that it has, by slot. */
  reach: Map<number, Reach>;
  /** True where strikes differ from the pattern: its drawing has them, and is made anew each time. */
  special: boolean;
  /** What its rhythm does otherwise, in words; null where it does as the rule says. */
  differs: string | null;
  /** How it is counted where its chord is held: "2 2 3 4"; empty where it is counted from one. */
  counted: string;
  /** What is sung in it the first time that it comes, in ticks from its start. */
  words: SungPiece[];
  /** What its line is, on the first bar of it: an ending, so many times. */
  note: string;
  /** A flag stands late in it: its note is short, and its number has no room beside that. */
  isTight: boolean;
}

/** The flag of a chord at a tick of a drawing. @example flagAt(0, 'Am').known // true */
export function flagAt(tick: Ticks, symbol: string): ChordFlag {
  return { tick, symbol, known: parseChord(symbol) !== null || isNoChord(symbol) };
}

/** The flags of the chords that land in a bar, in ticks from its bar line. */
export function flagsWithin(
  changes: { tick: Ticks; symbol: string }[],
  { tick: from, ticks }: Pick<PlayedBar, 'tick' | 'ticks'>,
): ChordFlag[] {
  return changes
    .filter(({ tick }) => tick >= from && tick < from + ticks)
    .map(({ tick, symbol }) => flagAt(tick - from, symbol));
}

/** "1st time", "1st and 3rd time, 2 times", "last time"; "1st", "1st 3rd ×2", "last" where it is narrow. */
function noteOf({ only, times }: Line, narrow: boolean): string {
  const ending = only && roundWords(only, narrow);
  const often = times > 1 && (narrow ? `×${times}` : `${times} times`);
  return [ending, often].filter(Boolean).join(narrow ? ' ' : ', ');
}

/** The chords that land in a bar; a section says what it begins on, though the hand may be there already. */
function flagsOf(bar: PlayedBar, changes: Landing[]): ChordFlag[] {
  const written = bar.content.chords.map(({ at, symbol }) => ({ tick: bar.tick + at, symbol }));
  if (bar.index < 0) return flagsWithin(written, bar);
  const [first] = bar.line === 0 && bar.bar === 0 ? bar.content.chords : [];
  const repeated =
    first?.at === 0 && first.push === 0 && !changes.some(({ tick }) => tick === bar.tick);
  return flagsWithin(repeated ? [written[0]!, ...changes] : changes, bar);
}

/** Share of a bar from which a flag reaches what stands at its end. */
const LATE_FLAG = 0.4;

/** Above so many beats only the first number is said. */
const ALL_COUNTS = 6;
function countedAs({ meter, lead, content }: PlayedBar, number: number): string {
  if (number === 1 || lead > 0 || content.unread !== undefined) return '';
  const rest = Array.from({ length: meter.beats - 1 }, (_, beat) => countNumber(meter, beat + 1));
  return meter.beats > ALL_COUNTS ? `${number} …` : [number, ...rest].join(' ');
}

/** The strikes of each bar, by its number. */
function strikesByBar(strikes: Strike[]): Map<number, Strike[]> {
  const all = new Map<number, Strike[]>();
  for (const strike of strikes) {
    const here = all.get(strike.bar);
    if (here) here.push(strike);
    else all.set(strike.bar, [strike]);
  }
  return all;
}

/** The strikes of the bars that are not played as their pattern alone would have it, by the bar's number. */
function strikesOtherwise(
  bars: PlayedBar[],
  all: Map<number, Strike[]>,
  leftOut: number[],
): Map<number, Strike[]> {
  return new Map(
    bars.flatMap((bar) => {
      const here = all.get(bar.index) ?? [];
      return isPlayedOtherwise(bar, here, leftOut) ? [[bar.index, here] as const] : [];
    }),
  );
}

/**
 * The bars of a song as they are written, section by section and line by line, each as it is first played.
 * @param shown the strikes that may differ from the pattern, ticks of strokes that are left out, and whether there
 *   is room for few words
 * @example writtenBars(arrangement(song))[0]!.lines[0]![0]!.flags[0]!.symbol // 'G'
 */
export function writtenBars(
  { song, bars, changes, rhythms }: Arrangement,
  shown: { strikes?: Strike[]; leftOut?: number[]; narrow?: boolean } = {},
): { name: string; lines: WrittenBar[][] }[] {
  const { strikes = [], leftOut = [], narrow = false } = shown;
  const byBar = strikesByBar(strikes);
  const otherwise = strikesOtherwise(bars, byBar, leftOut);
  const numbers = barNumbers(bars, changes);
  const parts = barPatterns(rhythms);
  const sung = hasLyrics(song) ? lyricsByBar(song, bars) : [];
  const place = (section: number, line: number, bar: number) => `${section}/${line}/${bar}`;
  const first = new Map<string, PlayedBar>();
  // As it is written, where it is played in that key; and not as an intro has it.
  const rank = ({ shift, alone }: PlayedBar) => (shift ? 2 : 0) + (alone ? 1 : 0);
  for (const bar of bars) {
    const key = place(bar.section, bar.line, bar.bar);
    const before = first.get(key);
    if (!before || rank(bar) < rank(before)) first.set(key, bar);
  }
  const unplayed = (section: number, line: number, bar: number, content: Bar): PlayedBar => {
    const length = barLength(content, song.meter);
    const place = { section, line, bar, time: 0, times: 0 };
    return { index: -1, passage: -1, ...place, tick: -length.ticks, content, ...length };
  };
  /** Changes are in order: those of a bar are found without looking at the others. */
  const landingIn = ({ tick, ticks }: PlayedBar) =>
    changes.slice(firstFrom(changes, tick), firstFrom(changes, tick + ticks));

  function written(played: PlayedBar, line: Line | null): WrittenBar {
    const flags = flagsOf(played, played.index < 0 ? [] : landingIn(played));
    // Beside a flag that stands late in its bar there is room for few words.
    const isTight = flags.some(({ tick }) => tick > LATE_FLAG * played.ticks);
    const note = line ? noteOf(line, narrow || isTight) : '';
    const chords = flags.map(({ symbol }) => symbol).join(', ') || 'chord held';
    const broken = played.content.unread === undefined ? '' : ', cannot be read yet';
    const plain = parts[played.index] ?? { pattern: song.pattern, phase: 0 };
    const here = otherwise.get(played.index);
    const strings = song.instrument.strings.length;
    const row = rhythms[played.index];
    const reasons = [
      (row && whyDifferent(played, row))?.replace(/^bar \d+: /, ''),
      ...timedWords(played.content),
    ];
    const differs = reasons.filter(Boolean).join('; ') || null;
    const name = played.index < 0 ? 'Not played' : `Bar ${played.index + 1}`;
    const pattern = here ? asPlayed(plain.pattern, here, played, strings, leftOut) : plain.pattern;
    return {
      played,
      flags,
      part: here ? { ...plain, pattern } : plain,
      reach: struckStrings(pattern, byBar.get(played.index) ?? [], played.tick),
      special: here !== undefined,
      differs,
      counted: countedAs(played, numbers[played.index] ?? 1),
      note,
      isTight,
      words: (sung[played.index] ?? []).map(({ tick, text }) => ({
        tick: tick - played.tick,
        text,
      })),
      label: `${name}: ${chords}${broken}${differs ? `; ${differs}` : ''}`,
    };
  }

  return song.sections.map(({ name, lines }, section) => ({
    name,
    lines: lines.map((line, lineIndex) =>
      line.bars.map((content, bar) =>
        written(
          first.get(place(section, lineIndex, bar)) ?? unplayed(section, lineIndex, bar, content),
          bar === 0 ? line : null,
        ),
      ),
    ),
  }));
}
