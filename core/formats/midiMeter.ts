import type { Ticks } from '../plain';
import type { Meter } from '../schema';
import { barTicks, beatTicks, METERS } from '../time';
import type { MidiNote } from './midiChords';

/** Ticks of a slot: a sixteenth. */
const SLOT: Ticks = 240;
/** Slots over which chords before and after a place are compared: a quarter. */
const BESIDE = 4;
/** What bars in which only the first beat is struck say for their beats, whatever those are: half of all. */
const PLAIN = 0.5;
/** Slots that are looked at: some 120 bars. */
const MAX_SLOTS = 2000;

/** How usual a meter is, as a part of what is heard for one: only between those that are heard alike. */
const USUAL: [Meter, number][] = [
  [METERS['4/4'], 0.12],
  [METERS['3/4'], 0.09],
  [METERS['6/8'], 0.08],
  [METERS['2/4'], 0],
  [METERS['12/8'], 0.02],
  [METERS['9/8'], 0],
  [METERS['5/4'], 0.02],
  [METERS['7/8'], 0.02],
];

const mean = (values: number[]) =>
  values.length === 0 ? 0 : values.reduce((sum, value) => sum + value, 0) / values.length;

/** How alike two lists are: 1 for the same, 0 for nothing in common. */
function alike(one: number[], other: number[]): number {
  const product = one.reduce((sum, value, at) => sum + value * other[at]!, 0);
  const size = Math.hypot(...one) * Math.hypot(...other);
  return size === 0 ? 0 : product / size;
}

/** What begins in each slot: as loud as it is, low notes twice. */
function beginnings(notes: MidiNote[], slots: number): number[] {
  const found = new Array<number>(slots).fill(0);
  for (const { from, velocity, midi } of notes) {
    const slot = Math.round(from / SLOT);
    if (slot < slots) found[slot]! += (velocity / 127) * (midi < LOW ? 2 : 1);
  }
  return found;
}
/** Below this a note is a bass. */
const LOW = 50;

/** How much the tones after each slot are others than before it: 0 to 1. */
function harmonies(notes: MidiNote[], slots: number): number[] {
  const tones = Array.from({ length: slots }, () => new Array<number>(12).fill(0));
  for (const { from, to, midi } of notes) {
    const last = Math.min(slots, Math.round(to / SLOT));
    for (let slot = Math.round(from / SLOT); slot < last; slot += 1) tones[slot]![midi % 12]! += 1;
  }
  const together = (from: number, to: number) => {
    const sum = new Array<number>(12).fill(0);
    for (const row of tones.slice(Math.max(0, from), to))
      row.forEach((value, tone) => (sum[tone]! += value));
    return sum;
  };
  return tones.map((_, slot) =>
    slot === 0 ? 0 : 1 - alike(together(slot - BESIDE, slot), together(slot, slot + BESIDE)),
  );
}

/**
 * Meters that notes without a signature may have, the likeliest first: by how alike one bar is to the next, where
 * chords change, and which beats are struck loud and low. The first note is taken for the first of a bar.
 * @param notes of the file, from its beginning
 * @example likelyMeters(notes)[0] // METERS['3/4'] for a waltz
 */
export function likelyMeters(notes: MidiNote[]): Meter[] {
  const end = notes.reduce((last, { from }) => Math.max(last, from), 0);
  const slots = Math.min(MAX_SLOTS, Math.ceil(end / SLOT) + 1);
  const struck = beginnings(notes, slots);
  const changed = harmonies(notes, slots);
  const middle = mean(struck);
  const deviations = struck.map((value) => value - middle);
  const loudest = Math.max(1e-9, ...struck);
  const score = ([meter, usual]: [Meter, number]): number => {
    const bar = barTicks(meter) / SLOT;
    if (bar >= slots) return usual - 1;
    const again = alike(deviations.slice(0, slots - bar), deviations.slice(bar));
    const heads = slotsOf(slots, bar, [0]);
    const groups = slotsOf(slots, bar, groupStarts(meter));
    const harmony = mean(heads.map((at) => changed[at]!)) - mean(others(changed, heads));
    const isPlain = others(struck, heads).every((value) => value === 0);
    const beats = isPlain
      ? PLAIN
      : (mean(groups.map((at) => struck[at]!)) - mean(others(struck, groups))) / loudest;
    return usual + again + harmony + Math.max(0, beats);
  };
  return USUAL.map((one) => ({ meter: one[0], score: score(one) }))
    .sort((a, b) => b.score - a.score)
    .map(({ meter }) => meter);
}

/** Where the groups of a bar begin, in slots: every beat of a simple meter. */
function groupStarts({ beats, unit, groups }: Meter): number[] {
  const beat = beatTicks({ beats, unit, groups }) / SLOT;
  const sizes = unit === 4 ? Array.from({ length: beats }, () => 1) : groups;
  return sizes.map((_, at) => sizes.slice(0, at).reduce((sum, size) => sum + size, 0) * beat);
}

/** The slots at those places of every bar. */
function slotsOf(slots: number, bar: number, places: number[]): number[] {
  const found: number[] = [];
  for (let from = 0; from < slots; from += bar) {
    for (const place of places) if (from + place < slots) found.push(from + place);
  }
  return found;
}

/** The values at all other slots. */
function others(values: number[], slots: number[]): number[] {
  const own = new Set(slots);
  return values.filter((_, at) => !own.has(at));
}
