import type { Ticks } from '../plain';
import type { Pattern, Song } from '../schema';
import { gracesOf, type Slot, type SoundingStroke } from '../stroke';
import type { Key } from '../neck';
import { secondsPerTick } from '../time';
import { countedBar } from './click';
import type { Performance, Strike } from './performance';
import {
  firstFrom,
  itemAt,
  type Landing,
  landings,
  type PlayedBar,
  playedBars,
  songTicks,
} from '../song';
import { withLegato } from './legato';
import { withTune } from './tune';
import { clearOfLandings, runKey, withRuns, withTransitionStrokes } from './leadIns';
import {
  arriving as arrivingStroke,
  dampedOf,
  openOf,
  articulated,
  type Articulation,
  articulationOf,
  passageLevels,
} from './articulation';
import { type RhythmPart, rhythms } from './rhythm';
import { feelAt, feelsOf, lateIn } from './swing';
import { bassStruck, type VoicingContext } from './voicing';
import { type Stroked, voicingsOf } from './voicings';
import { slotsOfBars } from './passes';

/** A song as it is played: everything that drawing, sound, files and judging read. */
export interface Arrangement {
  song: Song;
  bars: PlayedBar[];
  /** Every change of chord, in the order of playing. */
  changes: Landing[];
  /** The rhythm of each bar, in the order of `bars`. */
  rhythms: RhythmPart[][];
  performance: Performance;
}

/** True where two songs have the same bars, whatever is played in them. */
function sameBars(one: Song, other: Song): boolean {
  return (
    one.sections === other.sections &&
    one.meter === other.meter &&
    one.order === other.order &&
    one.endings === other.endings
  );
}

/**
 * Works a song out once: its bars, changes, rhythms and strikes together.
 * @param before the one that was known; bars that are the same keep their identity
 * @example arrangement(song).bars.length // 16
 */
export function arrangement(song: Song, before: Arrangement | null = null): Arrangement {
  const known = before && sameBars(before.song, song) ? before : null;
  const bars = known?.bars ?? playedBars(song);
  const changes = known?.changes ?? landings(bars);
  const parts = rhythms(song, bars);
  const performance = perform(song, bars, changes, parts);
  return { song, bars, changes, rhythms: parts, performance };
}

/** Bars of a song that is arranged already, and what is tried out in them. */
export interface Excerpt {
  /** First and last bar, as they are played, from 0. */
  first: number;
  last: number;
  /** The changes in and around them, as they are or otherwise. */
  changes: Landing[];
  /** Another pattern in place of one. */
  pattern?: { from: Pattern; to: Pattern };
}

/**
 * Works out some bars of a song alone, for trying out what a change to them would do. The same strikes as
 * the whole song has there, if the bars begin and end at landings.
 * @param voicings of the song that is tried, from `voicingsOf`; worked out once for many excerpts
 * @example excerptStrikes(arranged, song, voicingsOf(song), { first: 3, last: 4, changes }).length // 9
 */
export function excerptStrikes(
  arranged: Arrangement,
  song: Song,
  voicings: ReturnType<typeof voicingsOf>,
  { first, last, changes, pattern }: Excerpt,
): Strike[] {
  const bars = arranged.bars.slice(first, last + 1);
  const rows = arranged.rhythms.slice(first, last + 1);
  const parts: RhythmPart[][] = [];
  rows.forEach((row, index) => {
    parts[first + index] = pattern
      ? row.map((part) => (part.pattern === pattern.from ? { ...part, pattern: pattern.to } : part))
      : row;
  });
  return struck(song, bars, changes, parts, { ...wholeOf(arranged), voicings }).strikes;
}

/**
 * Puts the pattern and the chords together: every strike of the song with its time, strings and
 * loudness. Which pattern carries a bar is for `rhythms` to say. Sound, drawing and files all read this
 * one list.
 *
 * A chord that cannot be read sounds nothing; its chucks still do. Misses and holds are not in
 * the list.
 *
 * @example arrange(song).strikes[0] // { kind: 'strum', tick: 0, chord: 'A', notes: [5 strings], ... }
 */
