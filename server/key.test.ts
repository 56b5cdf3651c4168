import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs';
import { request as httpsRequest } from 'node:https';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { X509Certificate } from 'node:crypto';
import { addDays } from 'date-fns';
import express from 'express';
import request from 'supertest';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { certificateIn } from './certificate';
import { answerErrors } from './errors';
import { type Key, keyed, keyIn, WITHOUT_KEY } from './key';
import { addressesFor, ownNumbers } from './reach';
import { start } from './start';

let folder: string;
beforeEach(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'plucky-key-'));
});
afterEach(() => rmSync(folder, { recursive: true, force: true }));

/** A server with a key, and requests as they come from another device. */
function guarded(key: Key) {
  const app = express().use(keyed(key));
  app.all('/{*any}', (_request, response) => void response.send('in'));
  app.use(answerErrors);
  return {
    here: (url: string) => request(app).get(url),
    // What was handed on for somebody else did not come from this machine.
    other: (url: string, cookie = '') =>
      request(app).get(url).set('X-Forwarded-For', '192.0.2.9').set('Cookie', cookie),
  };
}

const cookieOf = (headers: Record<string, unknown>) =>
  (headers['set-cookie'] as string[] | undefined)?.[0] ?? '';

describe('the key of other devices', () => {
  it('is asked of all that they want, in one sentence, and not of this machine', async () => {
    const { here, other } = guarded(keyIn(folder));
    for (const url of ['/', '/api/songs', '/assets/index.js', '/in', '/in/', '/in/a/b']) {
      expect((await here(url).expect(200)).text).toBe('in');
      expect((await other(url).expect(401)).text).toContain(WITHOUT_KEY);
    }
    expect((await other('/api/songs')).body).toEqual({ error: WITHOUT_KEY });
  });

  it('is opened once and kept for 90 days where no script and no other page reaches it', async () => {
    const key = keyIn(folder);
    const { other } = guarded(key);
    const came = await other(`/in/${key.value()}`).expect(200);
    const cookie = cookieOf(came.headers);
    expect(cookie).toMatch(/HttpOnly/);
    expect(cookie).toMatch(/SameSite=Strict/);
    expect(cookie).toMatch(/Max-Age=7776000/);
    expect(came.text).toContain('url=/');
    await other('/api/songs', cookie.split(';')[0]).expect(200);
    await other('/', `${cookie.split(';')[0]}x`).expect(401);
  });

  it('is no use any more when there is a new one', async () => {
    const key = keyIn(folder);
    const { other } = guarded(key);
    const old = `plucky-key=${key.value()}`;
    await other('/', old).expect(200);
    const next = key.renew();
    const out = await other('/', old).expect(401);
    expect(cookieOf(out.headers)).toMatch(/^plucky-key=;/);
    await other('/', `plucky-key=${next}`).expect(200);
    // It is the one that the next start has.
    expect(keyIn(folder).value()).toBe(next);
    expect(statSync(path.join(folder, 'key')).mode & 0o777).toBe(0o600);
    expect(next).toMatch(/^[a-z2-9]{16}$/);
  });

  it.each([
    ['opened', (tried: string) => [`/in/${tried}`, ''] as [string, string]],
    ['kept', (tried: string) => ['/api/songs', `plucky-key=${tried}`] as [string, string]],
  ])(
    'may be wrong ten times a minute where it is %s; then the right one waits too',
    async (_, by) => {
      const key = keyIn(folder);
      const { other } = guarded(key);
      for (let tried = 0; tried < 10; tried += 1) await other(...by(`wrong${tried}`)).expect(401);
      const late = await other(...by(key.value())).expect(429);
      expect(late.headers['retry-after']).toBe('60');
    },
  );

  it('is not made by who only looks at a server of this machine alone', () => {
    expect(addressesFor('127.0.0.1', 4780, false)).toEqual([]);
    expect(addressesFor('192.0.2.7', 4780, false)).toEqual(['http://192.0.2.7:4780']);
    expect(addressesFor('fd00::2', 4780, true)).toEqual(['https://[fd00::2]:4780']);
  });
});

