import type { Seconds, Ticks } from '../plain';
import type { Meter } from '../schema';
import { secondsPerTick } from '../time';
import { BEFORE_ALL, nextCues, type Playback } from './cues';
import {
  CHOKE_SECONDS,
  CHOKE_TIMES,
  type Cue,
  cueSilence,
  KNEE,
  type Levels,
  limit,
  renderSound,
  type Sound,
  soundKey,
} from './ringing';
import { panGains, roomOf, type Stereo } from './room';

/** What is to be written down as sound. */
export interface Mix extends Playback {
  meter: Meter;
  /** Ticks from `from` to `to`; the whole where they are left out. */
  from?: Ticks;
  to?: Ticks;
  levels: Levels;
  sampleRate: number;
}

type Samples = Float32Array<ArrayBuffer>;

/** Seconds that the last sounds are given to die away. */
const ENDING = 1.5;
/** Cues carried out between two reports of progress. */
const STRIDE = 400;

/** All cues of a mix in seconds from its beginning, in the order in which they are given. */
export function mixCues(mix: Mix): { cues: Cue[]; seconds: Seconds } {
  const { performance, meter } = mix;
  const from = mix.from ?? 0;
  const to = mix.to ?? performance.ticks + performance.tail;
  const perTick = secondsPerTick(performance.tempo, meter);
  const at = (tick: Ticks) => (tick - from) * perTick;
  const { state, cues } = nextCues(BEFORE_ALL, mix, { from, to, at });
  return { cues: [...cues, ...cueSilence(state.rings, at(to)).cues], seconds: at(to) };
}

/**
 * Mixes a performance down to samples, as it sounds live: strings and drums in a small room, the click and
 * what is said beside it.
 * @returns a generator that yields its progress, 0 to 1, and ends with two channels below full scale
 * @example [...mixdown(mix)].at(-1) // 1
 */
export function* mixdown(mix: Mix): Generator<number, Stereo> {
  const [left, right, click] = (yield* mixed(mix, 'stereo')) as [Samples, Samples, Samples];
  yield 0.9;
  const room = roomOf(middleOf(left, right), mix.sampleRate);
  finish(left, [room.left, click], mix.sampleRate);
  finish(right, [room.right, click], mix.sampleRate);
  yield 1;
  return { left, right };
}

/**
 * The same without a room, on one channel: what a microphone close to the instrument takes up.
 * @returns mono samples below full scale
 * @example dryMix(mix).length // 441000
 */
export function dryMix(mix: Mix): Float32Array<ArrayBuffer> {
  const steps = mixed(mix, 'mono');
  let step = steps.next();
  while (!step.done) step = steps.next();
  const [out] = step.value;
  finish(out!, [], mix.sampleRate);
  return out!;
}

function middleOf(left: Samples, right: Samples): Samples {
  const middle = new Float32Array(left.length);
  for (let index = 0; index < middle.length; index += 1) {
    middle[index] = 0.5 * (left[index]! + right[index]!);
  }
  return middle;
}

/** Adds what belongs to a channel besides, and rounds off what is too loud. */
function finish(out: Samples, besides: Samples[], sampleRate: number): void {
  for (const more of besides) {
    for (let index = 0; index < out.length; index += 1) out[index] = out[index]! + more[index]!;
  }
  for (let index = 0; index < out.length; index += 1) {
    const sample = out[index]!;
    if (sample > KNEE || sample < -KNEE) out[index] = limit(sample);
  }
  // What still rings at the end is faded, so that the file ends without a step.
  const fade = Math.min(out.length, Math.round(sampleRate / 4));
  for (let index = 0; index < fade; index += 1) {
    const place = out.length - 1 - index;
    out[place] = out[place]! * (index / fade);
  }
}

/** One channel; or left, right, and the click, which is in no room. */
function* mixed(mix: Mix, as: 'mono' | 'stereo'): Generator<number, Float32Array<ArrayBuffer>[]> {
  const { cues, seconds } = mixCues(mix);
  const { sampleRate, levels } = mix;
  const length = Math.ceil((seconds + ENDING) * sampleRate);
  const channels = Array.from({ length: as === 'mono' ? 1 : 3 }, () => new Float32Array(length));
  const stops = new Map(cues.flatMap((cue) => (cue.act === 'stop' ? [[cue.id, cue.time]] : [])));
  const bank = new Map<string, Float32Array>();
  const heard = longestHeard(cues, stops);
  const rendered = (sound: Sound) => {
    const key = soundKey(sound);
    const known = bank.get(key) ?? renderSound(sound, sampleRate, heard.get(key));
    bank.set(key, known);
    return known;
  };
  let done = 0;
  for (const cue of cues) {
    done += 1;
    if (done % STRIDE === 0) yield (0.85 * done) / cues.length;
    if (cue.act === 'stop') continue;
    const samples = rendered(cue.sound);
    const gain = cue.gain * levels[cue.channel];
    const { left, right } = panGains(cue.pan);
    const [one, other, click] = channels as [Samples, Samples, Samples];
    const place = {
      first: Math.round(cue.time * sampleRate),
      stop: Math.round((stops.get(cue.id) ?? Infinity) * sampleRate),
      fall: CHOKE_SECONDS * sampleRate,
    };
    if (as === 'mono') add([one, null], samples, [gain, 0], place);
    else if (cue.channel === 'click') add([click, null], samples, [gain, 0], place);
    else add([one, other], samples, [gain * left, gain * right], place);
  }
  return channels;
}

/** Seconds for which each sound is heard at most, by its key. */
function longestHeard(cues: Cue[], stops: Map<number, number>): Map<string, number> {
  const heard = new Map<string, number>();
  for (const cue of cues) {
    if (cue.act === 'stop') continue;
    const key = soundKey(cue.sound);
    const until = (stops.get(cue.id) ?? Infinity) + CHOKE_SECONDS * CHOKE_TIMES;
    heard.set(key, Math.max(heard.get(key) ?? 0, until - cue.time));
  }
  return heard;
}

/** Adds a sound to one channel or two from a sample on, until it is stopped and has fallen. */
function add(
  [one, other]: [Samples, Samples | null],
  samples: Float32Array,
  [gain, otherGain]: [number, number],
  { first, stop, fall }: { first: number; stop: number; fall: number },
): void {
  const choke = Math.max(0, stop - first);
  const end = Math.min(samples.length, one.length - first, Math.ceil(choke + fall * CHOKE_TIMES));
  const whole = Math.min(end, choke);
  // The inmost loops: here a mix spends its time, and both channels at once are half of it.
  if (other) {
    for (let index = 0; index < whole; index += 1) {
      const sample = samples[index]!;
      one[first + index]! += gain * sample;
      other[first + index]! += otherGain * sample;
    }
  } else {
    for (let index = 0; index < whole; index += 1) one[first + index]! += gain * samples[index]!;
  }
  const step = Math.exp(-1 / fall);
  let left = 1;
  for (let index = whole; index < end; index += 1) {
    left *= step;
    one[first + index]! += gain * left * samples[index]!;
    if (other) other[first + index]! += otherGain * left * samples[index]!;
  }
}
