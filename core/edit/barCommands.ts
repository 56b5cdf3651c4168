import { produce } from 'immer';
import {
  type Bar,
  type Line,
  type Meter,
  MAX_BARS_OF_LINE,
  MAX_LINES,
  MAX_SECTIONS,
  type Passage,
  type Placement,
  type Section,
  type Song,
  type TimeRound,
} from '../schema';
import { fitPattern } from '../pattern';
import { sameMeter } from '../time';
import type { Command } from './commands';
import { type BarPlace, barAt, withBar, withEachRhythm, withRules, withSection } from './rules';
import { barLength, type PlayedBar } from '../song';

/** Commands on bars as they are written, and on the sections and passages that they make up. */

/** From one written bar to another, both included; either may come first. */
export interface BarSpan {
  from: BarPlace;
  to: BarPlace;
}

function isBefore(one: BarPlace, other: BarPlace): boolean {
  return (one.section - other.section || one.line - other.line || one.bar - other.bar) < 0;
}

function inOrder({ from, to }: BarSpan): BarSpan {
  return isBefore(to, from) ? { from: to, to: from } : { from, to };
}

/** True where a written bar lies in a span. */
export function isInSpan(place: BarPlace, span: BarSpan): boolean {
  const { from, to } = inOrder(span);
  return !isBefore(place, from) && !isBefore(to, place);
}

/**
 * The bars of a span as they are written, to be pasted elsewhere.
 * @example barsOfSpan(song, { from: { section: 0, line: 0, bar: 1 }, to: { section: 0, line: 0, bar: 2 } }).length // 2
 */
export function barsOfSpan(song: Pick<Song, 'sections'>, span: BarSpan): Bar[] {
  return song.sections.flatMap(({ lines }, section) =>
    lines.flatMap(({ bars }, line) =>
      bars.filter((_, bar) => isInSpan({ section, line, bar }, span)),
    ),
  );
}

/** A bar for a song of another meter: rhythms of its own are fitted, chords beyond its end let go. */
function barIn(bar: Bar, meter: Meter): Bar {
  const { meter: counted, ticks } = barLength(bar, meter);
  const chords = bar.chords.filter(({ at }) => at < ticks);
  const inside = chords.length === bar.chords.length ? bar : { ...bar, chords };
  const { pattern, timed = [], stop } = bar.rules ?? {};
  const own = [pattern, ...timed.map((one) => one.pattern)];
  const fits = own.every((one) => !one || sameMeter(one.meter, counted));
  const fitted = fits ? inside : withEachRhythm(inside, (one) => fitPattern(one, counted));
  return stop === undefined || stop < ticks ? fitted : withRules(fitted, { stop: undefined });
}

const changed = (name: string, apply: (song: Song) => Song): Command => ({ name, apply });

/** The song with the lines of its sections made anew; lines without bars are taken away. */
function withLines(
  song: Song,
  change: (bars: Bar[], section: number, line: number) => Bar[],
): Song {
  let any = false;
  const sections = song.sections.map((section, at) => {
    const lines = section.lines.flatMap((line, index): Line[] => {
      const bars = change(line.bars, at, index);
      if (bars === line.bars) return [line];
      any = true;
      return bars.length > 0 ? [{ ...line, bars: bars.slice(0, MAX_BARS_OF_LINE) }] : [];
    });
    const same =
      lines.length === section.lines.length && lines.every((line, i) => line === section.lines[i]);
    return same ? section : { ...section, lines };
  });
  return any ? { ...song, sections } : song;
}

function remove(song: Song, span: BarSpan): Song {
  return withLines(song, (bars, section, line) => {
    const left = bars.filter((_, bar) => !isInSpan({ section, line, bar }, span));
    return left.length === bars.length ? bars : left;
  });
}

function insert(song: Song, place: BarPlace, bars: Bar[]): Song {
  const fresh = bars.map((bar) => barIn(bar, song.meter));
  if (fresh.length === 0) return song;
  const target = song.sections[place.section];
  if (!target) return song;
  if (!target.lines[place.line]) {
    const line: Line = { bars: fresh.slice(0, MAX_BARS_OF_LINE), times: 1 };
    return withSection(song, place.section, (section) => ({
      ...section,
      lines: [...section.lines, line].slice(0, MAX_LINES),
    }));
  }
  return withLines(song, (before, section, line) =>
    section === place.section && line === place.line
      ? before.toSpliced(place.bar, 0, ...fresh)
      : before,
  );
}

