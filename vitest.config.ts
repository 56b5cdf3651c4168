import { defineConfig } from 'vitest/config';

export default defineConfig({
  resolve: { mainFields: ['module', 'main'] },
  ssr: { resolve: { mainFields: ['module', 'main'] } },
  test: {
    include: ['{core,server,web}/**/*.test.ts'],
    environment: 'node',
    // These packages name their ES module only in the `module` field, which Node does not read.
    server: { deps: { inline: [/tonal/, /@tonejs/] } },
    testTimeout: 20_000,
  },
});
