/**
 * `node scripts/licences.mjs`: every package that the app needs, and that those need, is under a licence that an MIT
 * product may be made with (`allowedLicences.json`). The build looks once more at what it puts in (`web/licences.ts`).
 */
import { readFileSync } from 'node:fs';
import path from 'node:path';
import { root } from './setup.mjs';

const read = (file) => JSON.parse(readFileSync(path.join(root, file), 'utf8'));
/** Of tools that build and install, of which nothing is in what is built: see docs/decisions.md. */
const TOOLS = ['BlueOak-1.0.0', 'MPL-2.0', 'Python-2.0'];
const allowed = new Set([...read('scripts/allowedLicences.json'), ...TOOLS]);
const isAllowed = (given) =>
  String(given ?? '')
    .replaceAll(/[()]/g, '')
    .split(' OR ')
    .some((one) => one.split(' AND ').every((each) => allowed.has(each)));

const { packages } = read('package-lock.json');
const wrong = Object.entries(packages).filter(
  ([name, { dev, license }]) => name !== '' && !dev && !isAllowed(license),
);
for (const [name, { license }] of wrong) console.error(`${name}: ${license ?? 'says no licence'}`);
process.exit(wrong.length > 0 ? 1 : 0);
