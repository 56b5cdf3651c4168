import { describe, expect, it } from 'vitest';
import { nowNext } from './nowNext';

const changes = [
  { tick: 0, symbol: 'A' },
  { tick: 3840, symbol: 'D' },
  { tick: 7680, symbol: 'E7' },
];

describe('the chord now and next', () => {
  it('is read off the changes, to the end of the song', () => {
    expect(nowNext(changes, 2880, null)).toEqual({ now: 'A', next: 'D', wait: 960 });
    expect(nowNext(changes, 3840, null)).toEqual({ now: 'D', next: 'E7', wait: 3840 });
    expect(nowNext(changes, 9000, null)).toEqual({ now: 'E7', next: null, wait: 0 });
    expect(nowNext(changes, -1, null)).toEqual({ now: null, next: 'A', wait: 1 });
    expect(nowNext([], 0, null)).toEqual({ now: null, next: null, wait: 0 });
  });

  it('leads from the end of a loop back to its beginning', () => {
    const loop = { from: 1920, to: 7680 };
    expect(nowNext(changes, 4800, loop)).toEqual({ now: 'D', next: 'A', wait: 2880 });
    expect(nowNext(changes, 1920, loop)).toEqual({ now: 'A', next: 'D', wait: 1920 });
    const held = { from: 0, to: 7680 };
    expect(nowNext([{ tick: 0, symbol: 'A' }], 100, held)).toEqual({
      now: 'A',
      next: null,
      wait: 0,
    });
    const within = { from: 3840, to: 11520 };
    expect(nowNext(changes, 8640, within)).toEqual({ now: 'E7', next: 'D', wait: 2880 });
  });
});
