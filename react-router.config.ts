import type { Config } from '@react-router/dev/config';

export default {
  appDirectory: 'app',
  ssr: true,
  // Every route is known to the page from the start: a navigation needs no further question about what the address means.
  routeDiscovery: { mode: 'initial' },
} satisfies Config;
