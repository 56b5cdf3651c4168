import { expose, transfer } from 'comlink';
import { renderSound, type Sound } from '#core/sound';

const renderer = {
  render(sounds: Sound[], sampleRate: number) {
    const rendered = sounds.map((sound) => renderSound(sound, sampleRate));
    return transfer(
      rendered,
      rendered.map((samples) => samples.buffer),
    );
  },
};

export type Renderer = typeof renderer;

expose(renderer);
