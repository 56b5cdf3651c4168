import { produce } from 'immer';
import type { Bar, Meter, Pattern, Placement, Section, Song, TimeRound } from '../schema';
import { fitPattern } from '../pattern';
import { barTicks } from '../time';
import { playedBars, timeWords } from '../song';

/** A bar as it is written. */
export interface BarPlace {
  section: number;
  line: number;
  bar: number;
}

/** Whose rhythm is meant: the song's, a section's, a chord's, a bar's, or a bar's one of the times that it comes. */
export type RhythmTarget =
  | { of: 'song' }
  | { of: 'section'; section: number }
  | { of: 'chord'; symbol: string }
  | ({ of: 'bar'; time?: TimeRound } & BarPlace);

/** A bar of the song; undefined where there is none. */
export function barAt(song: Pick<Song, 'sections'>, place: BarPlace): Bar | undefined {
  return song.sections[place.section]?.lines[place.line]?.bars[place.bar];
}

function rhythmOf(bar: Bar | undefined, time: TimeRound | undefined): Pattern | null {
  if (time === undefined) return bar?.rules?.pattern ?? null;
  return bar?.rules?.timed?.find((one) => one.time === time)?.pattern ?? null;
}

/** The bar with a rhythm, always or one of the times that it comes; without it where none is given. */
function withRhythm(bar: Bar, time: TimeRound | undefined, pattern: Pattern | undefined): Bar {
  if (time === undefined) return withRules(bar, { pattern });
  const others = (bar.rules?.timed ?? []).filter((one) => one.time !== time);
  const timed = pattern ? [...others, { time, pattern }] : others;
  return withRules(bar, { timed: timed.length > 0 ? timed : undefined });
}

/**
 * A bar with all rhythms of its own changed; itself where it has none.
 * @example withEachRhythm(bar, (pattern) => fitPattern(pattern, METERS['3/4']))
 */
export function withEachRhythm(bar: Bar, change: (pattern: Pattern) => Pattern): Bar {
  const { pattern, timed } = bar.rules ?? {};
  if (!pattern && !timed) return bar;
  return withRules(bar, {
    ...(pattern && { pattern: change(pattern) }),
    ...(timed && { timed: timed.map((one) => ({ ...one, pattern: change(one.pattern) })) }),
  });
}

/**
 * The rhythm of a target; null where it has none of its own.
 * @example patternOf(song, { of: 'chord', symbol: 'D' })
 */
export function patternOf(song: Song, target: RhythmTarget): Pattern | null {
  switch (target.of) {
    case 'song':
      return song.pattern;
    case 'section':
      return song.sections[target.section]?.rules?.pattern ?? null;
    case 'chord':
      return song.chordPatterns?.find(({ symbol }) => symbol === target.symbol)?.pattern ?? null;
    case 'bar':
      return rhythmOf(barAt(song, target), target.time);
  }
}

/** An object without the parts that are undefined; undefined where nothing is left. */
function kept<T extends object>(rules: T): T | undefined {
  const parts = Object.entries(rules).filter(([, part]) => part !== undefined);
  return parts.length > 0 ? (Object.fromEntries(parts) as T) : undefined;
}

/** Changes the rules of a bar or a section; rules that say nothing are taken away. */
export function withRules<T extends { rules?: object }>(
  owner: T,
  change: Partial<NonNullable<T['rules']>>,
): T {
  const { rules: before, ...rest } = owner;
  const rules = kept({ ...before, ...change });
  return (rules ? { ...rest, rules } : rest) as T;
}

/** The song with one of its bars changed. */
export function withBar(song: Song, place: BarPlace, change: (bar: Bar) => Bar): Song {
  const bar = barAt(song, place);
  const after = bar && change(bar);
  if (!after || after === bar) return song;
  return produce(song, (draft) => {
    draft.sections[place.section]!.lines[place.line]!.bars[place.bar] = after;
  });
}

