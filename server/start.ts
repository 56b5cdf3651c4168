import { existsSync } from 'node:fs';
import type { Server } from 'node:http';
import path from 'node:path';
import { pino } from 'pino';
import { z } from 'zod';
import { createApp } from './app';
import { openPool } from './compute/pool';
import { keepCopies } from './copies';
import { type Database, openDatabase } from './database';
import { seedDemo } from './demo/seed';
import { sweepRecordings } from './recordings';
import { lookAtSongs } from './routes/songs';

const settingsSchema = z.object({
  PORT: z.coerce.number().int().min(0).max(65535).default(4780),
  HOST: z.string().min(1).default('127.0.0.1'),
  PLUCKY_DATA: z.string().min(1).default(path.resolve('data/own')),
});

export interface StartOptions {
  /** The settings, as they come from the environment. */
  env: Record<string, string | undefined>;
  demo: boolean;
  /** The folder of the built server; the built web app lies beside it in `web`. */
  built: string;
  logLevel?: string;
}

export interface Running {
  /** Where it listens; null where it was stopped before it did. */
  url: Promise<string | null>;
  /** Ends it, in the middle of its start as well. */
  stop: () => Promise<void>;
}

/**
 * Starts the server.
 * @throws Error with one sentence where a setting cannot be used
 */
export function start({ env, demo, built, logLevel = 'info' }: StartOptions): Running {
  const settings = settingsSchema.safeParse(env);
  if (!settings.success) {
    const { path: name, message } = settings.error.issues[0]!;
    throw new Error(`${String(name[0])} cannot be used: ${message}`);
  }
  const { PORT, HOST, PLUCKY_DATA } = settings.data;
  const log = pino({ level: logLevel });
  const web = path.resolve(built, '../web');
  const pool = openPool(path.join(built, 'worker.js'));
  const opened: { server?: Server; database?: Database; endCopies?: () => void } = {};
  let stopping = false;

  const listen = async (): Promise<string | null> => {
    const database = await openDatabase(PLUCKY_DATA);
    opened.database = database;
    if (stopping) return null;
    if (demo) await seedDemo(database, PLUCKY_DATA);
    await sweepRecordings(PLUCKY_DATA, database);
    // Nobody waits for it; where it fails, the shelf does without.
    lookAtSongs(database).catch((error: unknown) =>
      log.debug({ err: error }, 'songs not looked at'),
    );
    opened.endCopies = keepCopies(database, PLUCKY_DATA, (error) =>
      log.warn({ err: error }, 'no copy of the day could be made'),
    );
    const { compute } = pool;
    const page = existsSync(web) ? web : undefined;
    const app = createApp({ database, folder: PLUCKY_DATA, host: HOST, log, web: page, compute });
    const server = await new Promise<Server>((resolve, reject) => {
      const listening = app.listen(PORT, HOST, (error?: Error) =>
        error ? reject(error) : resolve(listening),
      );
    });
    opened.server = server;
    const address = server.address();
    const port = typeof address === 'object' && address ? address.port : PORT;
    return `http://${HOST.includes(':') ? `[${HOST}]` : HOST}:${port}`;
  };

  const stop = async () => {
    stopping = true;
    opened.endCopies?.();
    opened.server?.close();
    opened.server?.closeAllConnections();
    await Promise.allSettled([pool.close(), opened.database?.close()]);
  };
  return { url: listen(), stop };
}
