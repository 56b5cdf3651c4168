import { expect, test } from 'vitest';
import type { Milliseconds, Seconds, Ticks } from '.';

/** What is wrong here is found by the check of types, which fails where it is not refused. */
test('a number of one unit is not taken for one of another, a plain one for any', () => {
  const ticks: Ticks = 960;
  const seconds: Seconds = 0.5;
  // @ts-expect-error ticks are no seconds
  const wrong: Seconds = ticks;
  // @ts-expect-error nor seconds milliseconds
  const wrongToo: Milliseconds = seconds;
  const right: Milliseconds = seconds * 1000;
  expect([wrong, wrongToo, right]).toEqual([960, 0.5, 500]);
});
