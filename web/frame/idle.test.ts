import { afterEach, describe, expect, it, vi } from 'vitest';
import { whenIdle } from './idle';

afterEach(() => {
  vi.unstubAllGlobals();
  vi.useRealTimers();
});

describe('a moment in which the page has nothing to do', () => {
  it('is told by the browser, and not waited for longer than is said', () => {
    const asked = vi.fn();
    vi.stubGlobal('requestIdleCallback', asked);
    const call = vi.fn();
    whenIdle(call, 200);
    expect(asked).toHaveBeenCalledWith(expect.any(Function), { timeout: 200 });
    expect(call).not.toHaveBeenCalled();
    asked.mock.calls[0]![0]({ didTimeout: false });
    expect(call).toHaveBeenCalledWith();
    whenIdle(call);
    expect(asked).toHaveBeenLastCalledWith(expect.any(Function), {});
  });

  it('comes by itself where the browser does not tell', () => {
    vi.useFakeTimers();
    const call = vi.fn();
    whenIdle(call);
    expect(call).not.toHaveBeenCalled();
    vi.advanceTimersByTime(100);
    expect(call).toHaveBeenCalledOnce();
  });
});
