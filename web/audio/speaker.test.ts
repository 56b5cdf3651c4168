import type { Cue, Sound } from '#core/sound';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { SampleBank } from './sampleBank';
import { Speaker } from './speaker';

/** What was asked of the audio clock. */
interface Heard {
  buffer: string;
  level: number;
  start: number;
  stop: number | null;
}
let heard: Heard[] = [];

class FakeGain {
  gain = { setTargetAtTime: vi.fn() };
  level: number;
  constructor(_context: unknown, { gain = 1 }: { gain?: number } = {}) {
    this.level = gain;
  }
  connect = (node: unknown) => node;
  disconnect = () => undefined;
}

class FakeSource {
  private readonly sound: Heard;
  constructor(_context: unknown, { buffer }: { buffer: string }) {
    this.sound = { buffer, level: 0, start: 0, stop: null };
    heard.push(this.sound);
  }
  connect(node: FakeGain) {
    this.sound.level = node.level;
    return node;
  }
  start(time: number) {
    this.sound.start = time;
  }
  stop(time: number) {
    this.sound.stop = time;
  }
}

beforeEach(() => {
  heard = [];
  vi.stubGlobal('GainNode', FakeGain);
  vi.stubGlobal('WaveShaperNode', FakeGain);
  vi.stubGlobal('ConvolverNode', FakeGain);
  vi.stubGlobal('StereoPannerNode', FakeGain);
  vi.stubGlobal('AudioBufferSourceNode', FakeSource);
});

const kick: Sound = { kind: 'drum', piece: 'kick' };
const snare: Sound = { kind: 'drum', piece: 'snare' };
const start = (id: number, time: number, sound = kick, pan = 0): Cue => ({
  act: 'start',
  id,
  sound,
  channel: 'drums',
  time,
  gain: 0.4,
  pan,
});

function speaker(): Speaker {
  const bank = {
    buffer: (sound: Sound) => ('piece' in sound && sound.piece === 'kick' ? 'kick' : undefined),
  } as unknown as SampleBank;
  const context = {
    currentTime: 0,
    sampleRate: 8000,
    destination: {},
    createBuffer: () => ({ copyToChannel: () => undefined }),
  } as unknown as AudioContext;
  return new Speaker(context, bank, {} as AudioNode);
}

describe('the speaker', () => {
  it('starts and stops what the cues say, on the audio clock', () => {
    const one = speaker();
    one.carry([start(0, 1), start(1, 2), { act: 'stop', id: 0, time: 2 }]);
    expect(heard.map(({ start: at, level }) => [at, level])).toEqual([
      [1, 0.4],
      [2, 0.4],
    ]);
    expect(heard[0]!.stop!).toBeGreaterThan(2);
    expect(heard[0]!.stop!).toBeLessThan(2.1);
    expect(heard[1]!.stop).toBeNull();
  });

  it('passes over a sound that is not rendered yet, and a stop of what is not there', () => {
    const one = speaker();
    expect(() => one.carry([start(0, 1, snare), { act: 'stop', id: 0, time: 2 }])).not.toThrow();
    expect(heard).toEqual([]);
  });

  it('takes back what was handed out ahead when the player stops', () => {
    const one = speaker();
    one.carry([start(0, 1), start(1, 1.2)]);
    one.silence(1.1);
    expect(heard.every(({ stop }) => stop !== null && stop < 1.2)).toBe(true);
  });
});
