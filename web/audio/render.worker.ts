import { expose, transfer } from 'comlink';
import { chuck, click, type Family, pluck, STRING_VOICES } from '#core';

/** Seconds that a rendered pluck lasts; it is choked long before in almost every pattern. */
const PLUCK_SECONDS = 3;

const renderer = {
  plucks(family: Family, pitches: number[], sampleRate: number) {
    const rendered = pitches.map((midi) =>
      pluck(midi, PLUCK_SECONDS, sampleRate, STRING_VOICES[family]),
    );
    return transfer(
      rendered,
      rendered.map((samples) => samples.buffer),
    );
  },

  percussion(sampleRate: number) {
    return {
      chuck: chuck(sampleRate),
      bar: click('bar', sampleRate),
      group: click('group', sampleRate),
      beat: click('beat', sampleRate),
    };
  },
};

export type Renderer = typeof renderer;

expose(renderer);
