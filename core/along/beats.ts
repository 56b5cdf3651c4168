import type { BeatMap, Meter } from '../schema';
import { barTicks, pulseTicks } from '../time';
import type { Recording } from '../take';
import { modulo, type Seconds } from '../plain';
import { onsetStrength, type Strength } from './strength';

/**
 * Beats by hand and ear: a few tapped pulses say how fast and where; dynamic programming carries them through the
 * whole recording (after Ellis, Beat Tracking by Dynamic Programming, 2007), with a tempo that may drift.
 */

/** How far the tempo may go from what was tapped, either way, as a share of it. */
const DRIFT = 0.22;
/** A pulse that is off the local tempo by a tenth costs so much against a strong onset. */
const STRICT = 1500;
/** Weight of a pulse that was tapped or set. */
const TAPPED = 40;
/** Seconds around a tap in which its pulse lies: hands scatter. */
const TAP_REACH = 0.07;
/** A pulse that the player has set lies there. */
const SET_REACH = 0.012;
/** Seconds of recording that one look at the tempo takes in, and from look to look. */
const LOOK = 6;
const STEP = 1;
/** What a change of tempo by one frame of its period costs from look to look. */
const UNSTEADY = 0.02;

/** Pulses in a bar: two in 6/8, four in 4/4. */
export function pulsesPerBar(meter: Meter): number {
  return Math.max(1, Math.round(barTicks(meter) / pulseTicks(meter)));
}

/** The middle of the gaps between taps, in seconds; a gap of two pulses counts as two. */
export function tappedPeriod(taps: Seconds[]): number | null {
  const gaps = taps.slice(1).map((at, index) => at - taps[index]!);
  const sorted = [...gaps].sort((a, b) => a - b);
  const middle = sorted[Math.floor(sorted.length / 2)];
  if (!middle || middle < 0.15 || middle > 3) return null;
  const each = gaps.map((gap) => gap / Math.max(1, Math.round(gap / middle)));
  return each.reduce((sum, gap) => sum + gap, 0) / each.length;
}

/** The period at each look, in frames: what repeats, near what was tapped, and steady from look to look. */
function periods({ rises, hop }: Strength, period: number, tappedAt: number): Float32Array {
  const least = Math.max(2, Math.floor((period * (1 - DRIFT)) / hop));
  const most = Math.ceil((period * (1 + DRIFT)) / hop);
  const looks = Math.max(1, Math.ceil((rises.length * hop) / STEP));
  const reach = Math.round(LOOK / 2 / hop);
  const count = most - least + 1;
  const scores = Array.from({ length: looks }, (_, look) => {
    const middle = Math.round((look * STEP) / hop);
    const from = Math.max(0, middle - reach);
    const to = Math.min(rises.length, middle + reach);
    const row = new Float32Array(count);
    let highest = 1e-9;
    for (let lag = least; lag <= most; lag += 1) {
      let sum = 0;
      for (let at = from; at < to; at += 1) {
        const here = rises[at]!;
        if (here === 0) continue;
        const once = Math.max(rises[at + lag] ?? 0, 0.7 * (rises[at + lag + 1] ?? 0));
        sum += here * (once + 0.5 * (rises[at + 2 * lag] ?? 0));
      }
      row[lag - least] = sum;
      highest = Math.max(highest, sum);
    }
    const tapped = Math.round(tappedAt / STEP) === look;
    return row.map((sum, index) => {
      const off = Math.log(((index + least) * hop) / period);
      return sum / highest - off * off * (tapped ? 400 : 4);
    });
  });
  // The best way through the looks.
  const from: Int32Array[] = [];
  let now = scores[0]!;
  for (const row of scores.slice(1)) {
    const back = new Int32Array(count);
    const next = new Float32Array(count);
    for (let index = 0; index < count; index += 1) {
      let best = -Infinity;
      for (
        let other = Math.max(0, index - 4);
        other <= Math.min(count - 1, index + 4);
        other += 1
      ) {
        const value = now[other]! - UNSTEADY * (other - index) ** 2;
        if (value > best) {
          best = value;
          back[index] = other;
        }
      }
      next[index] = best + row[index]!;
    }
    from.push(back);
    now = next;
  }
  const found = new Float32Array(looks);
  let at = now.indexOf(Math.max(...now));
  for (let look = looks - 1; look >= 0; look -= 1) {
    found[look] = at + least;
    if (look > 0) at = from[look - 1]![at]!;
  }
  return found;
}

