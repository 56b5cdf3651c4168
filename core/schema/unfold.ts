import { MAX_BARS_PLAYED, MAX_DIFFERENT_CHORDS, MAX_STROKES_PLAYED } from './limits';
import type { Meter } from './meter';
import type { Pattern } from './pattern';
import { type Round, roundsOf, type RoundsOver } from './rounds';

/** What counts for how much a line, a section and a song unfold to. */
interface UnfoldingLine {
  bars: {
    chords: { symbol: string; substitutes?: { symbol: string }[] | undefined }[];
    meter?: Meter | undefined;
    rules?:
      | {
          pattern?: Pattern | undefined;
          timed?: { pattern: Pattern }[] | undefined;
          tune?: { notes: unknown[] } | undefined;
        }
      | undefined;
  }[];
  times: number;
  only?: 'last' | number[] | undefined;
}
interface UnfoldingSection {
  name: string;
  lines: UnfoldingLine[];
  rules?: { pattern?: Pattern | undefined } | undefined;
}
export interface Unfolding {
  sections: UnfoldingSection[];
  order?:
    | { name: string; times: number; shift?: number | undefined; lastLines?: number | undefined }[]
    | undefined;
  endings?: RoundsOver;
  meter: Meter;
  pattern?: Pattern;
  chordPatterns?: { pattern: Pattern }[] | undefined;
}

const number = (count: number) => count.toLocaleString('en-GB');

/** The most slots of a beat in any pattern that may be played, with the note value of the beat. */
function densest(patterns: Pattern[]): number {
  return Math.max(
    1,
    ...patterns.map(
      ({ beats, meter }) => Math.max(...beats.map(({ division }) => division)) * meter.unit,
    ),
  );
}

/**
 * Why a song is too long to be worked out, in one sentence; null where it is not. It counts before
 * anything is unfolded, so it costs as much as the document is long, not the song. Strokes are counted
 * as if every bar were filled with the finest beat of the patterns that may carry it.
 *
 * @example tooMuch(song) // null for a song that is played in an evening; else 'unfolds to 16,000 bars; 4,000 is the most'
 */
export function tooMuch(song: Unfolding): string | null {
  const { sections, order, meter } = song;
  const keys = new Map<UnfoldingSection, Set<number>>();
  const played: UnfoldingSection[] = [];
  /** Times that the end of a section is played alone: at most all of it. */
  const alone = new Map<UnfoldingSection, number>();
  if (order) {
    const byName = new Map<string, UnfoldingSection>();
    for (const section of sections) {
      if (!byName.has(section.name)) byName.set(section.name, section);
    }
    for (const { name, times, shift = 0, lastLines } of order) {
      const section = byName.get(name);
      if (!section) continue;
      if (lastLines === undefined) played.push(...Array<UnfoldingSection>(times).fill(section));
      else alone.set(section, (alone.get(section) ?? 0) + times);
      keys.set(section, (keys.get(section) ?? new Set()).add(shift));
    }
  } else {
    played.push(...sections);
  }
  const rounds = new Map<UnfoldingSection, Round[]>();
  roundsOf(played, song.endings).forEach((round, at) => {
    const section = played[at]!;
    const known = rounds.get(section);
    if (known) known.push(round);
    else rounds.set(section, [round]);
  });
  const anywhere = song.chordPatterns?.map(({ pattern }) => pattern) ?? [];
  let bars = 0;
  let strokes = 0;
  const chords = new Set<string>();
  for (const section of new Set([...rounds.keys(), ...alone.keys()])) {
    const own = section.rules?.pattern ?? song.pattern;
    const finest = densest(own ? [own, ...anywhere] : anywhere);
    for (const line of section.lines) {
      const often = (rounds.get(section) ?? []).filter((round) => isPlayed(line, round)).length;
      const inAll = (often + (alone.get(section) ?? 0)) * line.times;
      bars += line.bars.length * inAll;
      for (const { meter: other, rules, chords: placed } of line.bars) {
        const { beats, unit } = other ?? meter;
        const anyTime = rules?.pattern ? densest([rules.pattern]) : finest;
        const inBar = Math.max(anyTime, densest(rules?.timed?.map((one) => one.pattern) ?? []));
        strokes += (Math.ceil((beats * inBar) / unit) + (rules?.tune?.notes.length ?? 0)) * inAll;
        // A chord in another key is another chord.
        for (const shift of keys.get(section) ?? [0]) {
          for (const { symbol, substitutes = [] } of placed) {
            for (const one of [symbol, ...substitutes.map((other) => other.symbol)])
              chords.add(shift === 0 ? one : `${one} ${shift}`);
          }
        }
      }
    }
  }
  if (bars > MAX_BARS_PLAYED) {
    return `unfolds to ${number(bars)} bars; ${number(MAX_BARS_PLAYED)} is the most`;
  }
  if (strokes > MAX_STROKES_PLAYED) {
    return `unfolds to ${number(strokes)} strokes; ${number(MAX_STROKES_PLAYED)} is the most`;
  }
  if (chords.size > MAX_DIFFERENT_CHORDS) {
    return `holds ${number(chords.size)} different chords; ${number(MAX_DIFFERENT_CHORDS)} is the most`;
  }
  return null;
}

/** True where a line belongs to this time round: endings come only at theirs. */
export function isPlayed({ only }: Pick<UnfoldingLine, 'only'>, { time, last }: Round): boolean {
  if (only === undefined) return true;
  return only === 'last' ? last : only.includes(time);
}
