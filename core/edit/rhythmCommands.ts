import type {
  Arrival,
  BarRules,
  OpenStrokes,
  Pattern,
  Placement,
  RuledOut,
  RunWish,
  SectionRules,
  Song,
  SplitRule,
  Travel,
  Tune,
  TuneMeets,
  UsualRun,
} from '../schema';
import type { Command } from './commands';
import {
  type BarPlace,
  patternOf,
  type RhythmTarget,
  withBar,
  withPattern,
  withRules,
  withSection,
} from './rules';
import { strokeKey } from '../pattern';
import { renamed } from './ownName';
import { barLength, type Piece, withEachBar, withWords } from '../song';

/**
 * A command on the song's pattern, done on the rhythm of a target instead: what the Strum station edits
 * may be the rhythm of a section, of a chord or of one bar.
 * @example onRhythm({ of: 'chord', symbol: 'D' }, commands.setStroke(0, strum('down')))
 */
export function onRhythm(target: RhythmTarget, command: Command): Command {
  if (target.of === 'song') return command;
  return {
    name: command.name,
    apply: (song) => {
      const pattern = patternOf(song, target);
      if (!pattern) return song;
      const after = command.apply({ ...song, pattern });
      const back = {
        ...after,
        pattern: after.meter === song.meter ? song.pattern : fitted(after, song),
      };
      if (after.pattern === pattern) return back;
      return withPattern(back, target, renamed(song, target, pattern, after.pattern));
    },
  };
}

/** The song's own pattern, in the meter that a variation of another rhythm took the song to. */
function fitted(after: Song, before: Song): Pattern {
  return withPattern({ ...after, pattern: before.pattern }, { of: 'song' }, before.pattern).pattern;
}

/** A chord where it is written: its bar, and its place in ticks from the bar line. */
export interface LandingPlace extends BarPlace {
  at: number;
}

/** The song with the chords at some places changed. */
function withPlacements(
  song: Song,
  places: LandingPlace[],
  change: (chord: Placement) => Placement,
): Song {
  return places.reduce(
    (now, { at, ...place }) =>
      withBar(now, place, (bar) => ({
        ...bar,
        chords: bar.chords.map((chord) => (chord.at === at ? change(chord) : chord)),
      })),
    song,
  );
}

const withTravelOf = (
  song: Song,
  places: LandingPlace[],
  count: OpenStrokes | null,
  how: Travel,
): Song =>
  withPlacements(song, places, ({ openStrokes: _, travel: __, ...chord }) => ({
    ...chord,
    ...(count !== null && { openStrokes: count }),
    ...(count !== null &&
      (how !== 'open' || (song.travel ?? 'open') !== 'open') && { travel: how }),
  }));

/** The strokes of what lies under a target: of its section, or of the song; null where a chord's own may do. */
function underKey(song: Song, target: RhythmTarget): string | null {
  if (target.of === 'song') return null;
  const chords = (song.chordPatterns ?? []).some(
    ({ symbol }) => target.of !== 'chord' || symbol !== target.symbol,
  );
  const section = target.of === 'bar' ? song.sections[target.section]?.rules?.pattern : undefined;
  return chords && target.of !== 'section' ? null : strokeKey(section ?? song.pattern);
}

const changed = (name: string, apply: (song: Song) => Song): Command => ({ name, apply });