/** A pulse that is known: tapped, or set by the player. */
interface Known {
  seconds: Seconds;
  set: boolean;
  /** Which pulse of its bar it is, where that is known. */
  of?: number;
}

/** Places of a pulse that are told apart, and how loud the best of them comes out. */
const PLACES = 16;
const LIKE = 9;

/** What begins where within the pulses of a bar: a row for each pulse of the bar, its places one after another. */
type Figure = Float32Array[];

/** How much begins at a place: the most of the frames around it. */
function around({ rises }: Strength, frame: number): number {
  const at = Math.round(frame);
  return Math.min(8, Math.max(rises[at - 1] ?? 0, rises[at] ?? 0, rises[at + 1] ?? 0));
}

/** The figure that the recording plays over some pulses, as the mean of its bars. */
function figureOf(strength: Strength, pulses: number[], first: number, each: number): Figure {
  const rows = Array.from({ length: each }, () => new Float32Array(PLACES));
  pulses.slice(0, -1).forEach((frame, index) => {
    const row = rows[modulo(index - first, each)]!;
    const step = (pulses[index + 1]! - frame) / PLACES;
    for (let place = 0; place < PLACES; place += 1) {
      row[place] = row[place]! + around(strength, frame + place * step);
    }
  });
  const all = rows.reduce((sum, row) => sum + row.reduce((own, value) => own + value, 0), 0);
  const mean = all / (each * PLACES) || 1;
  // What is less than usual speaks against a place, as what is more speaks for it.
  return rows.map((row) => row.map((value) => value / mean - 1));
}

/** How like the figure it is from a frame on, for one pulse of the bar. */
function likeness(strength: Strength, row: Float32Array, frame: number, period: number): number {
  let sum = 0;
  for (let place = 0; place < PLACES; place += 1) {
    if (row[place] === 0) continue;
    sum += row[place]! * around(strength, frame + (place * period) / PLACES);
  }
  return (LIKE * sum) / PLACES;
}

/** What the way through a recording is looked for with. */
interface Search {
  strength: Strength;
  known: Known[];
  /** The period in frames at each look. */
  local: Float32Array;
  /** Pulses of a bar, and the figure that they play, where it is known. */
  each: number;
  figure: Figure | null;
}

/**
 * The pulses of a whole recording, in frames.
 * @returns each with its place in the bar; all 0 where no figure is known
 */
