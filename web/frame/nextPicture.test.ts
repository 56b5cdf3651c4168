import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { nextPicture } from './nextPicture';

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

/** @returns what draws a picture, and whether the next one was waited for to its end */
function waiting() {
  let draw = () => {};
  vi.stubGlobal('requestAnimationFrame', (callback: () => void) => (draw = callback));
  const told = { yet: false };
  void nextPicture().then(() => (told.yet = true));
  return { draw: () => draw(), told };
}

describe('the next picture', () => {
  it('is there after what is due in it was drawn, and not before', async () => {
    const { draw, told } = waiting();
    await vi.advanceTimersByTimeAsync(50);
    expect(told.yet).toBe(false);
    draw();
    // It is drawn after the callbacks that it is asked for with.
    expect(told.yet).toBe(false);
    await vi.advanceTimersByTimeAsync(1);
    expect(told.yet).toBe(true);
  });

  it('is not waited for where nobody looks', async () => {
    const { told } = waiting();
    await vi.advanceTimersByTimeAsync(200);
    expect(told.yet).toBe(true);
  });
});
