import { median } from 'simple-statistics';
import type { Ticks } from '../plain';
import type { BeatMap, Division, Pattern, PatternBeat, Stroke } from '../schema';
import { MISS, naturalDirections } from '../stroke';
import { onsets, type Recording } from '../take';
import { barTicks, beatTicks } from '../time';
import { secondsOf, tickOf } from './beatMap';

/** A rhythm that was heard: guesswork where more than one instrument plays. */
export interface HeardRhythm {
  pattern: Pattern;
  /** Slots of which it is unsure whether they are struck, or how. */
  unsure: number[];
}

/** Sound before and after the bars that is listened to, in seconds. */
const AROUND = 0.3;
/** Share of the bars in which a slot is struck from which it counts, and from which it is sure. */
const OFTEN = 0.5;
const SURE = 0.8;
const SELDOM = 0.25;
/** Decibels over the middle of all strokes from which one is accented, and left of it below which it is damped. */
const LOUDER = 3.5;
const DAMPED = 0.22;
/** In a room a chuck dies more slowly; it is still gone so much sooner than the others. */
const DIES_SOONER = 0.2;

/**
 * The pattern that some bars of a recording play, one bar long: what is struck in most of them, on the grid of
 * sixteenths, or of eighths where no sixteenth is heard.
 * @param begins tick of the recording at which the first bar begins
 * @param count bars
 * @param base gives the arm, the feel and the name
 * @returns null where too little is heard
 */
export function rhythmOf(
  recording: Recording,
  map: BeatMap,
  begins: Ticks,
  count: number,
  base: Pattern,
): HeardRhythm | null {
  const bar = barTicks(map.meter);
  const beat = beatTicks(map.meter);
  const from = Math.max(0, secondsOf(map, begins) - AROUND);
  const to = secondsOf(map, begins + count * bar) + AROUND;
  const { samples, sampleRate } = recording;
  const stretch = samples.slice(Math.floor(from * sampleRate), Math.ceil(to * sampleRate));
  const heard = onsets({ samples: stretch, sampleRate });
  const fine: Division = map.meter.unit >= 8 ? 2 : 4;
  const slots = Array.from({ length: map.meter.beats * fine }, () => ({
    bars: new Set<number>(),
    loud: [] as number[],
    rings: [] as number[],
  }));
  for (const { seconds, loudness, rings } of heard) {
    const place = Math.round((tickOf(map, from + seconds) - begins) / (beat / fine));
    const at = Math.floor(place / slots.length);
    if (at < 0 || at >= count || place < 0) continue;
    const slot = slots[place % slots.length]!;
    slot.bars.add(at);
    slot.loud.push(loudness);
    slot.rings.push(rings);
  }
  const share = slots.map((slot) => slot.bars.size / count);
  if (share.filter((part) => part >= OFTEN).length < 2) return null;
  const between = share.some(
    (part, index) => part >= OFTEN && index % fine !== 0 && (index * 2) % fine !== 0,
  );
  const division = (between || fine === 2 ? fine : fine / 2) as Division;
  const step = fine / division;
  const middle = median(slots.flatMap(({ loud }) => loud));
  const ring = median(slots.flatMap(({ rings }) => rings));
  const kept = slots.filter((_, index) => index % step === 0);
  const empty: PatternBeat[] = Array.from({ length: map.meter.beats }, () => ({
    division,
    slots: Array.from({ length: division }, () => MISS),
  }));
  const { builds: _, loose: __, ...rest } = base;
  const grid: Pattern = { ...rest, meter: map.meter, beats: empty };
  const natural = naturalDirections(grid);
  const unsure: number[] = [];
  const strokes = kept.map((slot, index): Stroke => {
    const often = slot.bars.size / count;
    if (often >= SELDOM && often < SURE) unsure.push(index);
    if (often < OFTEN) return MISS;
    const accent = median(slot.loud) > middle + LOUDER ? ('accent' as const) : ('normal' as const);
    const dir = natural[index]!;
    return median(slot.rings) < Math.max(DAMPED, ring - DIES_SOONER)
      ? { kind: 'chuck', dir, accent }
      : { kind: 'strum', dir, accent };
  });
  const beats = empty.map((_, index) => ({
    division,
    slots: strokes.slice(index * division, (index + 1) * division),
  }));
  return { pattern: { ...grid, beats }, unsure };
}
