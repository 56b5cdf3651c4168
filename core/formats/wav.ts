import { WaveFile } from 'wavefile';
import type { Stereo } from '../sound';

/**
 * Samples as a WAV file, 16 bits.
 * @param samples between -1 and 1: of one channel, or of two of the same length
 * @example toWav(new Float32Array(44100), 44100).length // 88244
 */
export function toWav(samples: Float32Array | Stereo, sampleRate: number): Uint8Array<ArrayBuffer> {
  const whole = (channel: Float32Array) =>
    Int16Array.from(channel, (sample) => Math.round(Math.min(1, Math.max(-1, sample)) * 32767));
  const file = new WaveFile();
  if ('left' in samples) {
    file.fromScratch(2, sampleRate, '16', [whole(samples.left), whole(samples.right)]);
  } else {
    file.fromScratch(1, sampleRate, '16', whole(samples));
  }
  return new Uint8Array(file.toBuffer());
}
