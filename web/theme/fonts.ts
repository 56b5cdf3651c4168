import type { Plugin } from 'vite';

/** The fonts of the first screen, by the beginning of their files. */
const FIRST = /(bricolage-grotesque|atkinson-hyperlegible-next)-latin-wght-normal|primeicons/;

/** Asks for the fonts with the page: told of by the style sheet alone, they come after the first picture. */
export function fontsFirst(): Plugin {
  return {
    name: 'fonts-first',
    transformIndexHtml: {
      order: 'post',
      handler: (_html, { bundle }) =>
        Object.keys(bundle ?? {})
          .filter((file) => file.endsWith('.woff2') && FIRST.test(file))
          .map((file) => ({
            tag: 'link',
            attrs: {
              rel: 'preload',
              as: 'font',
              type: 'font/woff2',
              href: `/${file}`,
              crossorigin: true,
            },
            injectTo: 'head' as const,
          })),
    },
  };
}
