import { reactRouter } from '@react-router/dev/vite';
import { defineConfig } from 'vite';

export default defineConfig(({ isSsrBuild }) => ({
  plugins: [
    reactRouter(),
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
              diagnosisWorker: './server/weighing/diagnosisWorker.ts',
              readingProcess: './server/transfer/readingProcess.ts',
            },
          },
        }
      : {}),
    assetsInlineLimit: 0,
  },
  // One instance of the style engine, in development too.
  ssr: { noExternal: [/^@mui\//, /^@emotion\//] },
  optimizeDeps: {
    entries: ['./app/**/*.{ts,tsx}', '!./app/**/*.server.ts'],
    exclude: ['@electric-sql/pglite', 'drizzle-orm', 'pg'],
  },
}));
