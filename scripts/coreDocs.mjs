/**
 * Writes docs/core.md from the comments of the core: every name that a room's door lets out, with its signature, what
 * it says of itself, and its example.
 *
 *     node scripts/coreDocs.mjs           writes it
 *     node scripts/coreDocs.mjs --check   fails where the file is not what the comments say
 */
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { format, resolveConfig } from 'prettier';
import ts from 'typescript';
import { ROOMS } from './rooms.mjs';
import { root } from './setup.mjs';

const FILE = path.join(root, 'docs/core.md');
const HEAD = `# The core

Written by \`node scripts/coreDocs.mjs\` from the comments in \`core/\`; \`npm run check\` says where it is behind them.
How the rooms work together stands in [architecture.md](architecture.md), their words in [glossary.md](glossary.md).

A room is imported by its door: \`import { beatTicks } from '#core/time'\`. Times are ticks (960 to the quarter note)
unless a name says seconds. Strings are counted from the one nearest the player's thumb, from 0. Functions are pure;
what they throw is said with them. Examples are run by \`core/examples.test.ts\`.
`;

const doors = ROOMS.map((room) => path.join(root, 'core', room, 'index.ts'));
const { options } = ts.parseJsonConfigFileContent(
  ts.readConfigFile(path.join(root, 'tsconfig.json'), (file) => readFileSync(file, 'utf8')).config,
  ts.sys,
  root,
);
const program = ts.createProgram(doors, { ...options, noEmit: true });
const checker = program.getTypeChecker();

/** Comments are wrapped where the source is: here they are wrapped by who shows them. */
const flat = (text) => text.replaceAll(/\s+/g, ' ').trim();
const code = (text) => (text.includes('`') ? `\`\` ${text} \`\`` : `\`${text}\``);
const MAX_LETTERS = 160;

function signatureOf(symbol, node) {
  const { name } = symbol;
  if (ts.isTypeAliasDeclaration(node) || ts.isInterfaceDeclaration(node)) return `type ${name}`;
  const type = checker.getTypeOfSymbolAtLocation(symbol, node);
  const [call] = type.getCallSignatures();
  if (!call) return name;
  const flags =
    ts.TypeFormatFlags.NoTruncation | ts.TypeFormatFlags.UseAliasDefinedOutsideCurrentScope;
  const whole = `${name}${checker.signatureToString(call, node, flags)}`;
  if (whole.length <= MAX_LETTERS) return whole;
  const given = call.getParameters().map((one) => one.name);
  return `${name}(${given.join(', ')})`;
}

function entry(exported) {
  const symbol =
    exported.flags & ts.SymbolFlags.Alias ? checker.getAliasedSymbol(exported) : exported;
  const node = symbol.getDeclarations()?.[0];
  if (!node) return null;
  const tags = symbol.getJsDocTags(checker);
  const says = (name) =>
    tags
      .filter((tag) => tag.name === name)
      .map((tag) => flat(ts.displayPartsToString(tag.text)))
      .filter(Boolean);
  const about = flat(ts.displayPartsToString(symbol.getDocumentationComment(checker)));
  const isType = ts.isTypeAliasDeclaration(node) || ts.isInterfaceDeclaration(node);
  return {
    name: exported.name,
    isType,
    lines: [
      `- ${code(signatureOf(symbol, node))}${about ? `: ${about}` : ''}`,
      ...says('param').map((text) => `  - ${text.replace(/^(\w+) (?:- )?/, '`$1`: ')}`),
      ...says('returns').map((text) => `  - gives ${text}`),
      ...says('throws').map((text) => `  - throws ${text}`),
      ...says('example').map((text) => `  - ${code(text)}`),
    ],
  };
}

function room(name, file) {
  const source = program.getSourceFile(file);
  const head = /\/\*\*([\s\S]*?)\*\//.exec(source.getFullText())?.[1] ?? '';
  const all = checker
    .getExportsOfModule(checker.getSymbolAtLocation(source))
    .map(entry)
    .filter(Boolean)
    .sort((a, b) => a.name.localeCompare(b.name, 'en'));
  const values = all.filter(({ isType }) => !isType).flatMap(({ lines }) => lines);
  const types = all.filter(({ isType }) => isType).flatMap(({ lines }) => lines);
  return [
    `## \`#core/${name}\``,
    '',
    flat(head.replaceAll(/^\s*\* ?/gm, '')),
    '',
    ...values,
    '',
    ...(types.length > 0 ? ['### Types', '', ...types, ''] : []),
  ].join('\n');
}

const text = [HEAD, ...ROOMS.map((name, at) => room(name, doors[at]))].join('\n');
const written = await format(text, {
  ...(await resolveConfig(FILE)),
  parser: 'markdown',
  proseWrap: 'always',
  printWidth: 120,
});
if (process.argv.includes('--check')) {
  if (readFileSync(FILE, 'utf8') !== written) {
    console.error('docs/core.md is behind the comments: run node scripts/coreDocs.mjs');
    process.exit(1);
  }
} else writeFileSync(FILE, written);