describe('a server that others reach', () => {
  const built = path.resolve('dist/server');

  async function running(env: Record<string, string>, https = false) {
    const server = start({
      env: { PORT: '0', PLUCKY_DATA: folder, ...env },
      demo: false,
      https,
      built,
      logLevel: 'silent',
    });
    return { server, url: (await server.url)! };
  }

  it('has a key, and says the way in; without it everyone comes in, as was asked for', async () => {
    const { server } = await running({ HOST: '0.0.0.0' });
    const key = readFileSync(path.join(folder, 'key'), 'utf8').trim();
    const { urls, keyed } = server.ways();
    expect(keyed).toBe(true);
    for (const url of urls) {
      expect(url).toMatch(new RegExp(`/in/${key}$`));
      expect((await fetch(new URL('/api/songs', url))).status).toBe(401);
      expect((await fetch(url)).status).toBe(200);
    }
    await server.stop();
    const open = await running({ HOST: '0.0.0.0', PLUCKY_KEY: 'off' });
    expect(open.server.ways().keyed).toBe(false);
    for (const url of open.server.ways().urls) {
      expect((await fetch(new URL('/api/songs', url))).status).toBe(200);
    }
    await open.server.stop();
    await expect(async () => running({ PLUCKY_KEY: 'maybe' })).rejects.toThrow(
      'PLUCKY_KEY cannot be used: it is on or off',
    );
  });

  it('serves with a certificate of its own, and marks the cookie as safe', async () => {
    const { server, url } = await running({ HOST: '0.0.0.0' }, true);
    const port = Number(new URL(url).port);
    const [ca, key] = ['certificate.pem', 'key'].map((name) =>
      readFileSync(path.join(folder, name), 'utf8').trim(),
    );
    // The certificate is checked against the name, by itself.
    const cookie = await new Promise<string>((resolve, reject) => {
      const ask = { host: 'localhost', port, path: `/in/${key}`, ca, headers: {} };
      httpsRequest(ask, ({ headers, statusCode }) => {
        if (statusCode === 200) resolve(cookieOf(headers));
        else reject(new Error(`answered ${statusCode}`));
      })
        .on('error', reject)
        .end();
    });
    expect(cookie).toMatch(/; Secure/);
    await server.stop();
  });
});

describe('the certificate', () => {
  it('names this machine, is kept, and is made again before it ends', async () => {
    const first = await certificateIn(folder, { host: '0.0.0.0' });
    const certificate = new X509Certificate(first.cert);
    for (const number of ['127.0.0.1', ...ownNumbers()]) {
      expect(certificate.checkIP(number)).toBe(number);
    }
    expect(certificate.checkHost('localhost')).toBe('localhost');
    expect(certificate.checkHost('weir.example')).toBeUndefined();
    expect(statSync(path.join(folder, 'certificate-key.pem')).mode & 0o777).toBe(0o600);
    expect(await certificateIn(folder, { host: '0.0.0.0' })).toEqual(first);
    const in300Days = addDays(new Date(), 300);
    expect(await certificateIn(folder, { host: '0.0.0.0', now: in300Days })).toEqual(first);
    const nearItsEnd = addDays(new Date(), 340);
    const renewed = await certificateIn(folder, { host: '0.0.0.0', now: nearItsEnd });
    expect(renewed.cert).not.toBe(first.cert);
    expect(new Date(new X509Certificate(renewed.cert).validTo) > addDays(nearItsEnd, 300)).toBe(
      true,
    );
  });

  it('is made again where the machine has another address', async () => {
    const first = await certificateIn(folder, { host: '0.0.0.0' });
    const other = await certificateIn(folder, { host: '192.0.2.7' });
    expect(other.cert).not.toBe(first.cert);
    expect(new X509Certificate(other.cert).checkIP('192.0.2.7')).toBe('192.0.2.7');
  });
});