function path({ strength, known, local, each, figure }: Search): { frame: number; of: number }[] {
  const { rises, hop } = strength;
  const frames = rises.length;
  const classes = figure ? each : 1;
  const expectedAt = (frame: number) =>
    local[Math.min(local.length - 1, Math.round((frame * hop) / STEP))]!;
  const tapped = Array.from({ length: classes }, () => new Float32Array(frames));
  for (const { seconds, set, of = 0 } of known) {
    const row = tapped[of % classes]!;
    const reach = set ? SET_REACH : TAP_REACH;
    const middle = Math.round(seconds / hop);
    const far = Math.ceil(reach / hop);
    for (let at = Math.max(0, middle - far); at <= Math.min(frames - 1, middle + far); at += 1) {
      const away = ((at - middle) * hop) / reach;
      row[at] = TAPPED * Math.max(0, 1 - away * away);
    }
  }
  const score = Array.from({ length: classes }, () => new Float32Array(frames));
  const before = Array.from({ length: classes }, () => new Int32Array(frames).fill(-1));
  for (let at = 0; at < frames; at += 1) {
    const expected = expectedAt(at);
    const nearest = at - Math.floor(expected * 0.78);
    const farthest = Math.max(0, at - Math.ceil(expected * 1.28));
    for (let of = 0; of < classes; of += 1) {
      const others = score[(of + classes - 1) % classes]!;
      let best = 0;
      let came = -1;
      for (let from = farthest; from <= nearest; from += 1) {
        const off = Math.log((at - from) / expected);
        const value = others[from]! - STRICT * off * off;
        if (value > best) {
          best = value;
          came = from;
        }
      }
      const own = figure
        ? 0.4 * Math.min(8, rises[at]!) + likeness(strength, figure[of]!, at, expected)
        : Math.min(8, rises[at]!);
      before[of]![at] = came;
      score[of]![at] = own + tapped[of]![at]! + best;
    }
  }
  const last = Math.max(0, frames - Math.ceil(local.at(-1)!));
  let [at, of] = [frames - 1, 0];
  for (let other = last; other < frames; other += 1) {
    for (let one = 0; one < classes; one += 1) {
      if (score[one]![other]! > score[of]![at]!) [at, of] = [other, one];
    }
  }
  const found: { frame: number; of: number }[] = [];
  while (at >= 0) {
    found.unshift({ frame: at, of });
    at = before[of]![at]!;
    of = (of + classes - 1) % classes;
  }
  return found;
}

/** Pulses around those that were tapped of which the figure is taken. */
const FIGURE_PULSES = 8;

/** The pulses of a whole recording, with how sure each is, and the first of them that begins a bar. */
function track(
  strength: Strength,
  known: Known[],
  period: number,
  each: number,
  one: number,
): { pulses: { at: number; sure: number }[]; first: number } {
  const { rises, hop } = strength;
  const tappedAt = known[Math.floor(known.length / 2)]!.seconds;
  const local = periods(strength, period, tappedAt);
  const rough = path({ strength, known, local, each, figure: null }).map(({ frame }) => frame);
  const near = (seconds: Seconds, frames: number[]) =>
    nearestPulse(
      frames.map((frame) => frame * hop),
      seconds,
    );
  // The figure is taken where the player has said where the pulses are, and carried on from there.
  const from = Math.max(0, near(known[0]!.seconds, rough));
  const to = Math.max(from + FIGURE_PULSES, near(known.at(-1)!.seconds, rough) + 1);
  const sample = rough.slice(from, to + 1);
  const figure =
    sample.length > 2 * each ? figureOf(strength, sample, near(one, rough) - from, each) : null;
  const placed = known.map((pulse) => ({
    ...pulse,
    of: modulo(near(pulse.seconds, rough) - near(one, rough), each),
  }));
  const found = path({ strength, known: placed, local, each, figure });
  const frames = found.map(({ frame }) => frame);
  const pulses = frames.map((frame, index) => {
    const expected = local[Math.min(local.length - 1, Math.round((frame * hop) / STEP))]!;
    const gap = index > 0 ? frame - frames[index - 1]! : (frames[1] ?? frame) - frame;
    const steady = Math.exp(-40 * Math.log(Math.max(1, gap) / expected) ** 2);
    const loud = Math.min(1, Math.max(...rises.subarray(Math.max(0, frame - 3), frame + 4)) / 4);
    return { at: refined(rises, frame) * hop, sure: Math.min(1, steady * (0.35 + 0.65 * loud)) };
  });
  const begins = figure ? found.findIndex(({ of }) => of === 0) : near(one, frames);
  return { pulses, first: Math.max(0, begins) };
}

/** A pulse between frames: the weight of the rises around it. */
function refined(rises: Float32Array, frame: number): number {
  let [weight, sum] = [0, 0];
  for (let at = frame - 2; at <= frame + 2; at += 1) {
    const value = rises[at] ?? 0;
    weight += value;
    sum += value * at;
  }
  return weight > 1 ? sum / weight : frame;
}

