import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import license, { type Dependency } from 'rollup-plugin-license';
import type { Plugin } from 'vite';
import ALLOWED from '../scripts/allowedLicences.json' with { type: 'json' };

/** A package whose work is in the app. */
interface Licence {
  name: string;
  version: string;
  license: string;
  text: string;
}
type Whose = Pick<Dependency, 'name' | 'version' | 'license' | 'licenseText'>;

/** True where what it is under may go into an MIT product. @example isAllowed('(MIT AND Zlib)') // true */
const isAllowed = (given: string) =>
  given
    .replaceAll(/[()]/g, '')
    .split(' OR ')
    .some((one) => one.split(' AND ').every((each) => ALLOWED.includes(each)));

/** The folder of the package that a file of one belongs to. */
const PACKAGE = /^.*\/node_modules\/(?:@[^/]+\/)?[^/]+(?=\/)/;
const STYLE = /\.(?:css|woff2?)(?:\?|$)/;

/** Of fonts and styles, which are no code and which the plugin leaves out. */
function packageIn(folder: string): Whose {
  const text = readFileSync(path.join(folder, 'package.json'), 'utf8');
  const { name, version, license: given } = JSON.parse(text) as Record<string, string>;
  const file = readdirSync(folder).find((one) => /^(?:licence|license)/i.test(one));
  const licenseText = file ? readFileSync(path.join(folder, file), 'utf8') : null;
  return { name: name ?? '', version: version ?? '', license: given ?? null, licenseText };
}

/**
 * Collects the packages of a build, with their licences. Workers are builds of their own, and stand in the same list.
 * @returns a plugin for the workers, and those of the page, which write `licences.json` for its About and
 *   `licences.txt` for whoever looks into the folder
 * @throws where a package is under a licence that is not on the list: the build ends
 */
export function licences() {
  const found = new Map<string, Licence>();
  const collect = (dependencies: Whose[]) => {
    for (const { name, version, license: given, licenseText } of dependencies) {
      const licence = given ?? 'no licence';
      if (!isAllowed(licence)) {
        throw new Error(
          `${name} is under ${licence}, which is not in scripts/allowedLicences.json`,
        );
      }
      const text = (licenseText ?? `Under the licence ${licence}.`).trim();
      const one = { name: name ?? '', version: version ?? '', license: licence, text };
      found.set(`${one.name} ${one.version}`, one);
    }
  };
  // It is made for another bundler of the same plugins, whose types differ in what it does not use.
  const collector = () =>
    license({ thirdParty: { multipleVersions: true, output: collect } }) as unknown as Plugin;
  const writer: Plugin = {
    name: 'licences',
    generateBundle: {
      order: 'post',
      handler() {
        const styles = [...this.getModuleIds()].filter((id) => STYLE.test(id));
        const folders = styles.flatMap((id) => PACKAGE.exec(id)?.[0] ?? []);
        collect([...new Set(folders)].map(packageIn));
        const all = [...found.values()].sort((a, b) => a.name.localeCompare(b.name, 'en'));
        const texts = all.map(
          (one) => `${one.name} ${one.version}: ${one.license}\n\n${one.text}\n`,
        );
        const files = {
          'licences.json': JSON.stringify(all),
          'licences.txt': texts.join(`\n${'-'.repeat(72)}\n\n`),
        };
        for (const [fileName, source] of Object.entries(files)) {
          this.emitFile({ type: 'asset', fileName, source });
        }
      },
    },
  };
  return { worker: () => [collector()], page: () => [collector(), writer] };
}
