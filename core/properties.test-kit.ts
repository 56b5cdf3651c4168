import fc from 'fast-check';
import { inject } from 'vitest';

/**
 * How the laws are tested. `npm test` tries the same examples each time, so that it only fails for
 * what was changed; `npm run fuzz` tries many more, other ones each time, and what it finds becomes
 * an example or a mended generator. Set up by vitest.config.ts.
 */

declare module 'vitest' {
  interface ProvidedContext {
    /** How many times as many examples as usual to try; only 1 repeats the same ones. */
    fuzz: number;
  }
}

const USUAL_RUNS = 100;
const SEED = 960;

/**
 * How often to try a law whose examples cost more, or vary more, than most.
 * @example fc.assert(property, tries(600))
 */
export function tries(usual: number): { numRuns: number } {
  return { numRuns: usual * inject('fuzz') };
}

fc.configureGlobal(inject('fuzz') === 1 ? { ...tries(USUAL_RUNS), seed: SEED } : tries(USUAL_RUNS));
