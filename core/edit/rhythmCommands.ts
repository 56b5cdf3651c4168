import type {
  BarRules,
  OpenStrokes,
  Pattern,
  RunWish,
  SectionRules,
  Song,
  SplitRule,
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
import { barLength } from '../song';

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
      return after.pattern === pattern ? back : withPattern(back, target, after.pattern);
    },
  };
}

/** The song's own pattern, in the meter that a variation of another rhythm took the song to. */
function fitted(after: Song, before: Song): Pattern {
  return withPattern({ ...after, pattern: before.pattern }, { of: 'song' }, before.pattern).pattern;
}

const changed = (name: string, apply: (song: Song) => Song): Command => ({ name, apply });

/** Commands on how the rhythms and the chords of a song go together. */
export const rhythmCommands = {
  /** Gives a section, a chord or a bar a rhythm of its own, or takes it away. */
  setRhythm: (target: RhythmTarget, pattern: Pattern | null): Command =>
    changed(pattern ? 'give it a rhythm' : 'take its rhythm away', (song) =>
      withPattern(song, target, pattern),
    ),

  setBarRules: (place: BarPlace, rules: Partial<BarRules>): Command =>
    changed('change a bar', (song) => withBar(song, place, (bar) => withRules(bar, rules))),

  setSectionRules: (section: number, rules: Partial<SectionRules>): Command =>
    changed('change a section', (song) =>
      withSection(song, section, (before) => withRules(before, rules)),
    ),

  /** What becomes of the pattern in bars that chords share, unless a section or a bar says otherwise. */
  setSplit: (split: SplitRule): Command =>
    changed('change shared bars', ({ split: _, ...song }) =>
      split === 'roll' ? song : { ...song, split },
    ),

  /** Strokes on open strings before each landing. */
  setOpenStrokes: (count: OpenStrokes): Command =>
    changed('change the transitions', ({ openStrokes: _, ...song }) =>
      count === 0 ? song : { ...song, openStrokes: count },
    ),

  /** The same before one landing; null for the song's rule. */
  setOpenStrokesOf: (place: BarPlace, at: number, count: OpenStrokes | null): Command =>
    changed('change a transition', (song) =>
      withBar(song, place, (bar) => ({
        ...bar,
        chords: bar.chords.map(({ openStrokes: before, ...chord }) => {
          if (chord.at !== at)
            return before === undefined ? chord : { ...chord, openStrokes: before };
          return count === null ? chord : { ...chord, openStrokes: count };
        }),
      })),
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
