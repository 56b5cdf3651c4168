/** A band of frequencies, as a body or a damped string lets it through. */
export interface Band {
  hertz: number;
  /** Centre frequency over bandwidth. */
  q: number;
}

/**
 * Adds to a sound what a band lets through of another: a two-pole resonator with zeros at either end.
 * @param out is changed; as long as `input`
 * @param sampleRate samples a second
 * @param gain by the radius of the poles; with (1 - radius²) / 2 the centre is as loud as in `input`
 * @example addBand(out, dry, { hertz: 104, q: 7 }, 44100, (radius) => (1 - radius ** 2) / 2)
 */
export function addBand(
  out: Float32Array,
  input: Float32Array,
  { hertz, q }: Band,
  sampleRate: number,
  gain: (radius: number) => number,
): void {
  const w = (2 * Math.PI * hertz) / sampleRate;
  const radius = 1 - w / (2 * q);
  const [a1, a2] = [2 * radius * Math.cos(w), -radius * radius];
  const amount = gain(radius);
  let [y1, y2, x1, x2] = [0, 0, 0, 0];
  for (let index = 0; index < input.length; index += 1) {
    const x = input[index]!;
    const y = amount * (x - x2) + a1 * y1 + a2 * y2;
    x2 = x1;
    x1 = x;
    y2 = y1;
    y1 = y;
    out[index] = out[index]! + y;
  }
}
