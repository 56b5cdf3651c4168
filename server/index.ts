import { existsSync } from 'node:fs';
import type { Server } from 'node:http';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { pino } from 'pino';
import { z } from 'zod';
import { createApp } from './app';
import { openPool } from './compute/pool';
import { type Database, openDatabase } from './database';
import { seedDemo } from './demo/seed';

const settingsSchema = z.object({
  PORT: z.coerce.number().int().min(0).max(65535).default(4780),
  HOST: z.string().min(1).default('127.0.0.1'),
  PLUCKY_DATA: z.string().min(1).default(path.resolve('data/own')),
});

/** The built server lies in dist/server, the built web app beside it in dist/web. */
const here = path.dirname(fileURLToPath(import.meta.url));
const web = path.resolve(here, '../web');

/** Milliseconds after which a stop no longer waits for what is still being worked out. */
const STOP_WITHIN = 1500;

async function main(): Promise<void> {
  const settings = settingsSchema.safeParse(process.env);
  if (!settings.success) {
    const { path: name, message } = settings.error.issues[0]!;
    throw new Error(`${String(name[0])} cannot be used: ${message}`);
  }
  const { PORT, HOST, PLUCKY_DATA } = settings.data;
  const log = pino({ level: 'info' });
  // Signals are heard before the data is opened: a start can be stopped as well.
  let stopping = false;
  const opened: { server?: Server; database?: Database } = {};
  const pool = openPool(path.join(here, 'worker.js'));
  const stop = () => {
    if (stopping) return;
    stopping = true;
    setTimeout(() => process.exit(0), STOP_WITHIN).unref();
    opened.server?.close();
    opened.server?.closeAllConnections();
    void Promise.allSettled([pool.close(), opened.database?.close()]).then(() => process.exit(0));
  };
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);

  const database = await openDatabase(PLUCKY_DATA);
  opened.database = database;
  if (stopping) return;
  if (process.argv.includes('--demo')) await seedDemo(database);
  const { compute } = pool;
  const page = existsSync(web) ? web : undefined;
  const app = createApp({ database, host: HOST, log, web: page, compute });
  const server = app.listen(PORT, HOST, (error?: Error) => {
    if (error) {
      fail(error);
      return;
    }
    const address = server.address();
    const port = typeof address === 'object' && address ? address.port : PORT;
    const shown = HOST.includes(':') ? `[${HOST}]` : HOST;
    console.log(`Plucky Wrist is ready: http://${shown}:${port}`);
  });
  opened.server = server;
}

function fail(error: Error & { code?: string }): void {
  const inUse = error.code === 'EADDRINUSE';
  console.error(inUse ? 'That port is taken; set PORT to another one.' : error.message);
  process.exit(1);
}

main().catch(fail);