/** Commands on how the rhythms and the chords of a song go together. */
export const rhythmCommands = {
  /** Gives a section, a chord or a bar a strum of its own, or takes it away. */
  setRhythm: (target: RhythmTarget, pattern: Pattern | null): Command =>
    changed(pattern ? 'give it a rhythm' : 'take its rhythm away', (song) =>
      withPattern(song, target, pattern),
    ),

  /** The rhythm of a section, a chord or a bar as it was said; with a name that says what it is. */
  sayRhythm: (target: RhythmTarget, said: Pattern): Command =>
    changed('say a rhythm', (song) => {
      const before = patternOf(song, target);
      const named = before ? { ...said, name: before.name } : said;
      return withPattern(song, target, renamed(song, target, before, named));
    }),

  /**
   * Lays a rhythm on several bars, sections or chords in one step, or takes theirs off. Where what lies under it is
   * that rhythm anyway, they have none of their own.
   */
  layRhythm: (targets: RhythmTarget[], pattern: Pattern | null): Command =>
    changed(pattern ? `lay “${pattern.name}”` : 'take a rhythm off', (song) =>
      targets.reduce((before, target) => {
        const under = pattern && strokeKey(pattern) === underKey(before, target);
        return withPattern(before, target, under ? null : pattern);
      }, song),
    ),

  setBarRules: (place: BarPlace, rules: Partial<BarRules>): Command =>
    changed('change a bar', (song) => withBar(song, place, (bar) => withRules(bar, rules))),

  /** The line of notes of a bar, or none. */
  setTune: (place: BarPlace, tune: Tune | null): Command =>
    changed(tune ? 'write notes' : 'delete notes', (song) =>
      withBar(song, place, (bar) => withRules(bar, { tune: tune ?? undefined })),
    ),

  /** The song without its lines of notes: the strums alone. */
  takeTunes: (): Command =>
    changed('delete all notes', (song) =>
      withEachBar(song, (bar) => (bar.rules?.tune ? withRules(bar, { tune: undefined }) : bar)),
    ),

  /** The words of one verse of a line, bar by bar; empty rows take them away. */
  setWords: (section: number, line: number, verse: number, pieces: Piece[][]): Command =>
    changed('write words', (song) =>
      withSection(song, section, (before) => ({
        ...before,
        lines: before.lines.map((one, index) =>
          index === line ? { ...one, bars: withWords(one.bars, verse, pieces) } : one,
        ),
      })),
    ),

  /** How lines of notes meet the pattern, unless a section or a bar says otherwise. */
  setMeets: (meets: TuneMeets): Command =>
    changed('change how line and pattern meet', ({ meets: _, ...song }) =>
      meets === 'in place' ? song : { ...song, meets },
    ),

  setSectionRules: (section: number, rules: Partial<SectionRules>): Command =>
    changed('change a section', (song) =>
      withSection(song, section, (before) => withRules(before, rules)),
    ),

  /** What becomes of the pattern in bars that chords share, unless a section or a bar says otherwise. */
  setSplit: (split: SplitRule): Command =>
    changed('change shared bars', ({ split: _, ...song }) =>
      split === 'roll' ? song : { ...song, split },
    ),

  /** Strokes for a hand that travels, before each landing: how many, and how they are played. */
  setOpenStrokes: (count: OpenStrokes, how: Travel = 'open'): Command =>
    changed('change the transitions', ({ openStrokes: _, travel: __, ...song }) => ({
      ...song,
      ...(count > 0 && { openStrokes: count }),
      ...(count > 0 && how !== 'open' && { travel: how }),
    })),

  /** The same before one landing; null for the song's rule. */
  setOpenStrokesOf: (
    place: BarPlace,
    at: number,
    count: OpenStrokes | null,
    how: Travel = 'open',
  ): Command =>
    changed('change a transition', (song) => withTravelOf(song, [{ ...place, at }], count, how)),

  /** The same before several landings at once. */
  setTravel: (places: LandingPlace[], count: OpenStrokes, how: Travel): Command =>
    changed('change the strokes before a landing', (song) =>
      withTravelOf(song, places, count, how),
    ),

  /** How chords are first struck at some of their places; null for as the pattern says. */
  setArrival: (places: LandingPlace[], how: Arrival | null): Command =>
    changed('change how a chord lands', (song) =>
      withPlacements(song, places, ({ arrive: _, ...chord }) =>
        how ? { ...chord, arrive: how } : chord,
      ),
    ),

  /** How much earlier than their place chords land, in ticks. */
  setPush: (places: LandingPlace[], push: Placement['push']): Command =>
    changed(push > 0 ? 'push a chord' : 'land a chord on its place', (song) =>
      withPlacements(song, places, (chord) => ({ ...chord, push })),
    ),

  /** Plants chords on a later or earlier place of their bars, by so many ticks. */
  moveChords: (places: LandingPlace[], by: number): Command =>
    changed('move a chord', (song) =>
      places.reduce(
        (now, { at, ...place }) => rhythmCommands.moveChord(place, at, at + by).apply(now),
        song,
      ),
    ),

  /** What the player does not want to be advised to do. */
  setRuledOut: (ruledOut: RuledOut[]): Command =>
    changed('change what may be advised', ({ ruledOut: _, ...song }) =>
      ruledOut.length > 0 ? { ...song, ruledOut } : song,
    ),

  /**
   * Plants a chord on another place of its bar, in ticks from the bar line. Where a chord stands there
   * already, nothing changes.
   */
  moveChord: (place: BarPlace, from: number, to: number): Command =>
    changed('move a chord', (song) =>
      withBar(song, place, (bar) => {
        const taken = bar.chords.some(({ at }) => at === to);
        if (taken || to < 0 || to >= barLength(bar, song.meter).ticks) return bar;
        const moved = bar.chords.map((chord) => (chord.at === from ? { ...chord, at: to } : chord));
        return { ...bar, chords: moved.sort((one, two) => one.at - two.at) };
      }),
    ),

  /** How runs go where one is placed; null for as the pattern has it. */
  setUsualRun: (usual: UsualRun | null): Command =>
    changed('change how runs go', ({ usualRun: _, ...song }) =>
      usual ? { ...song, usualRun: usual } : song,
    ),

  /** Bass runs into several chords at once. */
  setRuns: (places: (LandingPlace & { run: RunWish })[]): Command =>
    changed('place runs', (song) =>
      places.reduce(
        (now, { run, ...place }) => withPlacements(now, [place], (chord) => ({ ...chord, run })),
        song,
      ),
    ),

  /** The song without its bass runs. */
  takeRuns: (): Command =>
    changed('delete all runs', (song) =>
      withEachBar(song, (bar) =>
        bar.chords.some(({ run }) => run)
          ? { ...bar, chords: bar.chords.map(({ run: _, ...chord }) => chord) }
          : bar,
      ),
    ),

  /** A bass run into the chord at a place of a bar; null takes it away. */
  setRun: (place: BarPlace, at: number, run: RunWish | null): Command =>
    changed(run ? 'place a run' : 'take a run away', (song) =>
      withBar(song, place, (bar) => ({
        ...bar,
        chords: bar.chords.map(({ run: before, ...chord }) => {
          if (chord.at !== at) return before === undefined ? chord : { ...chord, run: before };
          return run === null ? chord : { ...chord, run };
        }),
      })),
    ),
};
