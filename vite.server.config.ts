import { fileURLToPath } from 'node:url';
import { defineConfig } from 'vite';

/** The server and the benchmarks as Node modules; packages stay outside but for those below. */
export default defineConfig({
  // These packages name their ES module only in the `module` field, which Node does not read.
  ssr: { noExternal: ['vexflow', 'wavefile', /tonal/, '@tombatossals/chords-db'] },
  build: {
    ssr: true,
    outDir: 'dist/server',
    target: 'node20',
    minify: false,
    sourcemap: true,
    rollupOptions: {
      input: {
        index: fileURLToPath(new URL('server/index.ts', import.meta.url)),
        worker: fileURLToPath(new URL('server/compute/worker.ts', import.meta.url)),
        bench: fileURLToPath(new URL('bench/core.ts', import.meta.url)),
        benchHand: fileURLToPath(new URL('bench/hand.ts', import.meta.url)),
        benchTake: fileURLToPath(new URL('bench/take.ts', import.meta.url)),
        benchUkulele: fileURLToPath(new URL('bench/ukuleleTakes.ts', import.meta.url)),
        benchLog: fileURLToPath(new URL('bench/log.ts', import.meta.url)),
        benchAlong: fileURLToPath(new URL('bench/along.ts', import.meta.url)),
        benchFiles: fileURLToPath(new URL('bench/files.ts', import.meta.url)),
        benchSound: fileURLToPath(new URL('bench/sound.ts', import.meta.url)),
      },
    },
  },
});
