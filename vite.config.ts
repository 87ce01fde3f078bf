import { reactRouter } from '@react-router/dev/vite';
import { defineConfig } from 'vite';
import { compression } from 'vite-plugin-compression2';

export default defineConfig(({ isSsrBuild }) => ({
  plugins: [
    reactRouter(),
    // What a browser loads is compressed once, as small as it gets; the server sends these files as they are.
    ...(isSsrBuild ? [] : [compression({ algorithms: ['gzip', 'brotliCompress'], include: /\.(js|css|svg)$/, threshold: 0 })]),
    // The router's plugin gives every entry the same name.
    ...(isSsrBuild ? [{ name: 'entry-names', outputOptions: (options: object) => ({ ...options, entryFileNames: '[name].js' }) }] : []),
  ],
  build: {
    // The server's entry carries Express and the database with it, so that routes and server share one copy of every module. Beside it stands the
    // worker that looks far ahead (server/weighing/weigher.ts) and the process that reads files from outside (server/reading/files.ts).
    ...(isSsrBuild
      ? {
          rollupOptions: {
            input: {
              index: './server/http/entry.ts',
              weighingWorker: './server/weighing/weighingWorker.ts',
              readingProcess: './server/transfer/readingProcess.ts',
            },
          },
        }
      : {
          // The computation does nothing by being loaded, so that a page takes only what it uses of it.
          rollupOptions: {
            treeshake: { moduleSideEffects: (id: string) => !/\/core\/|\/node_modules\/(jstat|papaparse)\//.test(id) },
            // Every page loads a list of all files; seven signs of a hash tell them apart as well as eight.
            output: { entryFileNames: 'assets/[name]-[hash:7].js', chunkFileNames: 'assets/[name]-[hash:7].js' },
          },
        }),
    assetsInlineLimit: 0,
  },
  // One instance of the style engine, in development too.
  ssr: { noExternal: [/^@mui\//, /^@emotion\//] },
  optimizeDeps: {
    entries: ['./app/**/*.{ts,tsx}', '!./app/**/*.server.ts'],
    exclude: ['@electric-sql/pglite', 'drizzle-orm', 'pg'],
  },
}));
