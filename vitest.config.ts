import { defineConfig } from 'vitest/config';

const FUZZ = 50;

/** In the mode `fuzz` the laws are tried on many more examples (core/properties.test-kit.ts). */
export default defineConfig(({ mode }) => {
  const fuzz = mode === 'fuzz' ? FUZZ : 1;
  return {
    resolve: { mainFields: ['module', 'main'] },
    ssr: { resolve: { mainFields: ['module', 'main'] } },
    test: {
      projects: [
        // What is pure leaves nothing behind, and every server has a folder of its own: their files share
        // what they import, which is most of their time.
        {
          extends: true,
          test: {
            name: 'core and server',
            include: ['{core,server}/**/*.test.ts'],
            isolate: false,
          },
        },
        { extends: true, test: { name: 'web', include: ['web/**/*.test.ts'] } },
      ],
      environment: 'node',
      setupFiles: ['core/properties.test-kit.ts'],
      provide: { fuzz },
      // These packages name their ES module only in the `module` field, which Node does not read.
      server: { deps: { inline: [/tonal/] } },
      maxWorkers: '100%',
      testTimeout: 60_000 * fuzz,
    },
  };
});
