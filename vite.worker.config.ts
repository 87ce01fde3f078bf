import { readdirSync } from 'node:fs';
import { defineConfig } from 'vite';

/** The service worker, built after the app, since it names the app's files. */
const files = readdirSync('build/client/assets')
  .filter((name) => /\.(js|css|woff2|wasm)$/.test(name))
  .sort()
  .map((name) => `/assets/${name}`);

export default defineConfig({
  publicDir: false,
  define: { BUILT_FILES: JSON.stringify(files), 'process.env.NODE_ENV': '"production"' },
  build: {
    outDir: 'build/client',
    emptyOutDir: false,
    lib: { entry: 'app/offline/worker.ts', formats: ['iife'], name: 'bloodstoneWorker', fileName: () => 'sw.js' },
  },
});