/** The song with one of its sections changed. */
export function withSection(
  song: Song,
  index: number,
  change: (section: Section) => Section,
): Song {
  const section = song.sections[index];
  return section ? { ...song, sections: song.sections.with(index, change(section)) } : song;
}

/**
 * Gives a target a rhythm, fitted to the song's meter, or takes it away; the song itself always has one.
 */
export function withPattern(song: Song, target: RhythmTarget, given: Pattern | null): Song {
  const own = target.of === 'bar' ? barAt(song, target)?.meter : undefined;
  const pattern = given ? fitPattern(given, own ?? song.meter) : undefined;
  switch (target.of) {
    case 'song':
      return pattern ? { ...song, pattern } : song;
    case 'section':
      return withSection(song, target.section, (section) => withRules(section, { pattern }));
    case 'bar':
      return withBar(song, target, (bar) => withRhythm(bar, target.time, pattern));
    case 'chord': {
      const { chordPatterns = [], ...rest } = song;
      const others = chordPatterns.filter(({ symbol }) => symbol !== target.symbol);
      const all = pattern ? [...others, { symbol: target.symbol, pattern }] : others;
      return all.length > 0 ? { ...rest, chordPatterns: all } : rest;
    }
  }
}

/**
 * Every second bar of a section, as written, from one of them on and before it.
 * @example everySecondBar(song, { section: 0, line: 0, bar: 1 }).length // 4, of eight bars
 */
export function everySecondBar(song: Pick<Song, 'sections'>, place: BarPlace): RhythmTarget[] {
  const { section } = place;
  const bars = (song.sections[section]?.lines ?? []).flatMap(({ bars: row }, line) =>
    row.map((_, bar) => ({ of: 'bar' as const, section, line, bar })),
  );
  const here = bars.findIndex(({ line, bar }) => line === place.line && bar === place.bar);
  return bars.filter((_, at) => (at - here) % 2 === 0);
}

/** All rules in another meter: rhythms are fitted, stops beyond the bar are let go. */
export function rulesInMeter(song: Song, meter: Meter): Song {
  return produce(song, (draft) => {
    for (const rule of draft.chordPatterns ?? []) rule.pattern = fitPattern(rule.pattern, meter);
    for (const section of draft.sections) {
      if (section.rules?.pattern) section.rules.pattern = fitPattern(section.rules.pattern, meter);
      for (const { rules, meter: own } of section.lines.flatMap(({ bars }) => bars)) {
        if (rules?.pattern) rules.pattern = fitPattern(rules.pattern, own ?? meter);
        for (const one of rules?.timed ?? []) one.pattern = fitPattern(one.pattern, own ?? meter);
        const length = barTicks(own ?? meter);
        if (rules?.stop !== undefined && rules.stop >= length) delete rules.stop;
        if (rules?.tune) {
          rules.tune.notes = rules.tune.notes.filter(({ at }) => at < length);
          if (rules.tune.notes.length === 0) delete rules.tune;
        }
        if (rules?.words) {
          rules.words = rules.words.filter(({ at }) => at < length);
          if (rules.words.length === 0) delete rules.words;
        }
      }
    }
  });
}

const written = ({ chords, unread, meter, pickup }: Bar) =>
  JSON.stringify([
    chords.map(({ at, push, symbol, substitutes, fermata }) => [
      at,
      push,
      symbol,
      substitutes,
      fermata,
    ]),
    unread,
    meter,
    pickup,
  ]);

const CARRIED = ['run', 'openStrokes', 'travel', 'arrive'] as const;

/** What a chord carries that the line of text does not say. */
function carriedChord(before: Placement | undefined, after: Placement): Placement {
  if (!before || before.at !== after.at) return after;
  if (!CARRIED.some((part) => before[part] !== undefined)) return after;
  const { run, openStrokes, travel, arrive } = before;
  return {
    ...after,
    ...(run && { run }),
    ...(openStrokes !== undefined && { openStrokes }),
    ...(travel && { travel }),
    ...(arrive && { arrive }),
  };
}

