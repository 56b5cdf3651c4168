import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { parse } from '@vue/compiler-sfc';
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

function components(folder: string): string[] {
  return readdirSync(path.join(root, folder), { withFileTypes: true }).flatMap((entry) => {
    const file = path.join(folder, entry.name);
    if (entry.isDirectory()) return components(file);
    return entry.name.endsWith('.vue') ? [file] : [];
  });
}

const clean = (text: string) => text.replaceAll(/\s+/g, ' ').trim();
/** What is put in while it runs stands as an ellipsis. */
const literal = (text: string) => clean(text.replaceAll(/\$\{[^`]*?\}/g, '…'));
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

/** Texts in quotes. */
function strings(code: string): string[] {
  return [...code.matchAll(/'([^'\n]+)'|`([^`]+)`/g)].map(([, plain, made]) =>
    literal(plain ?? made!),
  );
}

/** Texts of a script: labels and sentences, not the words that code uses among itself. */
function inScript(code: string): string[] {
  return code
    .split('\n')
    .filter((line) => !/^\s*(?:import|\*|\/\*|\/\/)/.test(line) && !/from '/.test(line))
    .flatMap((line) =>
      strings(line).filter((text) => /label:|says|return|=|\?|:/.test(line) && / /.test(text)),
    );
}

function textsOf(file: string): string[] {
  const { descriptor } = parse(readFileSync(path.join(root, file), 'utf8'));
  const template = descriptor.template?.ast ? inTemplate(descriptor.template.ast) : [];
  const script = inScript(descriptor.scriptSetup?.content ?? '');
  return [...new Set([...template, ...script])].filter(isWords);
}

const all = components('.').map((file) => ({ file, texts: textsOf(file) }));
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
  [/slots? selected/i, 'places'],
  [/the song’s rhythm|rhythm of its/i, 'strum'],
  [/words? to say/i, 'tips'],
];

describe('texts on the screens', () => {
  it('can be read in one go', async () => {
    const parts = all.flatMap(({ file, texts }) =>
      texts.length > 0 ? [`## ${file}`, '', ...texts.map((text) => `- ${text}`), ''] : [],
    );
    const page = [
      '# Texts',
      '',
      'All that is written on the screens, part by part; a test writes it.',
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
