import type { Seconds } from '../plain';
import { noise } from '../random';
import type { DrumPiece } from '../arrange';

/** A small drum kit, synthesised: every piece is a few lines of the usual recipes. */

type Samples = Float32Array<ArrayBuffer>;

function sound(
  seconds: Seconds,
  sampleRate: number,
  seed: number,
  at: (time: number, hiss: number) => number,
): Samples {
  const random = noise(seed);
  const out = new Float32Array(Math.round(seconds * sampleRate));
  return out.map((_, index) => {
    const time = index / sampleRate;
    const ends = Math.min(1, time / 0.0005, (seconds - time) / 0.01);
    return at(time, random()) * Math.max(0, ends);
  });
}

/** Noise with its lows taken off: what is left of it after a smoothing. */
function highs(keeps: number): (hiss: number) => number {
  let low = 0;
  return (hiss) => {
    low += keeps * (hiss - low);
    return hiss - low;
  };
}

const fall = (time: number, seconds: Seconds) => Math.exp(-time / seconds);
const sine = (hertz: number, time: number) => Math.sin(2 * Math.PI * hertz * time);

/** A drum whose pitch falls from one frequency to another: its phase at a time. */
const sweep = (from: number, to: number, seconds: Seconds, time: number) =>
  Math.sin(2 * Math.PI * (to * time + (from - to) * seconds * (1 - fall(time, seconds))));

/** Partials of two metal plates, the low ones that give them a body too: no two of them agree. */
const METAL = [1130, 1610, 2270, 3170, 4230, 5410, 6790, 8210];
const metal = (time: number) =>
  METAL.reduce((sum, hertz) => sum + sine(hertz, time), 0) / METAL.length;

/**
 * A piece of the kit.
 * @param sampleRate samples a second
 * @returns mono samples, below full scale
 * @example drum('kick', 48000).length // 14400
 */
export function drum(piece: DrumPiece, sampleRate: number): Samples {
  switch (piece) {
    case 'kick':
      return sound(0.3, sampleRate, 11, (time, hiss) => {
        const thump = sweep(140, 48, 0.03, time) * fall(time, 0.09);
        return 0.8 * thump + 0.08 * hiss * fall(time, 0.004);
      });
    case 'snare': {
      const wires = highs(0.25);
      return sound(0.24, sampleRate, 12, (time, hiss) => {
        const head = (sine(185, time) + 0.5 * sine(330, time)) * fall(time, 0.035);
        return 0.3 * head + 0.4 * wires(hiss) * fall(time, 0.07);
      });
    }
    case 'rim':
      return sound(0.06, sampleRate, 13, (time, hiss) => {
        const wood = sine(820, time) + 0.6 * sine(1690, time);
        return 0.35 * wood * fall(time, 0.009) + 0.1 * hiss * fall(time, 0.003);
      });
    case 'hat': {
      // The plates meet, and then are pressed together: a short clack under what hisses on.
      const air = highs(0.45);
      return sound(0.16, sampleRate, 14, (time, hiss) => {
        const clack = 0.35 * metal(time) * fall(time, 0.009);
        return clack + (0.24 * air(hiss) + 0.2 * metal(time)) * fall(time, 0.034);
      });
    }
    case 'open-hat': {
      const air = highs(0.45);
      return sound(0.5, sampleRate, 15, (time, hiss) => {
        return (0.22 * air(hiss) + 0.24 * metal(time)) * fall(time, 0.16);
      });
    }
    case 'shaker': {
      const beads = highs(0.6);
      return sound(0.1, sampleRate, 16, (time, hiss) => {
        return 0.4 * beads(hiss) * Math.min(1, time / 0.012) * fall(time, 0.025);
      });
    }
    case 'clap': {
      const hands = highs(0.18);
      return sound(0.18, sampleRate, 17, (time, hiss) => {
        // Several hands, never quite together.
        const near = [0, 0.009, 0.019].reduce(
          (sum, late) => sum + (time >= late ? fall(time - late, 0.006) : 0),
          0,
        );
        return hands(hiss) * (0.3 * near + 0.25 * fall(time, 0.045));
      });
    }
  }
}
