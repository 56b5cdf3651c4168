import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  advance,
  changeLoop,
  changeTempo,
  rampTempo,
  startTransport,
  tickAt,
  type Transport,
  type Window,
} from '.';

const BAR = 3840;
const barEnd = (tick: number) => (Math.floor(tick / BAR) + 1) * BAR;

function start(options: Partial<Parameters<typeof startTransport>[0]> = {}): Transport {
  return startTransport({
    time: 10,
    from: 0,
    countIn: 0,
    secondsPerTick: 1 / 1000,
    loop: null,
    songEnd: 4 * BAR,
    ...options,
  });
}

/** Takes windows in steps of a tenth of a second up to a time. */
function take(transport: Transport, until: number): { transport: Transport; windows: Window[] } {
  const windows: Window[] = [];
  let now = transport;
  for (let time = 10; time <= until + 1e-9; time += 0.1) {
    const step = advance(now, time);
    windows.push(...step.windows);
    now = step.transport;
  }
  return { transport: now, windows };
}

const end = (window: Window) => window.time + (window.to - window.from) * window.secondsPerTick;

describe('the transport', () => {
  it('hands out every tick once, in order, and ends with the song', () => {
    const { transport, windows } = take(start(), 40);
    expect(windows[0]!.from).toBe(0);
    windows.slice(1).forEach((window, index) => expect(window.from).toBe(windows[index]!.to));
    expect(windows.at(-1)!.to).toBe(4 * BAR);
    expect(transport.finished).toBe(true);
  });

  it('counts in before the first tick', () => {
    const { windows } = take(start({ from: BAR, countIn: BAR }), 18);
    const counted = windows.filter((window) => window.countIn);
    expect(counted[0]).toMatchObject({ from: 0, time: 10 });
    expect(counted.at(-1)!.to).toBe(BAR);
    const music = windows.find((window) => !window.countIn)!;
    expect(music.from).toBe(BAR);
    expect(music.time).toBeCloseTo(10 + BAR / 1000, 9);
  });

  it('goes round a loop without a gap', () => {
    const { windows } = take(start({ loop: { from: BAR, to: 2 * BAR } }), 30);
    windows.slice(1).forEach((window, index) => {
      expect(window.time).toBeCloseTo(end(windows[index]!), 9);
    });
    expect(windows.filter((window) => window.from === BAR).length).toBeGreaterThan(2);
  });

  it('changes tempo from the next tick on, without a gap', () => {
    const first = take(start(), 12);
    const faster = changeTempo(first.transport, 1 / 2000);
    const { windows } = advance(faster, 13);
    expect(windows[0]!.from).toBeCloseTo(first.windows.at(-1)!.to, 9);
    expect(windows[0]!.time).toBeCloseTo(end(first.windows.at(-1)!), 9);
    expect(windows[0]!.secondsPerTick).toBe(1 / 2000);
  });

  it('finishes the bar and then jumps into a loop it was outside of', () => {
    const first = take(start(), 11);
    const moved = changeLoop(first.transport, { from: 2 * BAR, to: 3 * BAR }, 4 * BAR, barEnd);
    const { windows } = advance(moved, 20);
    expect(windows[0]!.to).toBe(BAR);
    expect(windows[1]!.from).toBe(2 * BAR);
    expect(windows[1]!.time).toBeCloseTo(end(windows[0]!), 9);
  });

  it('leaves the loop when it is taken off and plays to the end', () => {
    const first = take(start({ loop: { from: 0, to: BAR } }), 12);
    const free = changeLoop(first.transport, null, 2 * BAR, barEnd);
    const { transport, windows } = advance(free, 40);
    expect(windows.at(-1)!.to).toBe(2 * BAR);
    expect(transport.finished).toBe(true);
  });

  it('keeps a count-in when the loop changes during it', () => {
    const first = take(start({ from: 0, countIn: BAR }), 11);
    const moved = changeLoop(first.transport, { from: BAR, to: 2 * BAR }, 4 * BAR, barEnd);
    const { windows } = advance(moved, 20);
    expect(windows.map((window) => [window.from < 0, window.countIn])[0]).toEqual([true, true]);
    expect(windows[1]).toMatchObject({ from: 0, to: BAR, countIn: false });
    expect(windows[2]!.from).toBe(BAR);
  });

  it('goes on from now when the song becomes shorter than where we are', () => {
    const first = take(start({ loop: { from: 0, to: 4 * BAR } }), 22);
    const cut = changeLoop(first.transport, { from: 0, to: BAR }, BAR, () => BAR);
    const { windows } = advance(cut, 23);
    expect(windows[0]!.from).toBe(0);
    expect(windows[0]!.time).toBeCloseTo(end(first.windows.at(-1)!), 9);
  });

  it('knows the tick that is heard, also just before the latest change', () => {
    const { transport } = take(start({ loop: { from: 0, to: BAR } }), 14);
    expect(tickAt(transport, 13)).toBeCloseTo(3000, 6);
    expect(tickAt(transport, 13.9)).toBeCloseTo(60, 6);
  });

  it('never loses or repeats a moment, whatever changes while it plays', () => {
    const change = fc.oneof(
      fc.record({ tempo: fc.integer({ min: 500, max: 4000 }) }),
      fc.record({
        loop: fc.oneof(
          fc.constant(null),
          fc.integer({ min: 0, max: 3 }).map((bar) => ({ from: bar * BAR, to: (bar + 1) * BAR })),
        ),
      }),
    );
    fc.assert(
      fc.property(fc.array(change, { maxLength: 12 }), (changes) => {
        let transport = start({ loop: { from: 0, to: 4 * BAR }, countIn: BAR });
        const windows: Window[] = [];
        changes.forEach((what, index) => {
          const step = advance(transport, 10 + index * 1.7);
          windows.push(...step.windows);
          transport =
            'tempo' in what
              ? changeTempo(step.transport, 1 / what.tempo)
              : changeLoop(step.transport, what.loop, 4 * BAR, barEnd);
        });
        windows.slice(1).forEach((window, index) => {
          expect(window.time).toBeCloseTo(end(windows[index]!), 6);
        });
      }),
    );
  });
});

