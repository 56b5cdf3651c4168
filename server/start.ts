import { existsSync } from 'node:fs';
import { createServer, type Server } from 'node:http';
import { createServer as createSecureServer } from 'node:https';
import path from 'node:path';
import { pino } from 'pino';
import { z } from 'zod';
import { createApp } from './app';
import { certificateIn } from './certificate';
import { openPool } from './compute/pool';
import { keepCopies } from './copies';
import { type Database, openDatabase } from './database';
import { seedDemo } from './demo/seed';
import { type Key, keyIn } from './key';
import { addressesFor, inUrl, isLoopback } from './reach';
import { sweepRecordings } from './recordings';
import { waysIn } from './routes/phone';
import { backfillGlances } from './routes/songs';

const settingsSchema = z.object({
  PORT: z.coerce.number().int().min(0).max(65535).default(4780),
  HOST: z.string().min(1).default('127.0.0.1'),
  PLUCKY_DATA: z.string().min(1).default(path.resolve('data/own')),
  /** `off` lets everyone in who reaches the server, as if it were this machine. */
  PLUCKY_KEY: z.enum(['on', 'off'], 'it is on or off').default('on'),
});

export interface StartOptions {
  /** The settings, as they come from the environment. */
  env: Record<string, string | undefined>;
  demo: boolean;
  /** Serve over HTTPS, with a certificate of this machine's own. */
  https?: boolean;
  /** The folder of the built server; the built web app lies beside it in `web`. */
  built: string;
  logLevel?: string;
}

export interface Running {
  /** Where it listens; null where it was stopped before it did. */
  url: Promise<string | null>;
  /** How other devices come in, once it listens: no addresses where only this machine reaches it. */
  ways: () => { urls: string[]; keyed: boolean };
  /** Ends it, in the middle of its start as well. */
  stop: () => Promise<void>;
}

function portOf(server: Server, asked: number): number {
  const address = server.address();
  return typeof address === 'object' && address ? address.port : asked;
}

/**
 * Starts the server.
 * @throws Error with one sentence where a setting cannot be used
 */
export function start({
  env,
  demo,
  https = false,
  built,
  logLevel = 'info',
}: StartOptions): Running {
  const settings = settingsSchema.safeParse(env);
  if (!settings.success) {
    const { path: name, message } = settings.error.issues[0]!;
    throw new Error(`${String(name[0])} cannot be used: ${message}`);
  }
  const { PORT, HOST, PLUCKY_DATA, PLUCKY_KEY } = settings.data;
  const log = pino({ level: logLevel });
  const web = path.resolve(built, '../web');
  const pool = openPool(path.join(built, 'worker.js'));
  const opened: { server?: Server; database?: Database; key?: Key; endCopies?: () => void } = {};
  let stopping = false;

  const listen = async (): Promise<string | null> => {
    const database = await openDatabase(PLUCKY_DATA);
    opened.database = database;
    if (stopping) return null;
    if (demo) await seedDemo(database, PLUCKY_DATA);
    await sweepRecordings(PLUCKY_DATA, database);
    // Nobody waits for it; where it fails, the shelf does without.
    backfillGlances(database).catch((error: unknown) =>
      log.debug({ err: error }, 'songs not looked at'),
    );
    opened.endCopies = keepCopies(database, PLUCKY_DATA, (error) =>
      log.warn({ err: error }, 'no copy of the day could be made'),
    );
    const { compute } = pool;
    const page = existsSync(web) ? web : undefined;
    // Only this machine reaches a loopback address: nobody needs to be told apart there.
    const key = isLoopback(HOST) || PLUCKY_KEY === 'off' ? undefined : keyIn(PLUCKY_DATA);
    opened.key = key;
    const app = createApp({
      database,
      folder: PLUCKY_DATA,
      host: HOST,
      log,
      web: page,
      key,
      secure: https,
      compute,
    });
    const server = https
      ? createSecureServer(await certificateIn(PLUCKY_DATA, { host: HOST }), app)
      : createServer(app);
    await new Promise<void>((resolve, reject) => {
      server.once('error', reject);
      server.listen(PORT, HOST, resolve);
    });
    opened.server = server;
    return `${https ? 'https' : 'http'}://${inUrl(HOST)}:${portOf(server, PORT)}`;
  };

  const ways = () => {
    const { server, key } = opened;
    const addresses = server ? addressesFor(HOST, portOf(server, PORT), https) : [];
    return { urls: addresses.map((one) => waysIn(one, key)), keyed: key !== undefined };
  };
  const stop = async () => {
    stopping = true;
    opened.endCopies?.();
    opened.server?.close();
    opened.server?.closeAllConnections();
    await Promise.allSettled([pool.close(), opened.database?.close()]);
  };
  return { url: listen(), ways, stop };
}
