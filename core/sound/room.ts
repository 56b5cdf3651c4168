/** The small room that an instrument sounds in: what its walls give back to two ears. */

import type { Seconds } from '../plain';

/** Two channels of the same length. */
export interface Stereo {
  left: Float32Array<ArrayBuffer>;
  right: Float32Array<ArrayBuffer>;
}

type Place = readonly [number, number, number];

/** A living room in metres: its size, where the instrument is, and the ears in front of it. */
const SIZE: Place = [4.3, 5.2, 2.6];
const INSTRUMENT: Place = [1.7, 1.9, 0.8];
const EARS: { left: Place; right: Place } = { left: [1.8, 3.5, 1.2], right: [2.1, 3.5, 1.2] };
const METRES_A_SECOND = 343;
/** Share of a sound that a wall gives back, and how dull it has become. */
const GIVEN_BACK = 0.7;
const DULL_ABOVE = 4200;
/** How loud the walls are beside the instrument itself. */
const EARLY_LEVEL = 0.36;
const LATE_LEVEL = 0.09;
/** Walls that are heard one by one: the nearest. */
const EARLY_WALLS = 5;
/** Seconds in which the rest falls by 60 dB. */
const DIES_IN = 0.38;
/** Delays of what is no longer told apart, in seconds: no two have a common measure. */
const LINES = [0.0197, 0.0241, 0.0293, 0.0337];

/** Seconds for which the room goes on after a sound. */
export const ROOM_SECONDS = 0.5;

const apart = (one: Place, two: Place) => Math.hypot(...one.map((at, axis) => at - two[axis]!));

/** The first reflections at an ear, by the instrument's images behind the walls: seconds and gain of each. */
function reflections(ear: Place): { seconds: Seconds; gain: number }[] {
  const orders = [-2, -1, 0, 1, 2];
  const images = orders.flatMap((x) =>
    orders.flatMap((y) =>
      orders.map((z) => {
        const order = [x, y, z];
        const image = order.map((times, axis) => {
          const size = SIZE[axis]!;
          const at = INSTRUMENT[axis]!;
          return times % 2 === 0 ? times * size + at : (times + 1) * size - at;
        }) as unknown as Place;
        return { image, walls: order.reduce((sum, times) => sum + Math.abs(times), 0) };
      }),
    ),
  );
  const direct = apart(INSTRUMENT, ear);
  return images
    .filter(({ walls }) => walls > 0)
    .map(({ image, walls }) => {
      const distance = apart(image, ear);
      return {
        seconds: (distance - direct) / METRES_A_SECOND,
        gain: (direct / distance) * GIVEN_BACK ** walls,
      };
    })
    .sort((one, two) => one.seconds - two.seconds)
    .slice(0, EARLY_WALLS);
}

const EARLY = { left: reflections(EARS.left), right: reflections(EARS.right) };

/**
 * What a small room gives back of a sound, without the sound itself: first the nearest walls one by one, by
 * the method of images (Allen and Berkley, Journal of the Acoustical Society of America 65:4, 1979),
 * then a tail of four delays that feed each other (Jot's feedback network).
 * @param dry mono samples; the room's answer is cut off where they end
 * @param sampleRate samples a second
 * @example roomOf(new Float32Array(48000), 48000).left.length // 48000
 */
export function roomOf(dry: Float32Array, sampleRate: number): Stereo {
  const rate = sampleRate / 2;
  const sound = dulled(dry, rate);
  const [left, right] = [EARLY.left, EARLY.right].map((walls) => {
    const out = new Float32Array(sound.length);
    const delays = Int32Array.from(walls, ({ seconds }) => Math.round(seconds * rate));
    const gains = Float32Array.from(walls, ({ gain }) => gain * EARLY_LEVEL);
    addWalls(out, sound, delays, gains);
    return out;
  }) as [Float32Array, Float32Array];
  addTail(left, right, sound, rate);
  return { left: doubled(left, dry.length), right: doubled(right, dry.length) };
}

