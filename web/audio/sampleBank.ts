import { type Remote, wrap } from 'comlink';
import { type Sound, soundKey } from '#core';
import type { Renderer } from './render.worker';

/** The rendered sounds of one audio context: made in a worker, each once. */
export class SampleBank {
  private readonly renderer: Remote<Renderer>;
  private readonly buffers = new Map<string, AudioBuffer>();

  constructor(private readonly context: BaseAudioContext) {
    const worker = new Worker(new URL('./render.worker.ts', import.meta.url), { type: 'module' });
    this.renderer = wrap<Renderer>(worker);
  }

  /** Renders what is still missing. */
  async prepare(sounds: Sound[]): Promise<void> {
    const missing = sounds.filter((sound) => !this.buffers.has(soundKey(sound)));
    if (missing.length === 0) return;
    const { sampleRate } = this.context;
    const rendered = await this.renderer.render(missing, sampleRate);
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
