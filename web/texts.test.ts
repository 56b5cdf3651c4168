import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { parse } from '@vue/compiler-sfc';
import ts from 'typescript';
import { NodeTypes, type RootNode, type TemplateChildNode } from '@vue/compiler-core';
import { describe, expect, it } from 'vitest';
import { HELP } from './help/texts';
import { SIGNS } from './help/signs';

/** All that is written on the screens, by part, so that it can be read in one go: `docs/texts.md`. */

const root = path.dirname(fileURLToPath(import.meta.url));
/** Attributes that are read or heard. */
const SAID = new Set([
  'label',
  'aria-label',
  'title',
  'placeholder',
  'header',
  'on-label',
  'about',
]);

/** Components, and what stands beside them: no tests. */
function sources(folder: string): string[] {
  return readdirSync(path.join(root, folder), { withFileTypes: true }).flatMap((entry) => {
    const file = path.join(folder, entry.name);
    if (entry.isDirectory()) return sources(file);
    return /\.vue$|(?<!\.test|\.test-kit|\.d)\.ts$/.test(entry.name) ? [file] : [];
  });
}

const clean = (text: string) => text.replaceAll(/\s+/g, ' ').trim();
/** Words for people, and not a name that code has for something. */
const isWords = (text: string) =>
  /[a-z]{2}/i.test(text) && (/[^\w-]/.test(text) || /^[A-Z]/.test(text));

/** Texts of a template: what stands in it, and what its attributes say. */
function inTemplate(node: RootNode | TemplateChildNode): string[] {
  if (node.type === NodeTypes.TEXT) return [clean(node.content)];
  if (!('children' in node)) return [];
  const own =
    node.type === NodeTypes.ELEMENT
      ? node.props.flatMap((prop) => {
          if (prop.type === NodeTypes.ATTRIBUTE)
            return SAID.has(prop.name) && prop.value ? [clean(prop.value.content)] : [];
          const said = prop.arg?.type === NodeTypes.SIMPLE_EXPRESSION && SAID.has(prop.arg.content);
          return said && prop.exp?.type === NodeTypes.SIMPLE_EXPRESSION
            ? strings(prop.exp.content)
            : [];
        })
      : [];
  const children = node.children as (TemplateChildNode | string | symbol)[];
  return [
    ...own,
    ...children.flatMap((child) => (typeof child === 'object' ? inTemplate(child) : [])),
  ];
}

/** The literals of code that people read: labels and sentences, and no names that code has for something. */
function strings(code: string): string[] {
  const source = ts.createSourceFile('part.ts', code, ts.ScriptTarget.Latest, true);
  const found: string[] = [];
  const read = (node: ts.Node): void => {
    if (ts.isImportDeclaration(node) || ts.isTypeNode(node)) return;
    if (ts.isTemplateExpression(node)) {
      found.push(
        clean([node.head.text, ...node.templateSpans.map(({ literal }) => literal.text)].join('…')),
      );
    } else if (ts.isStringLiteralLike(node)) found.push(clean(node.text));
    ts.forEachChild(node, read);
  };
  read(source);
  return found;
}

