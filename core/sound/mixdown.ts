import type { Meter } from '../schema';
import { secondsPerTick } from '../time';
import { BEFORE_ALL, nextCues, type Playback } from './cues';
import {
  CHOKE_SECONDS,
  CHOKE_TIMES,
  type Cue,
  cueSilence,
  type Levels,
  limit,
  renderSound,
  type Sound,
  soundKey,
} from './ringing';

/** What is to be written down as sound. */
export interface Mix extends Playback {
  meter: Meter;
  /** Ticks from `from` to `to`; the whole where they are left out. */
  from?: number;
  to?: number;
  levels: Levels;
  sampleRate: number;
}

/** Seconds that the last sounds are given to die away. */
const ENDING = 1.5;
/** Cues carried out between two reports of progress. */
const STRIDE = 400;

/** All cues of a mix in seconds from its beginning, in the order in which they are given. */
export function mixCues(mix: Mix): { cues: Cue[]; seconds: number } {
  const { performance, meter } = mix;
  const from = mix.from ?? 0;
  const to = mix.to ?? performance.ticks + performance.tail;
  const perTick = secondsPerTick(performance.tempo, meter);
  const at = (tick: number) => (tick - from) * perTick;
  const { state, cues } = nextCues(BEFORE_ALL, mix, { from, to, at });
  return { cues: [...cues, ...cueSilence(state.rings, at(to)).cues], seconds: at(to) };
}

/**
 * Mixes a performance down to samples, as it sounds live.
 * @returns a generator that yields its progress, 0 to 1, and ends with mono samples below full scale
 * @example [...mixdown(mix)].at(-1) // 1
 */
export function* mixdown(mix: Mix): Generator<number, Float32Array<ArrayBuffer>> {
  const { cues, seconds } = mixCues(mix);
  const { sampleRate, levels } = mix;
  const out = new Float32Array(Math.ceil((seconds + ENDING) * sampleRate));
  const stops = new Map(cues.flatMap((cue) => (cue.act === 'stop' ? [[cue.id, cue.time]] : [])));
  const bank = new Map<string, Float32Array>();
  const rendered = (sound: Sound) => {
    const key = soundKey(sound);
    const known = bank.get(key) ?? renderSound(sound, sampleRate);
    bank.set(key, known);
    return known;
  };
  let done = 0;
  for (const cue of cues) {
    done += 1;
    if (done % STRIDE === 0) yield (0.95 * done) / cues.length;
    if (cue.act === 'stop') continue;
    const samples = rendered(cue.sound);
    add(out, samples, cue.time * sampleRate, cue.gain * levels[cue.channel], {
      stop: (stops.get(cue.id) ?? Infinity) * sampleRate,
      fall: CHOKE_SECONDS * sampleRate,
    });
  }
  for (let index = 0; index < out.length; index += 1) out[index] = limit(out[index]!);
  // What still rings at the end is faded, so that the file ends without a step.
  const fade = Math.min(out.length, Math.round(sampleRate / 4));
  for (let index = 0; index < fade; index += 1) {
    const place = out.length - 1 - index;
    out[place] = out[place]! * (index / fade);
  }
  yield 1;
  return out;
}

/** Adds a sound from a place on, a fraction of a sample included, until it is stopped and has fallen. */
function add(
  out: Float32Array,
  samples: Float32Array,
  place: number,
  gain: number,
  { stop, fall }: { stop: number; fall: number },
): void {
  const first = Math.round(place);
  const choke = Math.max(0, Math.round(stop) - first);
  const end = Math.min(samples.length, out.length - first, choke + fall * CHOKE_TIMES);
  const whole = Math.min(end, choke);
  for (let index = 0; index < whole; index += 1) {
    out[first + index] = out[first + index]! + gain * samples[index]!;
  }
  const step = Math.exp(-1 / fall);
  let left = gain;
  for (let index = whole; index < end; index += 1) {
    left *= step;
    out[first + index] = out[first + index]! + left * samples[index]!;
  }
}
