import { readFileSync, readdirSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import BaseStyle from '@primevue/core/base/style';
import { css, Theme } from '@primeuix/themes';
import type { Plugin } from 'vite';
import { THEME_OPTIONS, workshop } from './preset.ts';

/** The name under which the page imports the sheet. */
const SHEET = 'virtual:components.css';

const web = fileURLToPath(new URL('..', import.meta.url));
const packages = path.dirname(
  path.dirname(createRequire(import.meta.url).resolve('primevue/config', { paths: [web] })),
);

const IMPORTED = /from ['"]primevue\/([a-z]+)(?:\/style)?['"]/g;
const importsOf = (text: string) => [...text.matchAll(IMPORTED)].map(([, name]) => name!);

/** The components that the app uses, and those that they are made of. */
function usedComponents(): string[] {
  const files = readdirSync(web, { recursive: true, encoding: 'utf8' }).filter((file) =>
    /\.(vue|ts)$/.test(file),
  );
  const wanted = files.flatMap((file) => importsOf(readFileSync(path.join(web, file), 'utf8')));
  const found = new Set<string>();
  while (wanted.length > 0) {
    const name = wanted.pop()!;
    if (found.has(name)) continue;
    found.add(name);
    wanted.push(...importsOf(readFileSync(path.join(packages, name, 'index.mjs'), 'utf8')));
  }
  return [...found].sort();
}

/** What the package leaves untyped of a component's style. */
interface Style {
  name: string;
  load(text: unknown, options?: unknown, transform?: (text: string) => string): unknown;
  loadStyle(options: { name: string }, more?: string): unknown;
  getCommonTheme(): Record<'primitive' | 'semantic' | 'global', { css?: string } | undefined> & {
    style?: string;
  };
  getComponentTheme(): { css?: string; style?: string } | undefined;
}

/** The rules that a component's style would put into the page, as they would be put there. */
function rulesOf(style: Style, rules: string[]): Style {
  return {
    ...style,
    load: (given, _options, transform = (text) => text) => {
      const text = transform(
        css`
          ${given}
        ` ?? '',
      );
      if (text) rules.push(text);
      return {};
    },
  };
}

/** The whole sheet of the components in the tokens of the workshop. */
export async function componentSheet(): Promise<string> {
  Theme.setTheme({ preset: workshop, options: THEME_OPTIONS });
  const rules = [`@layer ${THEME_OPTIONS.cssLayer.order};`];
  const base = rulesOf(BaseStyle as unknown as Style, rules);
  const { primitive, semantic, global, style } = base.getCommonTheme();
  for (const part of [primitive, semantic, global]) base.load(part?.css);
  base.loadStyle({ name: 'global-style' }, style);
  for (const name of usedComponents()) {
    const file = path.join(packages, name, 'style', 'index.mjs');
    const made = await import(/* @vite-ignore */ pathToFileURL(file).href).catch(() => null);
    if (!made) continue;
    const component = rulesOf(made.default as Style, rules);
    const theme = component.getComponentTheme();
    component.load(theme?.css);
    component.loadStyle({ name: `${component.name}-style` }, theme?.style);
  }
  return rules.join('\n');
}

/** Writes the theme of the components at build time, so that no browser has to make it. */
export function componentTheme(): Plugin {
  return {
    name: 'component-theme',
    resolveId: (id) => (id === SHEET ? `\0${SHEET}` : null),
    load: (id) => (id === `\0${SHEET}` ? componentSheet() : null),
  };
}
