/**
 * `npm test`: all the set-up and every check, what only reads the code while the database is still
 * compiled. It goes on after a failed check, so that one run shows them all, and ends with a line that
 * counts the tests of both runners.
 */
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { check } from './check.mjs';
import { browsers } from './chromium.mjs';
import { BENCHES, bin, build, install, root } from './setup.mjs';

const results = path.join(root, 'test-results');
rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });
const unit = path.join(results, 'unit.json');
const journeys = path.join(results, 'journeys.json');

let failedChecks = 0;
function step(name, program, args, env = {}) {
  const began = Date.now();
  console.log(`\n== ${name}`);
  const file = path.isAbsolute(program) ? program : bin(program);
  const { status } = spawnSync(file, args, {
    cwd: root,
    stdio: 'inherit',
    env: { ...process.env, ...env },
  });
  console.log(
    `== ${name}: ${status === 0 ? 'good' : 'FAILED'}, ${Math.round((Date.now() - began) / 1000)} s`,
  );
  if (status !== 0) failedChecks += 1;
}

/** What only reads the code is done while the database is compiled. */
await install(async () => {
  failedChecks += await check();
});
const found = browsers();
step('unit and server tests', 'vitest', [
  'run',
  '--reporter=default',
  '--reporter=json',
  `--outputFile.json=${unit}`,
]);
await build();
for (const bench of BENCHES) {
  step(`${bench}, once`, process.execPath, ['--expose-gc', `dist/server/${bench}.js`], {
    BENCH_ONCE: '1',
  });
}
step('journeys in the browser', 'playwright', ['test'], {
  ...found,
  PLAYWRIGHT_JSON_OUTPUT_FILE: journeys,
});

/** Tests passed, failed and skipped by one runner; a report that is missing counts as a failure. */
function counts(file, read) {
  return existsSync(file) ? read(JSON.parse(readFileSync(file, 'utf8'))) : [0, 1, 0];
}
const totals = [
  counts(unit, (report) => [report.numPassedTests, report.numFailedTests, report.numPendingTests]),
  counts(journeys, ({ stats }) => {
    // A fault shows twice; a machine that stalled in the middle of a bar does not, and is told.
    if (stats.flaky > 0) console.log(`journeys that passed the second time: ${stats.flaky}`);
    return [stats.expected + stats.flaky, stats.unexpected, stats.skipped];
  }),
].reduce((sum, part) => sum.map((count, index) => count + part[index]));

console.log(`\n${totals[0]} passed, ${totals[1]} failed, ${totals[2]} skipped`);
if (failedChecks > 0) console.log(`checks that failed: ${failedChecks}`);
process.exit(failedChecks === 0 && totals[1] === 0 && totals[0] > 0 ? 0 : 1);
