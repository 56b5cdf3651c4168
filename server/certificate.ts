import { X509Certificate } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { isIP } from 'node:net';
import path from 'node:path';
import { addDays } from 'date-fns';
import { generate } from 'selfsigned';
import { ownNames, ownNumbers } from './reach';

/** Days that a certificate is good for: browsers refuse those that say more than some 13 months. */
const GOOD_FOR = 365;
/** It is made again so many days before it ends. */
const RENEWED = 30;

export interface Certificate {
  /** Both in PEM. */
  cert: string;
  key: string;
}

/** Whether a certificate is good for all of these names and numbers, and for a while yet. */
function isGood(pem: string, names: string[], numbers: string[], now: Date): boolean {
  const certificate = new X509Certificate(pem);
  if (new Date(certificate.validTo) < addDays(now, RENEWED)) return false;
  return (
    names.every((name) => certificate.checkHost(name) !== undefined) &&
    numbers.every((number) => certificate.checkIP(number) !== undefined)
  );
}

/**
 * The certificate of this machine, kept in the data folder; made where it is not there, ends soon, or lacks an address
 * that the machine has now. Nobody has signed it: a browser says so once, and asks.
 */
export async function certificateIn(
  folder: string,
  { now = new Date(), host }: { now?: Date; host: string },
): Promise<Certificate> {
  const names = ['localhost', ...ownNames()];
  const numbers = [
    ...new Set(['127.0.0.1', '::1', ...ownNumbers(), ...(isIP(host) ? [host] : [])]),
  ];
  const files = {
    cert: path.join(folder, 'certificate.pem'),
    key: path.join(folder, 'certificate-key.pem'),
  };
  if (existsSync(files.cert) && existsSync(files.key)) {
    const kept = { cert: readFileSync(files.cert, 'utf8'), key: readFileSync(files.key, 'utf8') };
    try {
      if (isGood(kept.cert, names, numbers, now)) return kept;
    } catch {
      // What cannot be read is made again.
    }
  }
  const made = await generate([{ name: 'commonName', value: 'Plucky Wrist' }], {
    algorithm: 'sha256',
    keyType: 'ec',
    notBeforeDate: addDays(now, -1),
    notAfterDate: addDays(now, GOOD_FOR),
    extensions: [
      { name: 'basicConstraints', cA: false },
      { name: 'keyUsage', digitalSignature: true },
      { name: 'extKeyUsage', serverAuth: true },
      {
        name: 'subjectAltName',
        altNames: [
          ...names.map((value) => ({ type: 2 as const, value })),
          ...numbers.map((ip) => ({ type: 7 as const, ip })),
        ],
      },
    ],
  });
  writeFileSync(files.key, made.private, { mode: 0o600 });
  writeFileSync(files.cert, made.cert);
  return { cert: made.cert, key: made.private };
}
