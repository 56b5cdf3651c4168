import path from 'node:path';
import { Router } from 'express';
import type { About } from '#core/schema';
import { version } from '../../package.json';
import { isLoopback } from '../reach';

/** What this is and where its data lie; the folder is told to the machine itself and to nobody else. */
export function aboutRoutes(folder: string | undefined): Router {
  const router = Router();
  router.get('/', (request, response) => {
    const own = isLoopback(request.socket.remoteAddress ?? '');
    const answer: About = { version, folder: own && folder ? path.resolve(folder) : null };
    response.set('Cache-Control', 'no-store');
    response.json(answer);
  });
  return router;
}
