import type { Accent, Direction, Song, Stroke } from '../schema';
import { type HeldChord, holdChord } from '../neck';
import { armReport, patternTicks, type Slot, slots, sounds, strokeDirection } from '../stroke';
import { secondsPerTick } from '../time';
import type { Performance, Strike, StrikeNote } from './performance';
import { type Landing, landings, type PlayedBar, playedBars, songTicks } from './timeline';

/** How hard the hand strikes, by accent, 0 to 1. */
const VELOCITIES: Record<Accent, number> = { ghost: 0.32, normal: 0.6, accent: 0.82, strong: 1 };

/** A swing spends about this share of its time on the strings: the rest is turning. */
const TIME_ON_STRINGS = 0.12;
const SLOWEST_RAKE = 0.06;
const FASTEST_RAKE = 0.012;

/**
 * Seconds that the pick takes across all the strings, by the rate of the arm.
 * @param rate half-swings a second
 */
function rakeSeconds(rate: number): number {
  return Math.min(SLOWEST_RAKE, Math.max(FASTEST_RAKE, TIME_ON_STRINGS / rate));
}

function strumNotes(held: HeldChord, dir: Direction, velocity: number, rake: number): StrikeNote[] {
  const strings = held.pitches.flatMap((midi, string) => (midi === null ? [] : [{ midi, string }]));
  const reached = dir === 'down' ? strings : strings.reverse();
  const step = rake / Math.max(1, held.pitches.length - 1);
  return reached.map(({ midi, string }, order) => ({
    string,
    fret: held.shape.frets[string]!,
    midi,
    delay: order * step,
    // The pick loses a little of its force on the way.
    velocity: velocity * (1 - 0.05 * order),
  }));
}

function bassNotes(held: HeldChord, velocity: number): StrikeNote[] {
  return [{ ...held.bass, delay: 0, velocity: Math.min(1, velocity * 1.08) }];
}

type SoundingStroke = Extract<Stroke, { accent: Accent }>;
/** What a stroke sounds on a chord, and what it damps. */
type Touch = Pick<Strike, 'notes' | 'damps'>;

function touchOf(
  stroke: SoundingStroke,
  held: HeldChord | null,
  strings: number[],
  rake: number,
): Touch {
  if (stroke.kind === 'chuck') return { notes: [], damps: strings };
  if (held === null) return { notes: [], damps: [] };
  const velocity = VELOCITIES[stroke.accent];
  if (stroke.kind === 'bass') return { notes: bassNotes(held, velocity), damps: [] };
  return { notes: strumNotes(held, stroke.dir, velocity, rake), damps: [] };
}

/**
 * Puts the pattern and the chords together: every strike of the song with its time, strings and
 * loudness. The pattern rolls on through a section and starts again with the next. Sound, drawing
 * and files all read this one list.
 *
 * A chord that cannot be read sounds nothing; its chucks still do. Misses and holds are not in
 * the list.
 *
 * @example arrange(song).strikes[0] // { kind: 'strum', tick: 0, chord: 'A', notes: [5 strings], ... }
 */
export function arrange(song: Song): Performance {
  const bars = playedBars(song);
  const changes = landings(bars);
  const perTick = secondsPerTick(song.tempo, song.meter);
  const rake = rakeSeconds(armReport(song.pattern, song.tempo).rate);
  const strings = song.instrument.strings.map((_, string) => string);
  const held = new Map<string, HeldChord | null>();
  const hold = (symbol: string) => {
    if (!held.has(symbol)) held.set(symbol, holdChord(symbol, song));
    return held.get(symbol) ?? null;
  };
  // The same stroke on the same chord sounds the same strings, however often it comes.
  const struck = new Map<Stroke, Map<string | undefined, Touch>>();
  const touch = (stroke: SoundingStroke, symbol: string | undefined): Touch => {
    const onChords = struck.get(stroke) ?? new Map<string | undefined, Touch>();
    struck.set(stroke, onChords);
    const known = onChords.get(symbol);
    if (known) return known;
    const chord = symbol === undefined ? null : hold(symbol);
    const fresh = touchOf(stroke, chord, strings, rake);
    onChords.set(symbol, fresh);
    return fresh;
  };

  const strikes: Strike[] = [];
  let change = -1;
  let arrived = true;
  for (const { slot, tick, bar } of slotsOfBars(song, bars)) {
    while (change + 1 < changes.length && changes[change + 1]!.tick <= tick) {
      change += 1;
      arrived = false;
    }
    const { stroke } = slot;
    if (!sounds(stroke)) continue;
    const landing: Landing | undefined = changes[change];
    const { notes, damps } = touch(stroke, landing?.symbol);
    strikes.push({
      kind: stroke.kind,
      dir: strokeDirection(stroke)!,
      accent: stroke.accent,
      tick,
      ticks: slot.ticks,
      seconds: tick * perTick,
      bar: bar.index,
      slot: slot.index,
      chord: landing?.symbol ?? null,
      landing: landing !== undefined && !arrived,
      velocity: VELOCITIES[stroke.accent],
      notes,
      damps,
    });
    arrived = true;
  }

  const ticks = songTicks(bars);
  return { tempo: song.tempo, ticks, seconds: ticks * perTick, landings: changes, strikes };
}

/**
 * Every slot of every bar exactly once, in order: the pattern laid over the bars, from its start at
 * the start of each section.
 */
export function* slotsOfBars(
  song: Song,
  bars: PlayedBar[],
): Generator<{ slot: Slot; tick: number; bar: PlayedBar }> {
  const grid = slots(song.pattern);
  const length = patternTicks(song.pattern);
  let section = -1;
  let sectionTick = 0;
  for (const bar of bars) {
    if (bar.section !== section) {
      section = bar.section;
      sectionTick = bar.tick;
    }
    const end = bar.tick + bar.ticks;
    let turn = Math.floor((bar.tick - sectionTick) / length);
    for (;;) {
      const start = sectionTick + turn * length;
      if (start >= end) break;
      for (const slot of grid) {
        const tick = start + slot.tick;
        if (tick >= bar.tick && tick < end) yield { slot, tick, bar };
      }
      turn += 1;
    }
  }
}
