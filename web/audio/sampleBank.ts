import { type Remote, wrap } from 'comlink';
import type { Family } from '#core';
import type { Renderer } from './render.worker';

const HITS = ['chuck', 'bar', 'group', 'beat'] as const;
type Hit = (typeof HITS)[number];

/** The rendered sounds of one audio context: made in a worker, each once. */
export class SampleBank {
  private readonly renderer: Remote<Renderer>;
  private readonly plucks = new Map<string, AudioBuffer>();
  private readonly percussion = new Map<Hit, AudioBuffer>();

  constructor(private readonly context: BaseAudioContext) {
    const worker = new Worker(new URL('./render.worker.ts', import.meta.url), { type: 'module' });
    this.renderer = wrap<Renderer>(worker);
  }

  private buffer(samples: Float32Array<ArrayBuffer>): AudioBuffer {
    const buffer = this.context.createBuffer(1, samples.length, this.context.sampleRate);
    buffer.copyToChannel(samples, 0);
    return buffer;
  }

  /** Renders what is still missing for these pitches. */
  async prepare(family: Family, pitches: Iterable<number>): Promise<void> {
    const { sampleRate } = this.context;
    const missing = [...new Set(pitches)].filter((midi) => !this.plucks.has(`${family}:${midi}`));
    const [rendered, percussion] = await Promise.all([
      missing.length > 0 ? this.renderer.plucks(family, missing, sampleRate) : [],
      this.percussion.size === 0 ? this.renderer.percussion(sampleRate) : null,
    ]);
    missing.forEach((midi, index) =>
      this.plucks.set(`${family}:${midi}`, this.buffer(rendered[index]!)),
    );
    for (const name of percussion ? HITS : []) {
      this.percussion.set(name, this.buffer(percussion![name]));
    }
  }

  pluck(family: Family, midi: number): AudioBuffer | undefined {
    return this.plucks.get(`${family}:${midi}`);
  }

  hit(name: Hit): AudioBuffer | undefined {
    return this.percussion.get(name);
  }
}
