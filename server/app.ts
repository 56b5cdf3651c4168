import { randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import path from 'node:path';
import type { ServerResponse } from 'node:http';
import express, { type Express, type RequestHandler, type Response } from 'express';
import helmet from 'helmet';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import { bounded, jsonUpTo } from './bounds';
import type { Compute } from './compute/tasks';
import type { Database } from './database';
import { answerErrors, noSuchRoute, Refusal } from './errors';
import { ownHostOnly } from './guard';
import { type Key, keyed } from './key';
import { archiveRoutes } from './routes/archive';
import { changeTimeRoutes } from './routes/changeTimes';
import { instrumentRoutes } from './routes/instruments';
import { logRoutes } from './routes/log';
import { patternRoutes } from './routes/patterns';
import { aboutRoutes } from './routes/about';
import { phoneRoutes } from './routes/phone';
import { recordingRoutes } from './routes/recording';
import { shapeRoutes } from './routes/shapes';
import { songRoutes } from './routes/songs';
import { sentTakeRoutes } from './routes/sentTakes';
import { takeRoutes } from './routes/takes';

export interface AppOptions {
  database: Database;
  /** Folder in which recordings are kept; without it there are none. */
  folder?: string;
  /** The address listened on. */
  host: string;
  log: Logger;
  /** Folder of the built web app; without it only the API is served. */
  web?: string;
  /** What other devices need to come in; without it nobody is asked. */
  key?: Key;
  /** Whether it is served over HTTPS. */
  secure?: boolean;
  /** Works things out from songs; in this thread where it is left out. */
  compute?: Compute;
}

/** What writes PDF and engraves is loaded where it is asked for: a server with a pool never does. */
const inThisThread: Compute = async (task, song, input) => {
  const { runTask } = await import('./compute/tasks');
  return runTask(task, song, input);
};

/** Marks the place in the built page where the nonce of the content policy goes. */
const NONCE_MARK = '__CSP_NONCE__';

const SHELF_FIRST = ['/api/songs', '/api/patterns']
  .map((path) => `<${path}>; rel=preload; as=fetch; crossorigin=anonymous`)
  .join(', ');

/** Nonce of the response's content policy, for the page and the header alike. */
const nonceOf = (response: ServerResponse) => String((response as Response).locals.nonce);

function policies(): RequestHandler[] {
  const giveNonce: RequestHandler = (_request, response, next) => {
    response.locals.nonce = randomBytes(16).toString('base64');
    next();
  };
  const headers = helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        // A take that is listened to before it is kept.
        mediaSrc: ["'self'", 'blob:'],
        styleSrc: ["'self'", (_request, response) => `'nonce-${nonceOf(response)}'`],
        // Components position and size themselves with style attributes.
        styleSrcAttr: ["'unsafe-inline'"],
        imgSrc: ["'self'", 'data:'],
        objectSrc: ["'none'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    strictTransportSecurity: false,
  });
  return [giveNonce, headers];
}

/** A document is sent as JSON: a body of another kind is not read, and nobody guesses what it was. */
const jsonOnly: RequestHandler = (request, _response, next) => {
  const { 'content-length': length, 'transfer-encoding': chunked } = request.headers;
  const brings = chunked !== undefined || Number(length ?? 0) > 0;
  if (!brings || request.is('json') || request.is('+json')) return next();
  next(new Refusal(415, { error: 'This is sent as application/json. Nothing was changed.' }));
};

function webApp(folder: string): RequestHandler[] {
  const page = readFileSync(path.join(folder, 'index.html'), 'utf8');
  const files = express.static(folder, {
    index: false,
    setHeaders: (response, file) => {
      const hashed = file.includes(`${path.sep}assets${path.sep}`);
      response.setHeader(
        'Cache-Control',
        hashed ? 'public, max-age=31536000, immutable' : 'no-cache',
      );
    },
  });
  const fallback: RequestHandler = (request, response, next) => {
    if (request.method !== 'GET' || !request.accepts('html')) return next();
    response.setHeader('Cache-Control', 'no-store');
    // What the shelf shows is asked for while the browser still reads the script that will show it.
    if (request.path === '/') response.setHeader('Link', SHELF_FIRST);
    response.type('html').send(page.replaceAll(NONCE_MARK, nonceOf(response)));
  };
  return [files, fallback];
}

/** A request as the log tells it: a key is never written down. */
const withoutKey = (request: { url?: string }) => ({
  ...request,
  url: request.url?.replace(/^\/in\/.*/, '/in/…'),
});

export function createApp(options: AppOptions): Express {
  const { database, folder, host, log, web, key, secure = false, compute = inThisThread } = options;
  const app = express();
  app.disable('x-powered-by');
  app.use(pinoHttp({ logger: log, useLevel: 'debug', serializers: { req: withoutKey } }));
  app.use(policies());
  app.use(ownHostOnly(host));
  if (key) app.use(keyed(key));

  const api = express.Router();
  const songs = songRoutes(database, compute);
  // Takes are larger than documents, and read what they are sent themselves.
  api.use('/songs/:id/takes', takeRoutes(database, compute, songs.find, folder));
  if (folder) {
    api.use('/songs/:id/recording', recordingRoutes(database, folder, songs.find));
  }
  api.use('/archive', archiveRoutes(database, folder ?? null));
  api.use('/sent-takes', sentTakeRoutes(database, folder ?? null));
  api.use('/log', logRoutes(database));
  api.use(jsonOnly, jsonUpTo('1mb'), bounded);
  api.get('/health', async (_request, response) => {
    // Not only that the file is there: that what it holds can be read.
    await database.songs.findOne({ attributes: ['id', 'document'] });
    await database.patterns.findOne({ attributes: ['id', 'document'] });
    response.json({ status: 'ok' });
  });
  api.use('/songs', songs.router);
  api.use('/patterns', patternRoutes(database));
  api.use('/shapes', shapeRoutes());
  api.use('/change-times', changeTimeRoutes(database));
  api.use('/instruments', instrumentRoutes(database));
  // A song of the circle, for whoever begins with an empty shelf.
  api.get('/example', async (_request, response) => {
    const { demoSongs } = await import('./demo/songs');
    response.json({ document: demoSongs[0] });
  });
  api.use('/about', aboutRoutes(folder));
  api.use('/phone', phoneRoutes({ host, secure, key }));
  api.use(noSuchRoute);
  app.use('/api', api);

  if (web) app.use(webApp(web));
  app.use(noSuchRoute);
  app.use(answerErrors);
  return app;
}
