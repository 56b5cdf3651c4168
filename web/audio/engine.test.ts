import { METERS, type Span } from '#core/time';
import { newSong, songTicks, playedBars } from '#core/song';
import { arrange } from '#core/arrange';
import { type Sound, USUAL_LEVELS } from '#core/sound';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Engine, type Score } from './engine';
import { SampleBank } from './sampleBank';
import { Speaker } from './speaker';
import type { Cue } from '#core/sound';

/** A clock that only goes on when the test says so, and a timer that ticks with it. */
const clock = { now: 0 };
let tick: () => void = () => undefined;
let cues: (Cue & { handed: number })[] = [];
let prepared: Sound[] = [];

class FakeContext {
  destination = {};
  outputLatency = 0;
  sampleRate = 8000;
  createBuffer = () => ({ copyToChannel: () => undefined });
  get currentTime() {
    return clock.now;
  }
  resume = async () => undefined;
}
class FakeNode {
  gain = { setTargetAtTime: () => undefined };
  connect = (node: unknown) => node;
}
class FakeWorker {
  set onmessage(heard: () => void) {
    tick = heard;
  }
  postMessage() {}
  addEventListener() {}
  start() {}
}

beforeEach(() => {
  clock.now = 0;
  cues = [];
  prepared = [];
  vi.stubGlobal('window', { setTimeout });
  vi.stubGlobal('AudioContext', FakeContext);
  vi.stubGlobal('GainNode', FakeNode);
  vi.stubGlobal('WaveShaperNode', FakeNode);
  vi.stubGlobal('ConvolverNode', FakeNode);
  vi.stubGlobal('Worker', FakeWorker);
  vi.spyOn(SampleBank.prototype, 'prepare').mockImplementation(async (sounds) => {
    prepared = sounds;
  });
  vi.spyOn(Speaker.prototype, 'carry').mockImplementation((list) => {
    cues.push(...list.map((cue) => ({ ...cue, handed: clock.now })));
  });
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

function scoreOf(progression: string, change: Partial<Score> = {}, tempo = 120): Score {
  const song = newSong({ title: 'Any', instrument: 'guitar', progression, tempo });
  return {
    performance: arrange(song),
    meter: METERS['4/4'],
    family: 'guitar',
    loop: null,
    click: null,
    groove: null,
    levels: USUAL_LEVELS,
    speed: 1,
    ramp: null,
    ...change,
  };
}
const whole = (progression: string): Span => {
  const song = newSong({ title: 'Any', instrument: 'guitar', progression });
  return { from: 0, to: songTicks(playedBars(song)) };
};

/** Lets the clock go on in steps of a timer. */
function wait(seconds: number): void {
  const until = clock.now + seconds;
  while (clock.now < until) {
    clock.now += 0.025;
    tick();
  }
}

const starts = (kind: Sound['kind']) =>
  cues.flatMap((cue) => (cue.act === 'start' && cue.sound.kind === kind ? [cue] : []));
/** Moments from the first of them, in hundredths of a second. */
const moments = (kind: Sound['kind']) => {
  const times = starts(kind).map(({ time }) => time);
  return times.map((time) => Math.round((time - times[0]!) * 100) / 100);
};

describe('a start', () => {
  it('comes to nothing where it is stopped, or overtaken, before its sounds are ready', async () => {
    const waiting: (() => void)[] = [];
    vi.spyOn(SampleBank.prototype, 'prepare').mockImplementation(
      () => new Promise((resolve) => waiting.push(resolve)),
    );
    const finished = vi.fn();
    const engine = new Engine(finished);
    const stopped = engine.start(scoreOf('A'), 0, 0);
    engine.stop();
    const overtaken = engine.start(scoreOf('A'), 0, 0);
    const last = engine.start(scoreOf('D'), 0, 0);
    waiting.forEach((resolve) => resolve());
    expect(await Promise.all([stopped, overtaken, last])).toEqual([false, false, true]);
    expect(engine.position()).not.toBeNull();
    engine.stop();
    expect(engine.position()).toBeNull();
  });
});

describe('the engine', () => {
  it('counts in, then plays, and hands nothing over late', async () => {
    let finished = 0;
    const engine = new Engine(() => (finished += 1));
    await engine.start(scoreOf('A'), 0, 1);
    expect(engine.position()).toMatchObject({ countIn: true, start: 0 });
    wait(2.2);
    expect(engine.position()).toMatchObject({ countIn: false });
    wait(3);
    expect(moments('click')).toEqual([0, 0.5, 1, 1.5]);
    const first = starts('pluck')[0]!;
    expect(first.time - starts('click')[0]!.time).toBeCloseTo(2, 6);
    expect(cues.every(({ time, handed }) => time >= handed)).toBe(true);
    expect(finished).toBe(1);
    expect(engine.position()).toBeNull();
  });

  it('has all that it will play rendered before it begins', async () => {
    await new Engine(() => undefined).start(scoreOf('A | D', { groove: 'eighths' }), 0, 0);
    const kinds = new Set(prepared.map(({ kind }) => kind));
    expect([...kinds].sort()).toEqual(['click', 'drum', 'pluck', 'word']);
  });

  it('clicks in the meter of each bar, on the beats that are asked for', async () => {
    const engine = new Engine(() => undefined);
    await engine.start(scoreOf('A | (3/4) D | A', { click: 'first' }), 0, 0);
    wait(5);
    expect(moments('click')).toEqual([0, 2, 3.5]);
  });

  it('rings a held chord beyond the last bar before it ends', async () => {
    let finished = false;
    const engine = new Engine(() => (finished = true));
    await engine.start(scoreOf('A~'), 0, 0);
    wait(2.5);
    expect(finished).toBe(false);
    wait(2);
    expect(finished).toBe(true);
  });

  it('goes round a loop faster turn by turn, and at a share of the tempo', async () => {
    const engine = new Engine(() => undefined);
    const ramp = { every: 1, by: 60, until: 240, back: false };
    await engine.start(scoreOf('A', { loop: whole('A'), click: 'first', ramp }), 0, 0);
    wait(6);
    const turns = moments('click').slice(0, 5);
    expect(turns[1]).toBeCloseTo(2, 2);
    expect(turns[2]! - turns[1]!).toBeCloseTo(4 / 3, 1);
    expect(turns[3]! - turns[2]!).toBeCloseTo(1, 2);
    expect(turns[4]! - turns[3]!).toBeCloseTo(1, 2);
    expect(engine.position()!.tempo).toBe(240);
    engine.stop();
    cues = [];
    const slow = scoreOf('A', { loop: whole('A'), click: 'all', speed: 0.5 });
    await engine.start(slow, 0, 0);
    wait(3);
    expect(moments('click').slice(0, 3)).toEqual([0, 1, 2]);
    expect(engine.position()!.tempo).toBe(60);
  });

  it('takes another tempo and another loop while it plays, without a gap', async () => {
    const engine = new Engine(() => undefined);
    const text = 'A | D | E7';
    await engine.start(scoreOf(text, { click: 'all', loop: whole(text) }), 0, 0);
    wait(1.2);
    engine.update(scoreOf(text, { click: 'all', loop: { from: 0, to: 3840 } }, 240));
    wait(3);
    const times = moments('click');
    const gaps = times.slice(1).map((time, index) => time - times[index]!);
    expect(Math.max(...gaps)).toBeLessThan(0.51);
    expect(Math.min(...gaps)).toBeGreaterThan(0.24);
    expect(engine.position()!.tick).toBeLessThan(3840);
  });

  it('lets the click fade over eight bars', async () => {
    const engine = new Engine(() => undefined);
    const text = 'A | A';
    await engine.start(scoreOf(text, { click: 'fading', loop: whole(text) }, 300), 0, 0);
    wait(10);
    const clicks = starts('click');
    expect(clicks).toHaveLength(32);
    expect(clicks.at(-1)!.gain).toBeLessThan(0.2 * clicks[0]!.gain);
  });

  it('knows where the ear is: the clock less what was measured', async () => {
    const engine = new Engine(() => undefined);
    await engine.start(scoreOf('A | D'), 0, 0);
    wait(1);
    const before = engine.position()!.tick;
    engine.latency = 0.25;
    expect(before - engine.position()!.tick).toBeCloseTo(0.25 * 1920, 0);
    expect(engine.clock()).toMatchObject({ device: 0 });
  });
});