/** What is wrong with taps that no map can be made of. */
export const TOO_FEW_TAPS = 'Tap at least four beats in a row, evenly.';

/**
 * The beat map of a recording from a few tapped pulses.
 * @param taps seconds of the recording at which pulses were tapped, in order, the first of them on "one"
 * @returns the map; or one sentence where the taps say too little
 * @example mapBeats(recording, [0.5, 1.0, 1.5, 2.0], METERS['4/4'])
 */
export function mapBeats(recording: Recording, taps: Seconds[], meter: Meter): BeatMap | string {
  const period = taps.length >= 4 ? tappedPeriod(taps) : null;
  if (period === null) return TOO_FEW_TAPS;
  const known = taps.map((seconds) => ({ seconds, set: false }));
  return mapOf(onsetStrength(recording), known, period, meter, taps[0]!);
}

/** A rise that is of music, against what is usual in a recording. */
const MUSIC = 1.5;

/** The number of pulses that lie in the music: those after the bar in which something last began are not beats. */
function pulsesOfMusic(
  { rises, hop }: Strength,
  pulses: Seconds[],
  first: number,
  each: number,
): number {
  const last = rises.findLastIndex((rise) => rise > MUSIC) * hop;
  const inside = pulses.filter((at) => at <= last + TAP_REACH).length;
  const bars = Math.ceil(Math.max(1, inside - first) / each);
  return Math.min(pulses.length, first + bars * each + 1);
}

function mapOf(
  strength: Strength,
  known: Known[],
  period: number,
  meter: Meter,
  one: number,
): BeatMap | string {
  const each = pulsesPerBar(meter);
  const { pulses: all, first } = track(strength, known, period, each, one);
  const times = all.map(({ at }) => at);
  const pulses = all.slice(0, pulsesOfMusic(strength, times, first, each));
  if (pulses.length < 2) return 'Nothing was heard that beats could be found in.';
  const set = known.flatMap(({ seconds, set: fixed }) =>
    fixed
      ? [
          nearestPulse(
            pulses.map(({ at }) => at),
            seconds,
          ),
        ]
      : [],
  );
  for (const index of set) {
    const place = known.find(
      ({ seconds, set: fixed }) => fixed && Math.abs(seconds - pulses[index]!.at) < 0.1,
    );
    if (place) pulses[index] = { at: place.seconds, sure: 1 };
  }
  const rising = pulses.filter(({ at }, index) => index === 0 || at > pulses[index - 1]!.at);
  return {
    meter,
    pulses: rising.map(({ at }) => Number(at.toFixed(4))),
    sure: rising.map(({ sure }) => Number(sure.toFixed(2))),
    one: first % each,
    set,
  };
}

/** The number of the pulse that is nearest to a second of the recording. */
export function nearestPulse(times: Seconds[], seconds: Seconds): number {
  let best = 0;
  times.forEach((at, index) => {
    if (Math.abs(at - seconds) < Math.abs(times[best]! - seconds)) best = index;
  });
  return best;
}

/**
 * Tracks a recording anew through the pulses that the player set, and a passage that was tapped again.
 * @param taps seconds of a passage that was tapped again; none where only set pulses count
 */
export function trackAgain(
  recording: Recording,
  map: BeatMap,
  taps: Seconds[] = [],
): BeatMap | string {
  const { pulses, meter, one } = map;
  const gaps = pulses.slice(1).map((at, index) => at - pulses[index]!);
  const usual = [...gaps].sort((a, b) => a - b)[Math.floor(gaps.length / 2)]!;
  const period = (taps.length >= 4 ? tappedPeriod(taps) : null) ?? usual;
  const known = [
    ...map.set.flatMap((index) =>
      pulses[index] === undefined ? [] : [{ seconds: pulses[index], set: true }],
    ),
    ...taps.map((seconds) => ({ seconds, set: false })),
  ].sort((a, b) => a.seconds - b.seconds);
  if (known.length === 0) return map;
  return mapOf(onsetStrength(recording), known, period, meter, pulses[one]!);
}
