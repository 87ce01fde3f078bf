import type { Services } from '../server/services';

declare module 'react-router' {
  /** What every loader and action gets from the server. */
  interface AppLoadContext {
    services: Services;
    requestId: string;
    nonce: string;
  }
}
