import { hostname, networkInterfaces } from 'node:os';
import { isIP } from 'node:net';

/** Listening on every address of the machine. */
const EVERY_ADDRESS = ['0.0.0.0', '::'];
const LOOPBACK = /^(localhost|(?:::ffff:)?127\.\d+\.\d+\.\d+|::1)$/;

export const isEveryAddress = (host: string): boolean => EVERY_ADDRESS.includes(host);
/** Whether only this machine itself can reach who listens on an address. */
export const isLoopback = (host: string): boolean => LOOPBACK.test(host);

/** The names that this machine has in its own network. */
export const ownNames = (): string[] => {
  const name = hostname().toLowerCase();
  return isIP(name) ? [] : [name, `${name.replace(/\.local$/, '')}.local`];
};

/** The numbers under which other devices find this machine, those of IPv4 first; none without a network. */
export function ownNumbers(): string[] {
  const outside = Object.values(networkInterfaces())
    .flatMap((all) => all ?? [])
    // Addresses of one cable alone need its name behind them, which no browser takes.
    .filter(({ internal, address }) => !internal && !address.startsWith('fe80'));
  return outside.sort((a, b) => a.family.localeCompare(b.family)).map(({ address }) => address);
}

/** An address as it stands in a URL. @example inUrl('fd00::2') // '[fd00::2]' */
export const inUrl = (host: string): string => (host.includes(':') ? `[${host}]` : host);

/** How another device reaches a server that listens on `host`; none where only this machine does. */
export function addressesFor(host: string, port: number, secure: boolean): string[] {
  if (isLoopback(host)) return [];
  const scheme = secure ? 'https' : 'http';
  const numbers = isEveryAddress(host) ? ownNumbers() : [host];
  const reached = host === '0.0.0.0' ? numbers.filter((number) => !number.includes(':')) : numbers;
  return reached.map((number) => `${scheme}://${inUrl(number)}:${port}`);
}
