import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { toString as qrOf } from 'qrcode';
import { type Running, start } from './start';

/** Milliseconds after which a stop no longer waits for what is still being worked out. */
const STOP_WITHIN = 1500;

// Signals are heard before the data is opened: a start can be stopped as well.
const running: { server?: Running } = {};
function stop(): void {
  setTimeout(() => process.exit(0), STOP_WITHIN).unref();
  void Promise.resolve(running.server?.stop()).then(() => process.exit(0));
}
/** Tells other devices the way in, the first address as a code to scan as well. */
async function sayHowToComeIn(server: Running): Promise<void> {
  const { urls, keyed } = server.ways();
  if (urls.length === 0) return;
  if (!keyed) {
    console.log(
      'No key is asked: everyone in this network can read, change and delete everything.',
    );
  }
  console.log(`On a phone or tablet in this network, open ${urls.join(' or ')}`);
  console.log(await qrOf(urls[0]!, { type: 'terminal', small: true }));
}

process.once('SIGINT', stop);
process.once('SIGTERM', stop);

try {
  const built = path.dirname(fileURLToPath(import.meta.url));
  running.server = start({
    env: process.env,
    demo: process.argv.includes('--demo'),
    https: process.argv.includes('--https'),
    built,
  });
  const url = await running.server.url;
  if (url) console.log(`Plucky Wrist is ready: ${url}`);
  await sayHowToComeIn(running.server);
} catch (error) {
  const { code, message } = error as Error & { code?: string };
  const inUse = code === 'EADDRINUSE';
  console.error(inUse ? 'That port is taken; set PORT to another one.' : message);
  process.exit(1);
}
