import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { type Running, start } from './start';

/** Milliseconds after which a stop no longer waits for what is still being worked out. */
const STOP_WITHIN = 1500;

// Signals are heard before the data is opened: a start can be stopped as well.
const running: { server?: Running } = {};
function stop(): void {
  setTimeout(() => process.exit(0), STOP_WITHIN).unref();
  void Promise.resolve(running.server?.stop()).then(() => process.exit(0));
}
process.once('SIGINT', stop);
process.once('SIGTERM', stop);

try {
  const built = path.dirname(fileURLToPath(import.meta.url));
  running.server = start({ env: process.env, demo: process.argv.includes('--demo'), built });
  const url = await running.server.url;
  if (url) console.log(`Plucky Wrist is ready: ${url}`);
} catch (error) {
  const { code, message } = error as Error & { code?: string };
  const inUse = code === 'EADDRINUSE';
  console.error(inUse ? 'That port is taken; set PORT to another one.' : message);
  process.exit(1);
}
