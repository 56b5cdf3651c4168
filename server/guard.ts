import type { RequestHandler } from 'express';
import { isIP } from 'node:net';
import { Refusal } from './errors';
import { inUrl, isEveryAddress, ownNames } from './reach';

const LOOPBACK = ['localhost', '127.0.0.1', '[::1]'];

/**
 * Lets in only requests that were meant for this server: the Host must be one of its own names, and
 * an Origin, where a browser sends one, must be a page of its own. This keeps other web pages, and
 * names that were pointed here from outside, away from the player's data.
 *
 * @param host the address listened on, allowed beside the loopback names; where it stands for every address,
 * any number is let in, since only a name can be pointed here by somebody else, and the names of the machine
 */
export function ownHostOnly(host: string): RequestHandler {
  const everywhere = isEveryAddress(host);
  const names = new Set([...LOOPBACK, inUrl(host), ...(everywhere ? ownNames() : [])]);
  const own = (
    authority: string | undefined,
    { port, standard }: { port: number | undefined; standard: number },
    numbers = false,
  ) => {
    const match = /^(\[[^\]]+\]|[^:]+)(?::(\d+))?$/.exec(authority ?? '');
    if (match === null || Number(match[2] ?? standard) !== port) return false;
    const name = match[1]!.toLowerCase();
    return names.has(name) || (numbers && isIP(name.replace(/^\[|\]$/g, '')) !== 0);
  };
  return (request, _response, next) => {
    const to = { port: request.socket.localPort, standard: request.secure ? 443 : 80 };
    if (!own(request.headers.host, to, everywhere)) {
      throw new Refusal(403, { error: 'This address does not belong to the app.' });
    }
    const { origin } = request.headers;
    const page = origin?.replace(`${request.protocol}://`, '');
    if (page !== undefined && page !== request.headers.host && !own(page, to)) {
      throw new Refusal(403, { error: 'Another page may not use the app’s data.' });
    }
    // Browsers say where a request comes from even where they send no Origin.
    const from = request.headers['sec-fetch-site'];
    const writes = request.method !== 'GET' && request.method !== 'HEAD';
    if (writes && origin === undefined && (from === 'cross-site' || from === 'same-site')) {
      throw new Refusal(403, { error: 'Another page may not use the app’s data.' });
    }
    next();
  };
}
