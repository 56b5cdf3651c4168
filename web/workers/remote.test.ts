// @vitest-environment happy-dom
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { lazyWorker } from './remote';

interface Counter {
  count(to: number): number;
}

/** A worker whose script says nothing by itself. */
class StillWorker extends EventTarget {
  asked: { id: string }[] = [];
  postMessage(message: { id: string }): void {
    this.asked.push(message);
  }
  answer(value: unknown): void {
    const { id } = this.asked.at(-1)!;
    this.dispatchEvent(new MessageEvent('message', { data: { id, type: 'RAW', value } }));
  }
}

let started: StillWorker[] = [];
beforeEach(() => {
  started = [];
  const start = class extends StillWorker {
    constructor() {
      super();
      started.push(this);
    }
  };
  vi.stubGlobal('Worker', start);
});
afterEach(() => vi.unstubAllGlobals());

it('is started with its first use, and once', async () => {
  const worker = lazyWorker<Counter>('counter.js');
  expect(started).toHaveLength(0);
  const first = worker().count(3);
  started[0]!.answer(3);
  expect(await first).toBe(3);
  void worker().count(4);
  expect(started).toHaveLength(1);
});

it('refuses what waits where its script cannot be loaded, and is started again with the next use', async () => {
  const worker = lazyWorker<Counter>('counter.js');
  const both = [worker().count(1), worker().count(2)];
  started[0]!.dispatchEvent(new Event('error'));
  for (const one of both) await expect(one).rejects.toThrow('was not loaded yet');
  const later = worker().count(5);
  expect(started).toHaveLength(2);
  started[1]!.answer(5);
  expect(await later).toBe(5);
});

it('leaves a fault of its own to the call that it happened in', async () => {
  const worker = lazyWorker<Counter>('counter.js');
  const asked = worker().count(1);
  started[0]!.dispatchEvent(Object.assign(new Event('error'), { message: 'of its own' }));
  started[0]!.answer(1);
  expect(await asked).toBe(1);
});