describe('a tempo that climbs', () => {
  const up = { every: 2, by: 5, until: 72, back: false };

  it('goes up every few turns, to where it ends', () => {
    const tempos = [0, 1, 2, 3, 4, 6, 20].map((turn) => rampTempo(60, up, turn));
    expect(tempos).toEqual([60, 60, 65, 65, 70, 72, 72]);
    expect(rampTempo(60, { ...up, by: -5, until: 50 }, 6)).toBe(50);
    expect(rampTempo(60, { ...up, by: -5 }, 6)).toBe(60);
    expect(rampTempo(60, { ...up, by: 0 }, 6)).toBe(60);
  });

  it('goes back down the way it came, and up again', () => {
    const round = { every: 1, by: 5, until: 70, back: true };
    expect([0, 1, 2, 3, 4, 5, 6].map((turn) => rampTempo(60, round, turn))).toEqual([
      60, 65, 70, 65, 60, 65, 70,
    ]);
  });

  it('begins each turn at its own tempo, without a gap', () => {
    const loop = { from: 0, to: 1000 };
    let transport = startTransport({
      time: 0,
      from: 0,
      countIn: 0,
      secondsPerTick: 1 / 1000,
      loop,
      songEnd: 1000,
    });
    const turnTempo = (turn: number) => 1 / (1000 * 2 ** turn);
    const starts: number[] = [];
    let end = 0;
    for (let until = 0.1; until < 2; until += 0.1) {
      const step = advance(transport, until, turnTempo);
      transport = step.transport;
      for (const window of step.windows) {
        expect(window.time).toBeCloseTo(end, 9);
        end = window.time + (window.to - window.from) * window.secondsPerTick;
        if (window.from === 0) starts.push(window.time);
      }
    }
    expect(starts.slice(0, 4).map((time) => Number(time.toFixed(6)))).toEqual([0, 1, 1.5, 1.75]);
    expect(transport.turn).toBeGreaterThan(3);
  });
});