/** Passages that only name sections there are; undefined for none, as they are written then. */
function keptOrder(order: Passage[] | undefined): Passage[] | undefined {
  return order && order.length > 0 ? order : undefined;
}

function withOrder({ order: _, ...song }: Song, order: Passage[] | undefined): Song {
  const kept = keptOrder(order);
  return kept ? { ...song, order: kept } : song;
}

/** A name that no section has: "Verse 2". */
function freeName(song: Song, name: string): string {
  const stem = name.replace(/ \d+$/, '') || 'Section';
  const taken = new Set(song.sections.map((section) => section.name));
  for (let number = 2; ; number += 1) {
    const tried = `${stem.slice(0, 36)} ${number}`;
    if (!taken.has(tried)) return tried;
  }
}

/**
 * The passages of a song as a list that can be moved about: its order, or the sections as they are written.
 * @example passageList(song) // [{ name: 'Verse', times: 1 }, { name: 'Chorus', times: 2 }]
 */
export function passageList({ sections, order }: Pick<Song, 'sections' | 'order'>): Passage[] {
  return order ?? sections.map(({ name }) => ({ name, times: 1 }));
}

/**
 * How many bars each passage of the list has, all its times round together; none where it calls for a section that
 * the song has not.
 * @param bars of the song as it is played
 * @example passageLengths(song, playedBars(song)) // [8, 16]
 */
export function passageLengths(
  song: Pick<Song, 'sections' | 'order'>,
  bars: Pick<PlayedBar, 'passage'>[],
): number[] {
  const rounds = new Map<number, number>();
  for (const { passage } of bars) rounds.set(passage, (rounds.get(passage) ?? 0) + 1);
  const known = new Set(song.sections.map(({ name }) => name));
  let round = 0;
  return passageList(song).map(({ name, times }) => {
    if (song.order && (!name || !known.has(name))) return 0;
    let sum = 0;
    for (let time = 0; time < times; time += 1) sum += rounds.get(round++) ?? 0;
    return sum;
  });
}

function moved<T>(list: T[], from: number, to: number): T[] {
  const item = list[from];
  return item === undefined ? list : list.toSpliced(from, 1).toSpliced(to, 0, item);
}

function onChord(place: BarPlace, at: number, change: (chord: Placement) => Placement) {
  return (song: Song): Song =>
    withBar(song, place, (bar) => ({
      ...bar,
      chords: bar.chords.map((chord) => (chord.at === at ? change(chord) : chord)),
    }));
}

