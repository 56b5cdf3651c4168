import { linearRegression } from 'simple-statistics';
import type { Ticks } from '../plain';
import type { BeatMap, Direction, Pattern } from '../schema';
import type { FrettedChord } from '../neck';
import { naturalDirections, slots } from '../stroke';
import {
  BASS_RATE,
  directionsOf,
  type Heard,
  downsample,
  onsets,
  rakePlace,
  type Recording,
} from '../take';
import { beatTicks, secondsPerTick } from '../time';
import { tickOf } from './beatMap';
import { type HeardRhythm, rhythmOf } from './rhythm';

/** A pattern that was played in, with the tempo that it was played at and the bars that were heard. */
export interface PlayedIn extends HeardRhythm {
  tempo: number;
  bars: number;
  strokes: number;
  /** Strokes whose way was heard; the others go with the arm. */
  ways: number;
}

/** Decibels below the loudest from which a stroke may be the first. */
const FIRST_LOUD = -20;
/** The tempo that was played may be this far from the one that was counted in. */
const FARTHEST = 0.12;
/** Seconds from the first string of a stroke to the last, at most, as it is expected. */
const RAKE = 0.04;

/** Tempos that are tried, on either side of the one that was counted in. */
const TRIED = 80;
/** How much less a tempo counts that is as far off as may be. */
const FAR_COST = 0.15;

/**
 * Where the beats of what was played lie, from the first stroke on: the tempo at which most strokes lie on halves and
 * quarters of a beat, and then the line that is nearest to all of them.
 */
function beatsOf(heard: Heard[], counted: number): { first: number; beat: number } | null {
  const start = heard.find(({ loudness }) => loudness > FIRST_LOUD);
  if (!start) return null;
  const after = heard.filter(({ seconds }) => seconds >= start.seconds - 0.01);
  const score = (beat: number) => {
    const on = (cell: number) =>
      after.reduce(
        (sum, { seconds }) => sum + Math.cos((2 * Math.PI * (seconds - start.seconds)) / cell),
        0,
      ) / after.length;
    return on(beat / 2) + on(beat / 4);
  };
  let best = { beat: counted, score: -Infinity };
  for (let step = -TRIED; step <= TRIED; step += 1) {
    const far = step / TRIED;
    const beat = counted / (1 + FARTHEST * far);
    const found = score(beat) - FAR_COST * Math.abs(far);
    if (found > best.score) best = { beat, score: found };
  }
  const cell = best.beat / 4;
  const line = linearRegression(
    after.map(({ seconds }) => [Math.round((seconds - start.seconds) / cell), seconds]),
  );
  const straight = after.length > 2 && line.m > 0;
  return straight ? { first: line.b, beat: line.m * 4 } : { first: start.seconds, beat: best.beat };
}

/** The way of each stroke by the order in which low and high strings come in; null where it is not clear. */
function waysOf(
  recording: Recording,
  heard: Heard[],
  meant: Direction[],
  chord: FrettedChord,
): (Direction | null)[] {
  const bass = downsample(downsample(recording), BASS_RATE);
  const sounding = chord.pitches.flatMap((midi, string) =>
    midi === null ? [] : [{ string, midi }],
  );
  const notes = sounding.map((note, order) => ({
    ...note,
    delay: (RAKE * order) / Math.max(1, sounding.length - 1),
  }));
  if (notes.length < 4) return heard.map(() => null);
  const ringing = sounding.map(({ midi }) => midi);
  return directionsOf(
    heard.map(({ seconds }, index) => ({
      place: rakePlace(bass, seconds, heard[index - 1]?.seconds ?? 0, notes, ringing),
      meant: meant[index]!,
    })),
  );
}

/**
 * The pattern that was played on the instrument: it begins with the first stroke, which is taken for the first
 * beat. What is struck in most of its turns is in it; chucks and accents are told by their sound, directions by the
 * order of the strings where a chord is known, and go with the arm where they cannot be told.
 * @param tempo pulses a minute at which it was counted in; what was played may be an eighth away from it
 * @param base gives the meter, the arm, the name, and the length by its beats
 * @param chord that was held; null where none is known
 * @returns null where too little is heard; `unsure` are slots that the player should look at
 * @example playIn(recording, 92, newPattern(METERS['4/4']), null)?.pattern
 */
export function playIn(
  recording: Recording,
  tempo: number,
  base: Pattern,
  chord: FrettedChord | null,
): PlayedIn | null {
  const { meter } = base;
  const heard = onsets(recording);
  const found = beatsOf(heard, beatTicks(meter) * secondsPerTick(tempo, meter));
  if (!found) return null;
  const { first, beat } = found;
  const length = base.beats.length;
  const last = heard.at(-1)!.seconds;
  const bars = Math.max(1, Math.floor((last - first) / (beat * length) + 0.6));
  const times = Math.ceil(length / meter.beats);
  const long = {
    ...meter,
    beats: length,
    groups: Array.from({ length: times }, () => meter.groups).flat(),
  };
  const { cycle: _, ...plain } = long;
  const map: BeatMap = {
    meter: plain,
    pulses: Array.from({ length: length * (bars + 1) + 1 }, (__, index) => first + index * beat),
    sure: Array.from({ length: length * (bars + 1) + 1 }, () => 1),
    one: 0,
    set: [],
  };
  const rhythm = rhythmOf(recording, map, 0, bars, base);
  if (!rhythm) return null;
  const grid: Pattern = { ...rhythm.pattern, meter };
  const unsure = new Set(rhythm.unsure);
  const natural = naturalDirections(grid);
  const all = slots(grid);
  const slotOf = ({ seconds }: Heard) => {
    const ticks = beatTicks(meter) * length;
    const into = ((tickOf(map, seconds) % ticks) + ticks) % ticks;
    return all.reduce((best, slot) => {
      const far = (tick: Ticks) => Math.min(Math.abs(tick - into), ticks - Math.abs(tick - into));
      return far(slot.tick) < far(best.tick) ? slot : best;
    }).index;
  };
  const places = heard.map(slotOf);
  const ways = chord
    ? waysOf(
        recording,
        heard,
        places.map((slot) => natural[slot]!),
        chord,
      )
    : heard.map(() => null);
  const beats = grid.beats.map((row, at) => ({
    ...row,
    slots: row.slots.map((stroke, position) => {
      const slot = all.find((one) => one.beat === at && one.position === position)!.index;
      const said = ways.filter((way, index) => way !== null && places[index] === slot);
      if (stroke.kind !== 'strum' || said.length === 0) return stroke;
      const downs = said.filter((way) => way === 'down').length / said.length;
      const dir = downs > 0.5 ? ('down' as const) : ('up' as const);
      // Against the arm is said only where it is clear, and for the player to settle.
      if (dir === natural[slot] || Math.abs(downs - 0.5) < 0.25) return stroke;
      unsure.add(slot);
      return { ...stroke, dir };
    }),
  }));
  return {
    pattern: { ...grid, beats },
    unsure: [...unsure].sort((a, b) => a - b),
    tempo: Math.round((60 / beat) * tempoPerBeat(tempo, base) * 10) / 10,
    bars,
    strokes: heard.length,
    ways: ways.filter((way) => way !== null).length,
  };
}

/** Pulses of the tempo in a counted beat. */
function tempoPerBeat(tempo: number, { meter }: Pattern): number {
  return (tempo * beatTicks(meter) * secondsPerTick(tempo, meter)) / 60;
}
