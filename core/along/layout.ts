import { modulo, type Seconds, type Ticks } from '../plain';
import type { BeatMap, LaidPart } from '../schema';
import type { PlayedBar } from '../song';
import { pulseTicks } from '../time';
import { nearestPulse, pulsesPerBar } from './beats';
import { edgeGap, secondsOf, tickOf } from './beatMap';

/**
 * How a song lies on a recording, which may have an intro, a solo or a repeat that the song has not. Ticks of the
 * recording are counted from its first bar line, ticks of the song from its own first stroke.
 */

/** A stretch of a recording that plays one stretch of the song, or what is not of the song. */
export interface LaidPiece {
  /** Ticks of the recording; without end at the first and the last. */
  from: Ticks;
  to: Ticks;
  /** Ticks of the song less ticks of the recording; null where it is not the song. */
  shift: Ticks | null;
}

/** A recording with the song on it. */
export interface Laid {
  map: BeatMap;
  pieces: LaidPiece[];
}

/** Bars of a song with how long it is. */
type Bars = readonly Pick<PlayedBar, 'index' | 'tick' | 'ticks' | 'lead'>[];

const endOf = (bars: Bars): Ticks => {
  const last = bars.at(-1);
  return last ? last.tick + last.ticks : 0;
};

/** The first bar that begins on a "one": a pick-up goes before it. */
export const firstWholeBar = (bars: Bars): number => (bars.length > 1 && bars[0]!.lead > 0 ? 1 : 0);

/**
 * Lays a song on a recording.
 * @param layout where which bar begins; empty: the first whole bar on the first bar line
 * @param bars of the song, as they are played
 * @returns pieces that cover the whole recording, in order
 * @example layOn(map, [{ pulse: 8, bar: 0 }], bars).pieces[0] // { from: -Infinity, to: 7680, shift: null }
 */
export function layOn(map: BeatMap, layout: readonly LaidPart[], bars: Bars): Laid {
  const pulse = pulseTicks(map.meter);
  const end = endOf(bars);
  const parts = layout.length > 0 ? layout : [{ pulse: map.one, bar: firstWholeBar(bars) }];
  const pieces: LaidPiece[] = [];
  const add = (from: Ticks, to: Ticks, shift: Ticks | null) => {
    if (from >= to) return;
    const before = pieces.at(-1);
    if (before && before.shift === shift) before.to = to;
    else pieces.push({ from, to, shift });
  };
  let until = -Infinity;
  parts.forEach((part, index) => {
    const at = (part.pulse - map.one) * pulse;
    const next = parts[index + 1];
    const to = next ? (next.pulse - map.one) * pulse : Infinity;
    const bar = part.bar === null ? undefined : bars[part.bar];
    if (!bar) {
      add(until, to, null);
      until = to;
      return;
    }
    const shift = bar.tick - at;
    // A pick-up sounds before the bar line that was said, where nothing of the song sounds yet.
    const before = bars[bar.index - 1];
    const silent = (pieces.at(-1)?.shift ?? null) === null;
    const early = silent && before && before.lead > 0 ? before.ticks : 0;
    const from = Math.max(at - early, pieces.at(-1)?.from ?? -Infinity);
    if (pieces.length === 0) add(-Infinity, from, null);
    else pieces.at(-1)!.to = from;
    add(from, Math.min(to, end - shift), shift);
    until = Math.min(to, end - shift);
    add(until, to, null);
    until = to;
  });
  return { map, pieces };
}

/** The piece at a tick of the recording. */
function pieceAt({ pieces }: Laid, tick: Ticks): LaidPiece | undefined {
  return pieces.find(({ from, to }) => from <= tick && tick < to);
}

/**
 * The tick of the song that sounds at a second of the recording; null where that is not the song.
 * @example songTickAt(laid, 4) // 0: the song begins there
 */
export function songTickAt(laid: Laid, seconds: Seconds): Ticks | null {
  const tick = tickOf(laid.map, seconds);
  const shift = pieceAt(laid, tick)?.shift ?? null;
  return shift === null ? null : tick + shift;
}

/** The pieces that play some tick of the song, in order. */
function piecesWith({ pieces }: Laid, tick: Ticks): (LaidPiece & { shift: Ticks })[] {
  return pieces.filter((piece): piece is LaidPiece & { shift: Ticks } => {
    const { from, to, shift } = piece;
    return shift !== null && from <= tick - shift && tick - shift < to;
  });
}

/**
 * The second of the recording at which a tick of the song sounds: the last time before `near`, or else the first
 * time. A tick that does not sound in it is where it would be if the song had gone on, or had begun sooner.
 * @example songSecondsAt(laid, 0) // 4
 */
export function songSecondsAt(laid: Laid, tick: Ticks, near: Seconds = 0): Seconds {
  const all = piecesWith(laid, tick);
  const at = ({ shift }: { shift: Ticks }) => secondsOf(laid.map, tick - shift);
  const piece = all.findLast((one) => at(one) <= near + 1e-6) ?? all[0];
  if (piece) return at(piece);
  const played = laid.pieces.flatMap(({ from, shift }) =>
    shift === null ? [] : [{ from, shift }],
  );
  const nearest = played.findLast(({ from, shift }) => from + shift <= tick) ?? played[0];
  return secondsOf(laid.map, tick - (nearest?.shift ?? 0));
}

/** Pulses a minute over a stretch of the song as the recording plays it, on the mean. */
export function songTempo(laid: Laid, from: Ticks, to: Ticks): number {
  const begins = songSecondsAt(laid, from);
  const seconds = secondsOf(laid.map, tickOf(laid.map, begins) + to - from) - begins;
  return (60 * (to - from)) / pulseTicks(laid.map.meter) / seconds;
}

