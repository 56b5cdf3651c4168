import { fileURLToPath } from 'node:url';
import vue from '@vitejs/plugin-vue';
import { defineConfig } from 'vite';
import { fontsFirst } from './theme/fonts.ts';
import { licences } from './licences.ts';
import { componentTheme } from './theme/sheet.ts';

/** Where `npm run dev` runs the server; the built app is served by it and needs no proxy. */
const server = `http://127.0.0.1:${process.env.PORT ?? 4780}`;

const whose = licences();

export default defineConfig({
  root: fileURLToPath(new URL('.', import.meta.url)),
  plugins: [vue(), componentTheme(), fontsFirst(), whose.page()],
  worker: { format: 'es', plugins: () => [whose.worker()] },
  // The shape data is large; as text it is read several times faster than as code.
  json: { stringify: true },
  build: {
    outDir: '../dist/web',
    emptyOutDir: true,
    target: 'es2023',
    // The content policy lets no inline script in, not even a small one.
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
    rolldownOptions: { checks: { pluginTimings: false } },
    // The shape data of two instruments is one chunk, loaded after the first screen.
    chunkSizeWarningLimit: 700,
  },
  server: {
    proxy: {
      '/api': {
        target: server,
        changeOrigin: true,
        // The server takes only its own pages; in development the page comes from here.
        configure: (proxy) => proxy.on('proxyReq', (request) => request.removeHeader('origin')),
      },
    },
  },
});
