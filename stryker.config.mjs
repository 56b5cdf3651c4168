/** Small faults put into the code of one room, to see whether a test fails: `npm run mutate -- edit`. */
const room = process.env.MUTATE ?? 'edit';
const folder = room.includes('/') ? room : `core/${room}`;

export default {
  testRunner: 'vitest',
  plugins: ['@stryker-mutator/vitest-runner'],
  mutate: [`${folder}/**/*.ts`, '!**/*.test.ts', '!**/*.test-kit.ts', '!**/index.ts'],
  vitest: { configFile: 'vitest.mutate.config.ts', related: false },
  // What is worked out while a file is read is the same for all tests, and cannot be told apart by them.
  ignoreStatic: true,
  concurrency: 2,
  timeoutMS: 20_000,
  tempDirName: '.cache/stryker',
  incremental: true,
  incrementalFile: `.cache/stryker-${room.replaceAll('/', '-')}.json`,
  reporters: ['clear-text', 'json'],
  jsonReporter: { fileName: `.cache/mutants-${room.replaceAll('/', '-')}.json` },
  clearTextReporter: { allowColor: false, logTests: false, reportTests: false },
  ignorePatterns: ['dist', 'docs', 'data', 'test-results', '.cache'],
  thresholds: { high: 90, low: 80, break: null },
};
