import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { TIMED_SECONDS, useChangeTimer } from './changeTimer';

let now = 0;
let told: number[][] = [];
const timer = () =>
  useChangeTimer(
    (gaps) => told.push(gaps),
    () => now,
  );

beforeEach(() => {
  vi.useFakeTimers();
  now = 100;
  told = [];
});
afterEach(() => {
  vi.useRealTimers();
});

describe('timing a change', () => {
  it('gives the gaps between the chords, once the time is over', () => {
    const { start, ready, running, left } = timer();
    start();
    expect(left.value).toBe(TIMED_SECONDS);
    for (const at of [101, 101.5, 102.25]) {
      now = at;
      ready();
    }
    now = 100 + TIMED_SECONDS + 0.1;
    vi.advanceTimersByTime(150);
    expect(running.value).toBe(false);
    expect(told).toEqual([[500, 750]]);
  });

  it('may be ended before, and says so once', () => {
    const { start, ready, end } = timer();
    start();
    ready(101);
    ready(102);
    end();
    end();
    expect(told).toEqual([[1000]]);
  });

  it('hears nothing while it does not run, and begins anew', () => {
    const { start, ready, end, moments } = timer();
    ready(99);
    expect(moments.value).toEqual([]);
    start();
    ready(101);
    start();
    expect(moments.value).toEqual([]);
    end();
    expect(told).toEqual([[]]);
  });
});