export const barCommands = {
  /** Puts bars in before a place; at the end of a section, where its line is one beyond the last. */
  insertBars: (place: BarPlace, bars: Bar[]): Command =>
    changed('paste bars', (song) => insert(song, place, bars)),

  /** Puts bars in the place of others. */
  replaceBars: (span: BarSpan, bars: Bar[]): Command =>
    changed('paste over bars', (song) => {
      const { from } = inOrder(span);
      if (bars.length === 0 || !barAt(song, from)) return song;
      // The first bar keeps the line there until the others are in.
      const filled = insert(song, from, bars);
      const shift = (place: BarPlace): BarPlace =>
        place.section === from.section && place.line === from.line
          ? { ...place, bar: place.bar + bars.length }
          : place;
      return remove(filled, { from: shift(from), to: shift(inOrder(span).to) });
    }),

  removeBars: (span: BarSpan): Command => changed('delete bars', (song) => remove(song, span)),

  /** The bars once more, right after them. */
  repeatBars: (span: BarSpan): Command =>
    changed('repeat bars', (song) => {
      const { to } = inOrder(span);
      return insert(song, { ...to, bar: to.bar + 1 }, barsOfSpan(song, span));
    }),

  /** Another meter for one bar; null for the song's. */
  setBarMeter: (place: BarPlace, meter: Meter | null): Command =>
    changed('change the meter of a bar', (song) =>
      withBar(song, place, ({ meter: _, pickup: __, ...bar }) =>
        barIn(meter && !sameMeter(meter, song.meter) ? { ...bar, meter } : bar, song.meter),
      ),
    ),

  /** Only the last beats of a bar; null for all of them. */
  setPickup: (place: BarPlace, beats: number | null): Command =>
    changed('change a pick-up', (song) =>
      withBar(song, place, ({ meter: _, pickup: __, ...bar }) =>
        barIn(
          beats !== null && beats < song.meter.beats ? { ...bar, pickup: beats } : bar,
          song.meter,
        ),
      ),
    ),

  /** Strikes a chord once and holds it, or lets the pattern go on. */
  setFermata: (place: BarPlace, at: number, on: boolean): Command =>
    changed(
      on ? 'hold a chord' : 'let a chord go on',
      onChord(place, at, ({ fermata: _, ...chord }) => (on ? { ...chord, fermata: true } : chord)),
    ),

  /** Another chord in the place of one, one of the times; null takes it away. */
  setSubstitute: (place: BarPlace, at: number, time: TimeRound, symbol: string | null): Command =>
    changed(
      'change a chord for a time',
      onChord(place, at, ({ substitutes = [], ...chord }) => {
        const others = substitutes.filter((other) => other.time !== time);
        const all = symbol === null ? others : [...others, { time, symbol }];
        return all.length > 0 ? { ...chord, substitutes: all.slice(0, 8) } : chord;
      }),
    ),

  /** Puts a section elsewhere among those that are written. */
  moveSection: (from: number, to: number): Command =>
    changed('move a section', (song) => ({ ...song, sections: moved(song.sections, from, to) })),

  /** A passage elsewhere in the order of playing. */
  movePassage: (from: number, to: number): Command => ({
    name: 'move a passage',
    apply: (song) =>
      song.order
        ? withOrder(song, moved(song.order, from, to))
        : barCommands.moveSection(from, to).apply(song),
  }),

  /** Puts a section in, after another. */
  insertSection: (after: number, section: Section): Command =>
    changed('paste a section', (song) => {
      if (song.sections.length >= MAX_SECTIONS) return song;
      const taken = song.sections.some(({ name }) => name === section.name);
      const name = taken || section.name === '' ? freeName(song, section.name) : section.name;
      const rhythm = section.rules?.pattern;
      const lines = section.lines.map((line) => ({
        ...line,
        bars: line.bars.map((bar) => barIn(bar, song.meter)),
      }));
      const fresh: Section = rhythm
        ? withRules({ ...section, name, lines }, { pattern: fitPattern(rhythm, song.meter) })
        : { ...section, name, lines };
      const order = song.order && [...song.order, { name, times: 1 }];
      return withOrder({ ...song, sections: song.sections.toSpliced(after + 1, 0, fresh) }, order);
    }),

  removeSection: (index: number): Command =>
    changed('delete a section', (song) => {
      const gone = song.sections[index];
      if (!gone) return song;
      const sections = song.sections.toSpliced(index, 1);
      const left = sections.some(({ name }) => name === gone.name);
      const order = left ? song.order : song.order?.filter(({ name }) => name !== gone.name);
      return withOrder({ ...song, sections }, order);
    }),

  /** Another name, in the order of playing too. */
  renameSection: (index: number, name: string): Command =>
    changed('rename a section', (song) =>
      produce(song, (draft) => {
        const section = draft.sections[index];
        if (!section) return;
        for (const passage of draft.order ?? []) {
          if (passage.name === section.name && name !== '') passage.name = name;
        }
        section.name = name;
      }),
    ),

  /** The order in which sections are played; null for the one they are written in. */
  setOrder: (order: Passage[] | null): Command =>
    changed('change the order', (song) => withOrder(song, order ?? undefined)),

  /** Whether times round are counted over the whole song, or within each passage. */
  countEndings: (over: 'song' | 'passage'): Command =>
    changed('count endings otherwise', ({ endings: _, ...song }) =>
      over === 'song' ? { ...song, endings: over } : song,
    ),
};