/** Labels say themselves; other text is told from names of the code by its spaces. */
const inCode = (code: string): string[] =>
  strings(code).filter(
    (text) =>
      / /.test(text) &&
      !text.startsWith('SELECT ') &&
      /[a-z]{3}/.test(text) &&
      !/^[\w$.:[\]#>~=…,() *-]*[[\]#>~={]/.test(text) &&
      !/^(?:pi |p-|data-|[\d.… ]+$)/.test(text),
  );
const LABELS = /(?:label|title|says|header|about): '([^'\n]+)'|^\s+\w+: '([A-Z][^'\n]+)'/gm;
const labels = (code: string) => [...code.matchAll(LABELS)].map(([, one, other]) => one ?? other!);

function textsOf(file: string): string[] {
  const code = readFileSync(path.join(root, file), 'utf8');
  if (file.endsWith('.ts')) return inOrder([...labels(code), ...inCode(code)]);
  const { descriptor } = parse(code);
  const template = descriptor.template?.ast ? inTemplate(descriptor.template.ast) : [];
  const script = descriptor.scriptSetup?.content ?? '';
  return inOrder([...template, ...labels(script), ...inCode(script)]);
}
const inOrder = (texts: string[]) => [...new Set(texts)].filter(isWords);

const all = ['.', '../core', '../server']
  .flatMap(sources)
  .filter((file) => !file.startsWith('help'))
  .map((file) => ({ file, texts: textsOf(file) }));
const help = [
  ...Object.values(HELP).flatMap(({ title, does, keys, words }) => [
    title,
    does,
    ...keys.map((key) => key.does),
    ...words.flatMap(({ word, means }) => [word, means]),
  ]),
  ...Object.values(SIGNS).flatMap(({ name, meaning }) => [name, meaning]),
];

/** Words that have another name here: one thing, one name. */
const OTHERWISE: [RegExp, string][] = [
  [/half-swing/i, 'move'],
  [/line of notes|lines of notes|single note/i, 'notes'],
  [/from the chair/i, 'stand view'],
  [/barely heard|driven/i, 'very soft, hard'],
  [/\btap it\b(?! in|: …)/i, 'tap tempo'],
  [/push early/i, 'early by an eighth'],
  [/^turn it (?:up|down)\b/i, 'flip'],
  [/\bslots?\b/i, 'place'],
  [/\bswings? a (?:beat|second)/i, 'move'],
  [/the song’s rhythm|rhythm of its/i, 'strum'],
  [/words? to say/i, 'tips'],
];

/** Text beside a choice between words: a sentence that nobody can read in one piece. */
function halves(file: string): string[] {
  const { descriptor } = parse(readFileSync(path.join(root, file), 'utf8'));
  const chooses = (code: string) => {
    const source = ts.createSourceFile('part.ts', `(${code})`, ts.ScriptTarget.Latest, true);
    const read = (node: ts.Node): boolean =>
      (ts.isConditionalExpression(node) &&
        strings(node.getText()).some((one) => /[a-z]{2}/i.test(one))) ||
      (ts.forEachChild(node, read) ?? false);
    return read(source);
  };
  const found: string[] = [];
  const walk = (node: RootNode | TemplateChildNode): void => {
    if (!('children' in node)) return;
    const children = (node.children as (TemplateChildNode | string | symbol)[]).filter(
      (child) => typeof child === 'object',
    );
    const said = children.some(
      ({ type, loc }) => type === NodeTypes.TEXT && /[a-z]{2}/i.test(loc.source),
    );
    if (said)
      for (const child of children)
        if (
          child.type === NodeTypes.INTERPOLATION &&
          child.content.type === NodeTypes.SIMPLE_EXPRESSION &&
          chooses(child.content.content)
        )
          found.push(`${file}: ${clean(node.loc.source)}`);
    children.forEach(walk);
  };
  if (descriptor.template?.ast) walk(descriptor.template.ast);
  return found;
}

describe('texts on the screens', () => {
  it('are whole sentences: none is built from halves in a template', () => {
    const wrong = all.flatMap(({ file }) => (file.endsWith('.vue') ? halves(file) : []));
    expect(wrong).toEqual([]);
  });

  it('can be read in one go', async () => {
    const parts = all.flatMap(({ file, texts }) =>
      texts.length > 0 ? [`## ${file}`, '', ...texts.map((text) => `- ${text}`), ''] : [],
    );
    const page = [
      '# Texts',
      '',
      'All that is written on the screens, part by part; a test writes it. An ellipsis is what is put in.',
      '',
    ];
    const said = ['## Help', '', ...help.map((text) => `- ${text}`), ''];
    await expect([...page, ...parts, ...said].join('\n')).toMatchFileSnapshot('../docs/texts.md');
  });

  it('call each thing by its one name', () => {
    const wrong = [...all, { file: 'help', texts: help }].flatMap(({ file, texts }) =>
      texts.flatMap((text) =>
        OTHERWISE.flatMap(([pattern, name]) =>
          pattern.test(text) ? [`${file}: “${text}”; here it is ${name}`] : [],
        ),
      ),
    );
    expect(wrong).toEqual([]);
  });
});