/** A sound without its highs, at half its rate: walls give none of them back. */
function dulled(dry: Float32Array, rate: number): Float32Array<ArrayBuffer> {
  const out = new Float32Array(Math.ceil(dry.length / 2));
  const keeps = 1 - Math.exp((-2 * Math.PI * DULL_ABOVE) / rate);
  let low = 0;
  for (let index = 0; index < out.length; index += 1) {
    const pair = 0.5 * (dry[2 * index]! + (dry[2 * index + 1] ?? 0));
    low += keeps * (pair - low) + TRICKLE;
    out[index] = low;
  }
  return out;
}

/** The same at twice the rate. */
function doubled(half: Float32Array, length: number): Float32Array<ArrayBuffer> {
  const out = new Float32Array(length);
  let before = 0;
  for (let index = 0; index < half.length; index += 1) {
    const now = half[index]!;
    out[2 * index] = 0.5 * (before + now);
    if (2 * index + 1 < length) out[2 * index + 1] = now;
    before = now;
  }
  return out;
}

/** Samples that are reckoned together: few enough to stay close by. */
const BLOCK = 4096;

/** Adds a sound as the walls give it back, each so many samples later and so loud. */
function addWalls(
  out: Float32Array,
  sound: Float32Array,
  delays: Int32Array,
  gains: Float32Array,
): void {
  for (let from = 0; from < sound.length; from += BLOCK) {
    const to = Math.min(sound.length, from + BLOCK);
    for (let wall = 0; wall < delays.length; wall += 1) {
      const by = delays[wall]!;
      const gain = gains[wall]!;
      for (let index = Math.max(from, by); index < to; index += 1) {
        out[index] = out[index]! + gain * sound[index - by]!;
      }
    }
  }
}

/** A trickle that keeps what dies away from numbers too small to be reckoned with quickly. */
const TRICKLE = 1e-18;

/** Adds what is no longer told apart: four delays, each fed by all of them, two to an ear. */
function addTail(
  left: Float32Array,
  right: Float32Array,
  dulled: Float32Array,
  sampleRate: number,
): void {
  const lines = LINES.map((seconds) => new Float32Array(Math.round(seconds * sampleRate)));
  const [a, b, c, d] = lines as [Float32Array, Float32Array, Float32Array, Float32Array];
  const [gainA, gainB, gainC, gainD] = LINES.map(
    (seconds) => 0.5 * 10 ** ((-3 * seconds) / DIES_IN),
  ) as [number, number, number, number];
  let [atA, atB, atC, atD] = [0, 0, 0, 0];
  for (let index = 0; index < dulled.length; index += 1) {
    const input = LATE_LEVEL * dulled[index]! + TRICKLE;
    const fromA = a[atA]!;
    const fromB = b[atB]!;
    const fromC = c[atC]!;
    const fromD = d[atD]!;
    left[index] = left[index]! + fromA + fromC;
    right[index] = right[index]! + fromB + fromD;
    a[atA] = input + gainA * (fromA + fromB + fromC + fromD);
    b[atB] = input + gainB * (fromA - fromB + fromC - fromD);
    c[atC] = gainC * (fromA + fromB - fromC - fromD) - input;
    d[atD] = input + gainD * (fromA - fromB - fromC + fromD);
    atA = atA + 1 === a.length ? 0 : atA + 1;
    atB = atB + 1 === b.length ? 0 : atB + 1;
    atC = atC + 1 === c.length ? 0 : atC + 1;
    atD = atD + 1 === d.length ? 0 : atD + 1;
  }
}

/**
 * The same room as what it answers to a single sample, for a convolver: playing live sounds as a file does.
 * @example impulseResponse(48000).left.length // 24000
 */
export function impulseResponse(sampleRate: number): Stereo {
  const click = new Float32Array(Math.round(ROOM_SECONDS * sampleRate));
  click[0] = 1;
  return roomOf(click, sampleRate);
}

/**
 * How loud a sound is in either ear by its place, at the same power everywhere and whole in the middle of
 * either: the law of a stereo panner, raised by its 3 dB.
 * @param pan -1, left, to 1, right
 * @example panGains(0) // { left: 1, right: 1 }
 */
export function panGains(pan: number): { left: number; right: number } {
  const angle = ((pan + 1) * Math.PI) / 4;
  const gain = (share: number) => Number((Math.SQRT2 * share).toFixed(9));
  return { left: gain(Math.cos(angle)), right: gain(Math.sin(angle)) };
}
