import { Router } from 'express';
import { toString as qrOf } from 'qrcode';
import type { Phone } from '#core/schema';
import type { Key } from '../key';
import { addressesFor } from '../reach';

/** What other devices need to come in: the addresses of this machine, each as a code to scan as well. */
export function phoneRoutes({ host, secure, key }: { host: string; secure: boolean; key?: Key }) {
  const router = Router();
  const answer = async (port: number): Promise<Phone> => {
    const addresses = addressesFor(host, port, secure).map((address) => waysIn(address, key));
    const code = (url: string) => qrOf(url, { type: 'svg' });
    const drawn = addresses.map(async (url) => ({ url, code: await code(url) }));
    return { addresses: await Promise.all(drawn), keyed: key !== undefined, secure };
  };
  router.get('/', async (request, response) => {
    response.set('Cache-Control', 'no-store');
    response.json(await answer(request.socket.localPort!));
  });
  router.post('/new-key', async (request, response) => {
    key?.renew();
    response.set('Cache-Control', 'no-store');
    response.json(await answer(request.socket.localPort!));
  });
  return router;
}

/** The address that lets a device in. @example waysIn('http://192.0.2.7:4780', key) // 'http://192.0.2.7:4780/in/…' */
export const waysIn = (address: string, key: Key | undefined): string =>
  key ? `${address}/in/${key.value()}` : address;
