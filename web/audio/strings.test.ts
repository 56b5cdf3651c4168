import type { Strike } from '#core';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { SampleBank } from './sampleBank';
import { Strings } from './strings';

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
  constructor(_context: unknown, { gain }: { gain: number }) {
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

const bank = {
  pluck: (_family: string, midi: number) => `pluck ${midi}`,
  hit: (name: string) => name,
} as unknown as SampleBank;

const strike = (notes: [number, number][], damps: number[] = []): Strike => ({
  kind: damps.length > 0 ? 'chuck' : 'strum',
  dir: 'down',
  accent: 'normal',
  tick: 0,
  ticks: 480,
  seconds: 0,
  bar: 0,
  slot: 0,
  chord: 'A',
  landing: false,
  velocity: 0.6,
  notes: notes.map(([string, midi], order) => ({
    string,
    fret: 0,
    midi,
    delay: order * 0.01,
    velocity: 0.6,
  })),
  damps,
});

beforeEach(() => {
  heard = [];
  vi.stubGlobal('GainNode', FakeGain);
  vi.stubGlobal('AudioBufferSourceNode', FakeSource);
});

const strings = () => new Strings({} as AudioContext, bank, {} as AudioNode);

describe('the strings on the audio clock', () => {
  it('rake a strum string by string', () => {
    strings().play(
      strike([
        [0, 45],
        [1, 52],
        [2, 57],
      ]),
      'guitar',
      2,
    );
    expect(heard.map(({ buffer, start }) => [buffer, Number(start.toFixed(3))])).toEqual([
      ['pluck 45', 2],
      ['pluck 52', 2.01],
      ['pluck 57', 2.02],
    ]);
  });

  it('have one voice each: a new pluck stops the old, and only that string', () => {
    const all = strings();
    all.play(
      strike([
        [0, 45],
        [1, 52],
      ]),
      'guitar',
      1,
    );
    all.play(strike([[1, 54]]), 'guitar', 2);
    expect(heard[0]!.stop).toBeNull();
    expect(heard[1]!.stop!).toBeGreaterThan(2);
    expect(heard[1]!.stop!).toBeLessThan(2.1);
    expect(heard[2]!.stop).toBeNull();
  });

  it('are stopped by a chuck, which sounds without a pitch', () => {
    const all = strings();
    all.play(
      strike([
        [0, 45],
        [1, 52],
      ]),
      'guitar',
      1,
    );
    all.play(strike([], [0, 1]), 'guitar', 1.5);
    expect(heard.map(({ buffer }) => buffer)).toEqual(['pluck 45', 'pluck 52', 'chuck']);
    expect(heard.slice(0, 2).every(({ stop }) => stop !== null && stop > 1.5)).toBe(true);
  });

  it('fall silent together when the hand leaves them, once', () => {
    const all = strings();
    all.play(
      strike([
        [0, 45],
        [1, 52],
      ]),
      'guitar',
      1,
    );
    all.silence(3);
    const stops = heard.map(({ stop }) => stop);
    all.silence(4);
    expect(heard.map(({ stop }) => stop)).toEqual(stops);
    expect(stops.every((stop) => stop! > 3 && stop! < 3.1)).toBe(true);
  });

  it('are louder for harder strikes, and skip a pluck that is not rendered yet', () => {
    const all = strings();
    const soft = strike([[0, 45]]);
    all.play({ ...soft, notes: [{ ...soft.notes[0]!, velocity: 0.3 }] }, 'guitar', 1);
    all.play({ ...soft, notes: [{ ...soft.notes[0]!, velocity: 0.9 }] }, 'guitar', 2);
    expect(heard[1]!.level).toBeGreaterThan(2 * heard[0]!.level);
    const empty = { ...bank, pluck: () => undefined } as unknown as SampleBank;
    const none = new Strings({} as AudioContext, empty, {} as AudioNode);
    expect(() => none.play(soft, 'guitar', 3)).not.toThrow();
    expect(heard).toHaveLength(2);
  });

  it('take back what was handed out ahead when the player stops', () => {
    const all = strings();
    all.play(strike([[0, 45]]), 'guitar', 1);
    all.play(strike([], [3]), 'guitar', 1.2);
    all.click('beat', 1.2);
    all.stop(1.1);
    expect(heard.map(({ stop }) => stop !== null && stop < 1.2)).toEqual([true, true, true]);
  });

  it('click by the weight of the beat', () => {
    strings().click('bar', 5);
    expect(heard[0]).toMatchObject({ buffer: 'bar', start: 5 });
  });
});
