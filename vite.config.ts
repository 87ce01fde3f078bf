import { reactRouter } from '@react-router/dev/vite';
import { defineConfig } from 'vite';

export default defineConfig(({ isSsrBuild }) => ({
  plugins: [reactRouter()],
  build: {
    // The server's entry carries Express and the database with it, so that routes and server share one copy of every module.
    ...(isSsrBuild ? { rollupOptions: { input: './server/entry.ts' } } : {}),
    assetsInlineLimit: 0,
  },
  // One instance of the style engine, in development too.
  ssr: { noExternal: [/^@mui\//, /^@emotion\//] },
  optimizeDeps: {
    entries: ['./app/**/*.{ts,tsx}', '!./app/**/*.server.ts'],
    exclude: ['@electric-sql/pglite', 'drizzle-orm', 'pg'],
  },
}));
