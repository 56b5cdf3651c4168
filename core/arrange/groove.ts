import type { Ticks } from '../plain';
import type { Meter, Pattern } from '../schema';
import { backBeats, beatTicks, groupStarts, isCompound, strongBeats } from '../time';
import type { Performance } from './performance';
import { feelAt, lateIn } from './swing';

/** A drum track, made from the meter: no bar has to be written. */

export const DRUM_PIECES = ['kick', 'snare', 'rim', 'hat', 'open-hat', 'shaker', 'clap'] as const;
export type DrumPiece = (typeof DRUM_PIECES)[number];

/**
 * - `eighths`, `sixteenths`: a cymbal on each, drum on the strong beats and the back-beats;
 * - `shuffle`: the same with the second eighth on the last third of the beat;
 * - `waltz`: low on the one, light on the others;
 * - `pulse`: 6/8 and its kin, a cymbal on every beat, drums on the pulses;
 * - `claps`: claps on the accents of a cycle, a shaker on its counts.
 */
export const GROOVES = ['eighths', 'sixteenths', 'shuffle', 'waltz', 'pulse', 'claps'] as const;
export type Groove = (typeof GROOVES)[number];

export interface DrumHit {
  /** Ticks from the start of the song; a fraction where it is swung. */
  tick: Ticks;
  piece: DrumPiece;
  /** 0 to 1. */
  velocity: number;
}

/**
 * The groove that goes with a pattern where none is chosen.
 * @example grooveFor(METERS['3/4'], pattern) // 'waltz'
 */
export function grooveFor(meter: Meter, pattern: Pattern): Groove {
  if (meter.cycle) return 'claps';
  if (isCompound(meter)) return 'pulse';
  const { feel } = pattern;
  if (feel?.on === 'eighths' && feel.percent >= 60) return 'shuffle';
  if (meter.beats === 3 && meter.unit === 4) return 'waltz';
  return pattern.beats.some(({ division }) => division === 4 || division === 8)
    ? 'sixteenths'
    : 'eighths';
}

/** A hit of a bar, in beats from its beginning. */
interface BarHit {
  beat: number;
  piece: DrumPiece;
  velocity: number;
}

const KICK = 0.85;
const SNARE = 0.75;

/** Drums on the strong beats and the back-beats, cymbals so many to the beat. */
function driven(meter: Meter, perBeat: number, second = 0.5): BarHit[] {
  const strong = new Set(strongBeats(meter));
  const back = new Set(backBeats(meter));
  const hits: BarHit[] = [];
  for (let beat = 0; beat < meter.beats; beat += 1) {
    if (back.has(beat)) hits.push({ beat, piece: 'snare', velocity: SNARE });
    else if (strong.has(beat)) hits.push({ beat, piece: 'kick', velocity: KICK });
    for (let part = 0; part < perBeat; part += 1) {
      const at = perBeat === 2 && part === 1 ? second : part / perBeat;
      const velocity = part === 0 ? 0.6 : part * 2 === perBeat ? 0.45 : 0.3;
      hits.push({ beat: beat + at, piece: 'hat', velocity });
    }
  }
  return hits;
}

function light(meter: Meter): BarHit[] {
  const starts = groupStarts(meter);
  return starts.map((start, beat) =>
    beat === 0 || start
      ? { beat, piece: 'kick', velocity: KICK }
      : { beat, piece: 'rim', velocity: 0.45 },
  );
}

function claps(meter: Meter): BarHit[] {
  return groupStarts(meter).flatMap((accented, beat): BarHit[] => [
    { beat, piece: 'shaker', velocity: 0.4 },
    ...(accented ? [{ beat, piece: 'clap' as const, velocity: 0.8 }] : []),
  ]);
}

function barHits(groove: Groove, meter: Meter): BarHit[] {
  const short = meter.unit >= 8;
  switch (groove) {
    case 'eighths':
      return driven(meter, short ? 1 : 2);
    case 'sixteenths':
      return driven(meter, short ? 2 : 4);
    case 'shuffle':
      return driven(meter, 2, 2 / 3);
    case 'waltz':
      return light(meter);
    case 'pulse':
      return driven(meter, 1);
    case 'claps':
      return claps(meter);
  }
}

/**
 * The drum hits that fall in a span of ticks.
 * They swing with the pattern that carries the bar; a shuffle has its own.
 * @param from ticks from the start of the song, to before `to`
 * @example drumHits({ bars: evenBars(METERS['3/4'], 2880), feels: [] }, 'waltz', 0, 2880).map(({ piece }) => piece)
 * // ['kick', 'rim', 'rim']
 */
export function drumHits(
  performance: Pick<Performance, 'bars' | 'feels'>,
  groove: Groove,
  from: Ticks,
  to: Ticks,
): DrumHit[] {
  const { bars } = performance;
  const hits: DrumHit[] = [];
  const begins = Math.max(0, bars.findLastIndex(({ tick }) => tick <= from) - 1);
  for (let index = begins; index < bars.length && bars[index]!.tick < to; index += 1) {
    const bar = bars[index]!;
    const { tick, ticks, lead, meter } = bar;
    const beat = beatTicks(meter);
    for (const { beat: at, piece, velocity } of barHits(groove, meter)) {
      const place = Math.round(at * beat) - lead;
      if (place < 0 || place >= ticks) continue;
      const late =
        groove === 'shuffle' ? 0 : lateIn(bar, tick + place, feelAt(performance, tick + place));
      const heard = tick + place + late;
      if (heard >= from && heard < to) hits.push({ tick: heard, piece, velocity });
    }
  }
  return hits.sort((one, other) => one.tick - other.tick);
}
