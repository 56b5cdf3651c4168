import { expose, transfer } from 'comlink';
import { type Mix, mixdown } from '#core/sound';
import { toWav } from '#core/formats';

const desk = {
  /**
   * Mixes down to a WAV file.
   * @param told called with the progress, 0 to 1
   */
  async wav(mix: Mix, told: (progress: number) => void): Promise<Uint8Array<ArrayBuffer>> {
    const steps = mixdown(mix);
    for (;;) {
      const { value, done } = steps.next();
      if (done) {
        const file = toWav(value, mix.sampleRate);
        return transfer(file, [file.buffer]);
      }
      told(value);
    }
  },
};

export type MixdownDesk = typeof desk;

expose(desk);
