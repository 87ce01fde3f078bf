import createCache from '@emotion/cache';
import { CacheProvider } from '@emotion/react';
import { StrictMode, startTransition } from 'react';
import { hydrateRoot } from 'react-dom/client';
import { HydratedRouter } from 'react-router/dom';
import { partsOfDocument } from './ui/later';

// Browsers hide the nonce attribute from scripts' markup but keep it as a property.
const nonce = document.querySelector<HTMLScriptElement>('script[nonce]')?.nonce;
const cache = createCache({ key: 'css', ...(nonce ? { nonce } : {}) });

// The router lets go of an answer that a newer one has overtaken, and nobody is left to catch what that ends with. It is no error.
window.addEventListener('unhandledrejection', (event) => {
  if (event.reason instanceof DOMException && event.reason.name === 'AbortError') event.preventDefault();
});

async function begin() {
  await partsOfDocument();
  startTransition(() => {
    hydrateRoot(
      document,
      <StrictMode>
        <CacheProvider value={cache}>
          <HydratedRouter />
        </CacheProvider>
      </StrictMode>,
    );
  });
  // From here on the library hears what is touched (shell/earlyTouch.ts).
  window.dispatchEvent(new Event('bloodstone:listening'));
}
void begin();

// Pages that were opened can be opened again without a connection. Only over HTTPS or on this machine itself: elsewhere browsers have no service worker.
if (import.meta.env.PROD && 'serviceWorker' in navigator) {
  const register = () => void navigator.serviceWorker.register('/sw.js').catch((error: unknown) => console.info('No service worker:', error));
  // What the page itself needs comes first.
  if (document.readyState === 'complete') register();
  else window.addEventListener('load', register, { once: true });
}
