import express from 'express';
import request from 'supertest';
import { afterEach, describe, it } from 'vitest';
import type { Server } from 'node:http';
import { ownHostOnly } from './guard';
import { answerErrors } from './errors';

let server: Server;
afterEach(() => new Promise((resolve) => server.close(resolve)));

/** A server that lets in what is meant for it, as if it listened on `host`. */
async function guarded(host: string): Promise<number> {
  const app = express().use(ownHostOnly(host));
  app.all('/', (_request, response) => void response.send('in'));
  app.use(answerErrors);
  server = app.listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  return (server.address() as { port: number }).port;
}

describe('who is let in', () => {
  it('comes by a name of the server, and by no other', async () => {
    const port = await guarded('192.0.2.7');
    const by = (name: string) => request(server).get('/').set('Host', `${name}:${port}`);
    for (const own of ['localhost', '127.0.0.1', '[::1]', '192.0.2.7']) await by(own).expect(200);
    for (const other of ['192.0.2.8', 'weir.example', '192.0.2.7.weir.example', ''])
      await by(other).expect(403);
    await request(server).get('/').set('Host', '192.0.2.7:1').expect(403);
  });

  it.each(['0.0.0.0', '::'])('comes by any number where it listens on all (%s)', async (host) => {
    const port = await guarded(host);
    const by = (name: string) => request(server).get('/').set('Host', `${name}:${port}`);
    for (const number of ['192.0.2.8', '10.1.2.3', '[fd00::2]', 'localhost'])
      await by(number).expect(200);
    // Only a name can be pointed here by somebody else.
    for (const name of ['weir.example', '192.0.2.8.weir.example', '999.1.1.1', '[weir]'])
      await by(name).expect(403);
  });

  it('is a page of this server, not of another number', async () => {
    const port = await guarded('0.0.0.0');
    const from = (origin: string) =>
      request(server).post('/').set('Host', `192.0.2.8:${port}`).set('Origin', origin);
    await from(`http://192.0.2.8:${port}`).expect(200);
    await from(`http://localhost:${port}`).expect(200);
    await from(`http://192.0.2.66:${port}`).expect(403);
    await from(`http://192.0.2.8:1`).expect(403);
    await from('http://weir.example').expect(403);
    await from('null').expect(403);
  });

  it('does not write from another site that sends no Origin', async () => {
    await guarded('127.0.0.1');
    const write = (site: string) => request(server).post('/').set('Sec-Fetch-Site', site);
    await write('cross-site').expect(403);
    await write('same-site').expect(403);
    await write('same-origin').expect(200);
    await request(server).get('/').set('Sec-Fetch-Site', 'cross-site').expect(200);
  });
});
