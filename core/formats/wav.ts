import { WaveFile } from 'wavefile';

/**
 * Samples as a WAV file, 16 bits, one channel.
 * @param samples between -1 and 1
 * @example toWav(new Float32Array(44100), 44100).length // 88244
 */
export function toWav(samples: Float32Array, sampleRate: number): Uint8Array<ArrayBuffer> {
  const whole = Int16Array.from(samples, (sample) =>
    Math.round(Math.min(1, Math.max(-1, sample)) * 32767),
  );
  const file = new WaveFile();
  file.fromScratch(1, sampleRate, '16', whole);
  return new Uint8Array(file.toBuffer());
}
