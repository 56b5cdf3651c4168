import type { Ticks } from '../plain';
import type { Direction, Division, Pattern, Stroke } from '../schema';
import { beatTicks } from '../time';

/** One place of the pattern's grid, with where it lies in time. */
export interface Slot {
  index: number;
  beat: number;
  /** Position within the beat, from 0. */
  position: number;
  /** Ticks from the start of the pattern. */
  tick: Ticks;
  /** Length in ticks. */
  ticks: Ticks;
  stroke: Stroke;
}

/**
 * Every slot of the pattern in order.
 * @example slots(newPattern(METERS['4/4']))[3].tick // 1440, the & of 2
 */
export function slots(pattern: Pattern): Slot[] {
  const beat = beatTicks(pattern.meter);
  const all: Slot[] = [];
  pattern.beats.forEach(({ division, slots: strokes }, beatIndex) => {
    const ticks = beat / division;
    strokes.forEach((stroke, position) => {
      const tick = beatIndex * beat + position * ticks;
      all.push({ index: all.length, beat: beatIndex, position, tick, ticks, stroke });
    });
  });
  return all;
}

/** Length of the whole pattern in ticks. */
export function patternTicks(pattern: Pattern): number {
  return beatTicks(pattern.meter) * pattern.beats.length;
}

export function divisions(pattern: Pattern): Division[] {
  return pattern.beats.map((beat) => beat.division);
}

export type SoundingStroke = Exclude<Stroke, { kind: 'miss' | 'hold' }>;

/** True where the stroke makes a sound. */
export function sounds(stroke: Stroke): stroke is SoundingStroke {
  return stroke.kind !== 'miss' && stroke.kind !== 'hold';
}

/** The way the hand moves in a stroke, where the stroke itself says so; a bass is struck down. */
export function strokeDirection(stroke: Stroke): Direction | null {
  if (stroke.kind === 'bass') return 'down';
  return 'dir' in stroke ? stroke.dir : null;
}

/** True where a stroke is accented or driven. */
export function isLoud(stroke: Stroke): boolean {
  return sounds(stroke) && (stroke.accent === 'accent' || stroke.accent === 'strong');
}