export function arrange(song: Song): Performance {
  return arrangement(song).performance;
}

function perform(
  song: Song,
  bars: PlayedBar[],
  changes: Landing[],
  parts: RhythmPart[][],
): Performance {
  const { tempo, meter } = song;
  const perTick = secondsPerTick(tempo, meter);
  const feels = feelsOf(parts);
  const levels = passageLevels(song, bars);
  const key = keyOf(song, changes);
  const whole = { voicings: voicingsOf(song), feels, levels, key };
  const { strikes, arriving, leftOut, lostRuns, silent } = struck(
    song,
    bars,
    changes,
    parts,
    whole,
  );
  const ticks = songTicks(bars);
  return {
    tempo,
    ticks,
    seconds: ticks * perTick,
    tail: changes.at(-1)?.placement.fermata ? bars.at(-1)!.ticks : 0,
    bars: bars.map(countedBar),
    feels,
    landings: arriving,
    strikes,
    leftOut,
    lostRuns,
    silent,
  };
}

/** What is known of the whole song while some bars of it are worked out. */
interface Whole {
  voicings: ReturnType<typeof voicingsOf>;
  feels: Performance['feels'];
  levels: ReturnType<typeof passageLevels>;
  key: () => Key;
}

/** The key that the chords of a song are in, asked for only where there are runs. */
function keyOf(song: Song, changes: Landing[]): () => Key {
  let key: Key | null = null;
  return () => (key ??= runKey(song, changes));
}

const wholes = new WeakMap<Arrangement, Omit<Whole, 'voicings'>>();

function wholeOf(arranged: Arrangement): Omit<Whole, 'voicings'> {
  const { song, bars, changes, performance } = arranged;
  const known = wholes.get(arranged) ?? {
    feels: performance.feels,
    levels: passageLevels(song, bars),
    key: keyOf(song, changes),
  };
  wholes.set(arranged, known);
  return known;
}

function struck(
  song: Song,
  bars: PlayedBar[],
  changes: Landing[],
  parts: RhythmPart[][],
  { voicings, feels, levels, key }: Whole,
): { strikes: Strike[]; arriving: Performance['landings'] } & Pick<
  Performance,
  'leftOut' | 'lostRuns' | 'silent'