function carriedBar(before: Bar | undefined, after: Bar): Bar {
  if (!before) return after;
  const chords = after.chords.map((chord) =>
    carriedChord(
      before.chords.find(({ at }) => at === chord.at),
      chord,
    ),
  );
  const same = chords.every((chord, index) => chord === after.chords[index]);
  const bar = same ? after : { ...after, chords };
  return before.rules && !bar.rules ? { ...bar, rules: before.rules } : bar;
}

/**
 * Carries what the line of text does not say over to sections that were read again from it: the rules
 * of bars before and after the place that was edited stay with them, those inside it by their order.
 * Sections keep theirs by name.
 */
export function carryRules(before: Section[], after: Section[]): Section[] {
  const barsIn = (sections: Section[]) =>
    sections.flatMap(({ lines }) => lines.flatMap(({ bars }) => bars));
  const whole = sourcesOf(barsIn(before), barsIn(after));
  let next = 0;
  const names = new Map<string, number>();
  return after.map((section, at) => {
    const times = names.get(section.name) ?? 0;
    names.set(section.name, times + 1);
    const namesake = before.filter(({ name }) => name === section.name)[times];
    const from = namesake ?? (before.length === after.length ? before[at] : undefined);
    const own = from && sourcesOf(barsIn([from]), barsIn([section]));
    let inside = 0;
    const lines = section.lines.map((line) => {
      const bars = line.bars.map((bar) => {
        const source = own?.[inside++] ?? whole[next];
        next += 1;
        return carriedBar(source, bar);
      });
      return bars.every((bar, index) => bar === line.bars[index]) ? line : { ...line, bars };
    });
    return { ...section, lines, ...(from?.rules && { rules: from.rules }) };
  });
}

/** Which bar each one was before: those before and after the place that was edited, and in it those at its place. */
function sourcesOf(old: Bar[], fresh: Bar[]): (Bar | undefined)[] {
  const [oldText, freshText] = [old.map(written), fresh.map(written)];
  const shorter = Math.min(old.length, fresh.length);
  let head = 0;
  while (head < shorter && oldText[head] === freshText[head]) head += 1;
  let tail = 0;
  while (tail < shorter - head && oldText.at(-1 - tail) === freshText.at(-1 - tail)) tail += 1;
  return fresh.map((_, index) => {
    if (index < head) return old[index];
    if (index >= fresh.length - tail) return old[index - fresh.length + old.length];
    return old.length === fresh.length ? old[index] : undefined;
  });
}

/**
 * The rhythms that a song has, with what each is called.
 * @example rhythmTargets(song).map(({ label }) => label) // ['the song', 'Chorus', 'every D']
 */
export function rhythmTargets(song: Song): { label: string; target: RhythmTarget }[] {
  const found: { label: string; target: RhythmTarget }[] = [
    { label: 'the song', target: { of: 'song' } },
  ];
  song.sections.forEach((section, index) => {
    if (!section.rules?.pattern) return;
    const label = section.name || `section ${index + 1}`;
    found.push({ label, target: { of: 'section', section: index } });
  });
  for (const { symbol } of song.chordPatterns ?? []) {
    found.push({ label: `every ${symbol}`, target: { of: 'chord', symbol } });
  }
  const first = new Map<string, number>();
  for (const { section, line, bar, index } of playedBars(song)) {
    const key = `${section}/${line}/${bar}`;
    if (!first.has(key)) first.set(key, index);
  }
  song.sections.forEach(({ lines }, section) =>
    lines.forEach(({ bars }, line) =>
      bars.forEach(({ rules }, bar) => {
        if (!rules) return;
        const index = first.get(`${section}/${line}/${bar}`);
        const label = index === undefined ? 'a bar that is not played' : `bar ${index + 1}`;
        const target = { of: 'bar', section, line, bar } as const;
        if (rules.pattern) found.push({ label, target });
        for (const { time } of rules.timed ?? []) {
          found.push({ label: `${label}, ${timeWords(time)}`, target: { ...target, time } });
        }
      }),
    ),
  );
  return found;
}