/** A bar line on the recording. */
export interface MappedBar {
  /** From 1, of the recording. */
  number: number;
  /** The bar of the song that sounds there, from 1; null where it is none. */
  song: number | null;
  pulse: number;
  seconds: Seconds;
  /** How sure the pulses of the bar are, 0 to 1. */
  sure: number;
  set: boolean;
}

/**
 * The bar lines of a recording, in order: those of the song where it sounds, and as many pulses to a bar elsewhere.
 * @example mappedBars(laid, bars)[2] // { number: 3, song: 1, pulse: 8, seconds: 4, sure: 0.9, set: false }
 */
export function mappedBars({ map, pieces }: Laid, bars: Bars): MappedBar[] {
  const { meter, pulses, sure, one, set } = map;
  const each = pulsesPerBar(meter);
  const ticks = pulseTicks(meter);
  const inside = ({ from, to }: LaidPiece) => ({
    first: Math.max(0, Math.ceil(one + from / ticks)),
    end: Math.min(pulses.length, one + to / ticks),
  });
  const songLines = pieces.map((piece) => {
    const { first, end } = inside(piece);
    return bars.flatMap(({ index, tick }) => {
      const pulse = one + (tick - (piece.shift ?? 0)) / ticks;
      const shown = piece.shift !== null && Number.isInteger(pulse) && !startsPickUp(bars, index);
      return shown && pulse >= first && pulse < end ? [{ pulse, song: index + 1 }] : [];
    });
  });
  const lines = pieces.flatMap((piece, index): { pulse: number; song: number | null }[] => {
    if (piece.shift !== null) return songLines[index]!;
    const { first, end } = inside(piece);
    // Before the song bars are counted back from it, elsewhere on from where it ended.
    const next = songLines[index + 1]?.[0]?.pulse ?? one;
    const base = index === 0 ? next : one + piece.from / ticks;
    const from = first + modulo((Number.isInteger(base) ? base : one) - first, each);
    const count = Math.max(0, Math.ceil((end - from) / each));
    return Array.from({ length: count }, (_, bar) => ({ pulse: from + bar * each, song: null }));
  });
  return lines.map(({ pulse, song }, index) => {
    const own = sure.slice(pulse, lines[index + 1]?.pulse ?? pulse + each);
    return {
      number: index + 1,
      song,
      pulse,
      seconds: pulses[pulse]!,
      sure: own.reduce((sum, value) => sum + value, 0) / Math.max(1, own.length),
      set: set.includes(pulse),
    };
  });
}

/** The bar line that is nearest to a second of the recording; null where there is none. */
export function nearestBar(bars: MappedBar[], seconds: Seconds): MappedBar | null {
  const away = (bar: MappedBar) => Math.abs(bar.seconds - seconds);
  return bars.reduce<MappedBar | null>(
    (best, bar) => (best === null || away(bar) < away(best) ? bar : best),
    null,
  );
}

/** A pick-up begins on no bar line. */
const startsPickUp = (bars: Bars, index: number): boolean => index === 0 && bars[0]!.lead > 0;

/**
 * A part laid elsewhere: from this pulse on the recording plays the song from that bar, or no song.
 * @example layPart([], { pulse: 8, bar: 0 }) // [{ pulse: 8, bar: 0 }]
 */
export function layPart(layout: readonly LaidPart[], part: LaidPart): LaidPart[] {
  const others = layout.filter(({ pulse }) => pulse !== part.pulse);
  return [...others, part].sort((a, b) => a.pulse - b.pulse);
}

/**
 * The song begins on this pulse, and nothing of it before; what was laid after that stays.
 * @param bars of the song
 */
export function beginSong(layout: readonly LaidPart[], pulse: number, bars: Bars): LaidPart[] {
  const later = layout.filter((part) => part.pulse > pulse);
  const first = layout.find(({ bar }) => bar !== null);
  // A beginning that was said too early is moved, and not kept beside the new one.
  const kept = later.filter((part) => part !== first);
  return [{ pulse, bar: firstWholeBar(bars) }, ...kept];
}

/** Parts on the pulses of a map that was made anew: where they were, or on the pulse that is nearest in time. */
export function carryLayout(
  layout: readonly LaidPart[],
  before: BeatMap,
  after: BeatMap,
): LaidPart[] {
  const half = edgeGap(before, 'start') / 2;
  const moved = layout.flatMap(({ pulse, bar }) => {
    const at = before.pulses[pulse];
    if (at === undefined) return [];
    const stays = Math.abs((after.pulses[pulse] ?? Infinity) - at) < half;
    return [{ pulse: stays ? pulse : nearestPulse(after.pulses, at), bar }];
  });
  return moved.filter(({ pulse }, index) => index === 0 || pulse > moved[index - 1]!.pulse);
}

/**
 * The bar lines of a laid part moved so that one lies on this pulse: the part that sounds there goes along.
 * @param bars as `mappedBars` gives them
 */
export function moveDownbeat(
  layout: readonly LaidPart[],
  pulse: number,
  bars: MappedBar[],
): LaidPart[] {
  const line = bars.reduce<MappedBar | null>(
    (best, bar) =>
      best === null || Math.abs(bar.pulse - pulse) < Math.abs(best.pulse - pulse) ? bar : best,
    null,
  );
  const at = layout.findLastIndex((part) => line !== null && part.pulse <= line.pulse);
  const part = layout[at];
  if (!line || !part) return [...layout];
  const to = part.pulse + pulse - line.pulse;
  const [least, most] = [layout[at - 1]?.pulse ?? -1, layout[at + 1]?.pulse ?? Infinity];
  return to > least && to < most ? layout.with(at, { ...part, pulse: to }) : [...layout];
}
