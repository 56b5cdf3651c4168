import { type Sound, soundKey } from '#core/sound';
import { lazyWorker } from '../workers/remote';
import type { Renderer } from './render.worker';
import url from './render.worker.ts?worker&url';

const renderer = lazyWorker<Renderer>(url);

/** The rendered sounds of one audio context: made in a worker, each once. */
export class SampleBank {
  private readonly buffers = new Map<string, AudioBuffer>();

  constructor(private readonly context: BaseAudioContext) {}

  /** Renders what is still missing. */
  async prepare(sounds: Sound[]): Promise<void> {
    const missing = sounds.filter((sound) => !this.buffers.has(soundKey(sound)));
    if (missing.length === 0) return;
    const { sampleRate } = this.context;
    const rendered = await renderer().render(missing, sampleRate);
    missing.forEach((sound, index) => {
      const samples = rendered[index]!;
      const buffer = this.context.createBuffer(1, samples.length, sampleRate);
      buffer.copyToChannel(samples, 0);
      this.buffers.set(soundKey(sound), buffer);
    });
  }

  buffer(sound: Sound): AudioBuffer | undefined {
    return this.buffers.get(soundKey(sound));
  }
}