> {
  const perTick = secondsPerTick(song.tempo, song.meter);
  const { hold, touch } = voicings;
  const played = new Map<Slot, Articulation | null>();
  const articulation = (slot: Slot, from: Pattern) => {
    const known = played.get(slot);
    if (known !== undefined) return known;
    const fresh = articulationOf(from, slot);
    played.set(slot, fresh);
    return fresh;
  };

  const lateAt = (tick: Ticks) => {
    const bar = itemAt(bars, tick);
    return bar ? lateIn(bar, tick, feelAt({ feels }, tick)) : 0;
  };

  const strikes: Strike[] = [];
  const strokeOf = new Map<Strike, SoundingStroke>();
  let change = -1;
  let arrived = true;
  let lastBass: VoicingContext['lastBass'] = null;
  let heard = 0;
  const travels = song.openStrokes || changes.some(({ placement }) => placement.openStrokes);
  const origins: Stroked[] = [];
  for (const { slot, tick, bar, pattern: from } of slotsOfBars(bars, parts, changes)) {
    while (change + 1 < changes.length && changes[change + 1]!.tick <= tick) {
      change += 1;
      arrived = false;
      lastBass = null;
    }
    const level = levels[bar.passage];
    const landing: Landing | undefined = changes[change];
    const fermata = landing?.placement.fermata && tick < landing.barEnd;
    const under = fermata ? (arrived ? 'held' : 'struck') : null;
    const written = articulated(articulation(slot, from), bar, tick, level, under);
    if (!written) continue;
    const arrive = landing && !arrived ? landing.placement.arrive : undefined;
    const now = arrive ? arrivingStroke(written, arrive) : written;
    const { stroke } = now;
    const velocity = level ? level.of(now.velocity, tick) : now.velocity;
    const stroked = {
      stroke,
      symbol: landing?.symbol,
      pattern: from,
      velocity,
      ticks: slot.ticks,
      lastBass,
    };
    const { notes, damps } = touch(stroked);
    if (travels) origins.push(stroked);
    lastBass = bassStruck(stroke, lastBass);
    // Beats in three are even by themselves. A straight stroke never overtakes a swung one before it.
    const even = from.beats[slot.beat]!.division % 3 === 0;
    const late = Math.max(even ? 0 : lateIn(bar, tick, from.feel), heard - tick);
    heard = tick + late;
    const strike: Strike = {
      kind: now.kind,
      dir: now.dir,
      accent: now.accent,
      tick,
      ticks: slot.ticks,
      late,
      seconds: (tick + late) * perTick,
      bar: bar.index,
      slot: slot.index,
      chord: landing?.symbol ?? null,
      landing: landing !== undefined && !arrived,
      transition: now.transition,
      run: false,
      palm: now.palm,
      flesh: now.flesh,
      tap: now.tap,
      velocity,
      notes,
      damps,
    };
    strikes.push(strike);
    // Only what the fretting hand has a part in is asked for again.
    if (stroke.kind === 'legato' || gracesOf(stroke).length > 0) strokeOf.set(strike, stroke);
    arrived = true;
  }

  const travelling = (index: number, how: 'open' | 'damped'): Strike | null => {
    const stroked = origins[index]!;
    const { kind } = stroked.stroke;
    if (kind !== 'strum' && kind !== 'pick' && !(how === 'damped' && kind === 'roll')) return null;
    const stroke = how === 'open' ? openOf(stroked.stroke) : dampedOf(stroked.stroke);
    const { notes, damps } = touch({ ...stroked, stroke, lastBass: null });
    const strike = strikes[index]!;
    if (how === 'open') return { ...strike, transition: true, notes };
    return { ...strike, kind: 'chuck', transition: true, palm: false, notes, damps };
  };
  const { strikes: travelled, leftOut } = withTransitionStrokes(song, strikes, changes, travelling);
  const { strikes: run, lostRuns } = withRuns(song, travelled, bars, changes, {
    hold,
    lateAt,
    key,
  });
  const lost: Performance['silent'] = [];
  const withNotes = withTune(song, run, bars, {
    options: song,
    rhythms: parts,
    perTick,
    lateAt,
    chordAt: (tick) => {
      const landed = itemAt(changes, tick);
      const held = landed && hold(landed.symbol);
      return held ? { symbol: held.symbol, frets: held.shape.frets } : null;
    },
    tell: (strike, stroke) => strokeOf.set(strike, stroke),
    lose: (tick, message) => lost.push({ tick, message }),
  });
  const {
    strikes: met,
    silent,
    slides,
  } = withLegato(withNotes, changes, {
    options: song,
    bars,
    hold,
    strokeOf: (strike) => strokeOf.get(strike),
    perTick,
  });
  const arriving = changes.map(({ tick, symbol, push }) => {
    const next = met[firstFrom(met, tick)];
    // A chord never lands after the strike that it comes with, or the next.
    const late = next ? Math.min(lateAt(tick), next.tick + next.late - tick) : lateAt(tick);
    const strings = hold(symbol)?.pitches;
    return {
      tick,
      symbol,
      push,
      late,
      ...(strings && { strings }),
      ...(slides.has(tick) && { slides: true as const }),
    };
  });
  const clear = clearOfLandings(met, arriving, perTick);
  const unheard = [...silent, ...lost].sort((a, b) => a.tick - b.tick);
  return { strikes: clear, arriving, leftOut, lostRuns, silent: unheard };
}
