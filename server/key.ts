import { createHash, randomInt, timingSafeEqual } from 'node:crypto';
import { chmodSync, existsSync, readFileSync, writeFileSync } from 'node:fs';
import { BlockList, isIPv6 } from 'node:net';
import path from 'node:path';
import cookieParser from 'cookie-parser';
import express, { type Request, type RequestHandler, type Response } from 'express';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import { Refusal } from './errors';

/** Letters that nobody takes for one another when they copy a key from a screen: 31 of them, 4.95 bits each. */
const LETTERS = 'abcdefghjkmnpqrstuvwxyz23456789';
/** 16 letters are some 79 bits: beyond guessing at ten tries a minute. */
const LENGTH = 16;
const COOKIE = 'plucky-key';
/** A device stays let in for 90 days after it was last let in with the key. */
const KEPT_FOR = 90 * 24 * 60 * 60 * 1000;
/** Wrong keys that one address may try in a minute. */
const TRIES = 10;
const MINUTE = 60;

export const WITHOUT_KEY =
  'This page has a key. Open the address, or scan the code, that the computer shows under “On my phone”.';
const TOO_MANY = 'Too many wrong keys from here. Wait a minute, then open the whole address again.';

/** The key of a server that others in the network may reach. */
export interface Key {
  value: () => string;
  /** Makes another one: every device that came in with the old one is out. */
  renew: () => string;
}

const made = () =>
  Array.from({ length: LENGTH }, () => LETTERS[randomInt(LETTERS.length)]).join('');

/** The key kept in the data folder, made when it is not there yet. Only who owns the folder may read the file. */
export function keyIn(folder: string): Key {
  const file = path.join(folder, 'key');
  const keep = (value: string) => {
    writeFileSync(file, `${value}\n`, { mode: 0o600 });
    chmodSync(file, 0o600);
    return value;
  };
  const kept = existsSync(file) ? readFileSync(file, 'utf8').trim() : '';
  let value = kept.length === LENGTH ? kept : keep(made());
  return { value: () => value, renew: () => (value = keep(made())) };
}

const digest = (text: string) => createHash('sha256').update(text).digest();
/** Whether two keys are the same, in a time that tells nothing of how much of them is. */
const same = (a: string, b: string) => timingSafeEqual(digest(a), digest(b));

const loopback = new BlockList();
loopback.addSubnet('127.0.0.0', 8, 'ipv4');
loopback.addAddress('::1', 'ipv6');

/** Whether a request comes from this machine itself, and was not handed on for somebody else. */
export function fromHere(request: Request): boolean {
  const { remoteAddress = '' } = request.socket;
  const { forwarded, 'x-forwarded-for': handedOn } = request.headers;
  if (forwarded !== undefined || handedOn !== undefined) return false;
  return loopback.check(remoteAddress, isIPv6(remoteAddress) ? 'ipv6' : 'ipv4');
}

/**
 * A page that goes on to the shelf by itself. Not a redirect: where the address was opened from another page, such as a
 * message, a browser leaves a strict cookie out for as long as it is being redirected.
 */
const COME_IN =
  '<!doctype html><html lang="en"><meta charset="utf-8"><title>Plucky Wrist</title>' +
  '<meta http-equiv="refresh" content="0;url=/"><p>You are in. <a href="/">To the shelf</a></p></html>';

function refuse(request: Request, response: Response, why: 'wrong' | 'wait'): void {
  const [status, sentence] = why === 'wait' ? [429, TOO_MANY] : [401, WITHOUT_KEY];
  if (why === 'wait') response.set('Retry-After', String(MINUTE));
  if (request.path.startsWith('/api/') || !request.accepts('html')) {
    throw new Refusal(status, { error: sentence });
  }
  response
    .status(status)
    .set('Cache-Control', 'no-store')
    .type('html')
    .send(
      '<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width">' +
        `<title>Plucky Wrist</title><p>${sentence}</p></html>`,
    );
}

/**
 * Lets in who has the key: opened once as `/in/KEY` it is kept in a cookie; all else from other devices is 401.
 * Requests from this machine itself need none. Ten wrong keys a minute from one address, then 429.
 */
export function keyed(key: Key): RequestHandler {
  const wrong = new RateLimiterMemory({ points: TRIES, duration: MINUTE });
  const limited = async (from: string) => ((await wrong.get(from))?.consumedPoints ?? 0) >= TRIES;

  /** Whether this is the key; a wrong one is counted, and after too many none is looked at. */
  async function look(tried: string, from: string): Promise<'right' | 'wrong' | 'wait'> {
    if (await limited(from)) return 'wait';
    if (same(tried, key.value())) return 'right';
    await wrong.penalty(from, 1);
    return 'wrong';
  }

  const router = express.Router();
  router.use(cookieParser());
  router.use(async (request, response, next) => {
    const from = request.socket.remoteAddress ?? '';
    const brought = /^\/in\/([^/]+)$/.exec(request.path)?.[1];
    if (brought !== undefined) {
      const found = await look(brought, from);
      response.set('Cache-Control', 'no-store');
      if (found !== 'right') return refuse(request, response, found);
      response.cookie(COOKIE, key.value(), {
        httpOnly: true,
        sameSite: 'strict',
        secure: request.secure,
        maxAge: KEPT_FOR,
      });
      response.type('html').send(COME_IN);
      return;
    }
    if (fromHere(request)) return next();
    const held: unknown = (request.cookies as Record<string, unknown>)[COOKIE];
    if (typeof held !== 'string') return refuse(request, response, 'wrong');
    const found = await look(held, from);
    if (found === 'right') return next();
    // A device that was signed out asks once, not with each of its requests.
    if (found === 'wrong') response.clearCookie(COOKIE, { httpOnly: true, sameSite: 'strict' });
    return refuse(request, response, found);
  });
  return router;
}
