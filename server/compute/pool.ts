import { plural } from '#core/plain';
import { Piscina } from 'piscina';
import { Refusal } from '../errors';
import type { Compute } from './tasks';

/** The largest valid song takes about a second here; machines of players may be several times slower. */
const SECONDS = 20;
const THREADS = 2;
/** Of the heap, for all threads together. */
const MEGABYTES = 512;
/** Of a thread's share, what is for things that are gone at once. */
const YOUNG_MEGABYTES = 32;
/** Requests that may wait for a thread; more are refused at once. */
const WAITING = 64;
/** Seconds after which a request that was refused for that may come again. */
const RETRY_AFTER = 5;

export interface Pool {
  compute: Compute;
  close: () => Promise<void>;
}

/**
 * Threads that work things out from songs, so that the one that answers requests never does. A task that
 * takes too long or too much memory is ended with its thread and answered with 503; others go on.
 * @param worker path of the built worker
 * @param megabytes of the heap of one thread
 */
export function openPool(worker: string, seconds = SECONDS, megabytes = MEGABYTES / THREADS): Pool {
  const pool = new Piscina({
    filename: worker,
    minThreads: 0,
    maxThreads: THREADS,
    idleTimeout: 30_000,
    resourceLimits: {
      maxYoungGenerationSizeMb: Math.min(YOUNG_MEGABYTES, megabytes / 2),
      maxOldGenerationSizeMb: Math.max(1, megabytes - YOUNG_MEGABYTES),
    },
  });
  // A thread that ran out of memory also tells the pool; its task is already answered.
  pool.on('error', () => {});
  let working = 0;
  const queue: (() => void)[] = [];
  /** Waits for a thread: the clock of a task begins with its work, and not in the queue. */
  async function turn(): Promise<void> {
    if (working >= THREADS) {
      if (queue.length >= WAITING) {
        throw new Refusal(
          503,
          { error: 'The app is busy with other songs; try again in a moment.' },
          { 'Retry-After': String(RETRY_AFTER) },
        );
      }
      await new Promise<void>((resolve) => queue.push(resolve));
    }
    working += 1;
  }
  const compute: Compute = async (task, song, input) => {
    await turn();
    try {
      return await run(task, song, input);
    } finally {
      working -= 1;
      queue.shift()?.();
    }
  };
  const run: Compute = async (task, song, input) => {
    const limit = AbortSignal.timeout(seconds * 1000);
    try {
      return (await pool.run({ task, song, input }, { signal: limit })) as Uint8Array;
    } catch (error) {
      if (limit.aborted) {
        throw new Refusal(503, {
          error:
            task === 'take'
              ? `This take takes longer than ${plural(seconds, 'second')} to listen to; a shorter one would do.`
              : `This song takes longer than ${plural(seconds, 'second')} to work out. It is kept; a shorter order or fewer repeats would do.`,
        });
      }
      const { code } = error as { code?: string };
      if (code === 'ERR_WORKER_OUT_OF_MEMORY') {
        throw new Refusal(503, {
          error: `This song takes more than ${megabytes} MB to work out. It is kept; a shorter order or fewer repeats would do.`,
        });
      }
      throw error;
    }
  };
  return { compute, close: () => pool.destroy() };
}
