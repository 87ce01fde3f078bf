import type { Config } from '@react-router/dev/config';

export default {
  appDirectory: 'app',
  ssr: true,
  future: { v8_middleware: true },
  // Every route is known to the page from the start: a navigation needs no further question about what the address means.
  routeDiscovery: { mode: 'initial' },
} satisfies Config;
