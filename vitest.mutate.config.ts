import { defineConfig } from 'vitest/config';

/** The tests of one room alone, for `npm run mutate`: a fault in it is to be seen where its code is. */
const room = process.env.MUTATE ?? 'edit';
const folder = room.includes('/') ? room : `core/${room}`;

export default defineConfig({
  resolve: { mainFields: ['module', 'main'] },
  ssr: { resolve: { mainFields: ['module', 'main'] } },
  test: {
    include: [`${folder}/**/*.test.ts`, 'core/examples.test.ts'],
    environment: 'node',
    setupFiles: ['core/properties.test-kit.ts'],
    provide: { fuzz: 1 },
    server: { deps: { inline: [/tonal/] } },
    testTimeout: 60_000,
  },
});
