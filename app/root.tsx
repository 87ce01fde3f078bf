import './theme/fonts';
import './theme/variables.css';
import './theme/tokens.css';
import CssBaseline from '@mui/material/CssBaseline';
import InitColorSchemeScript from '@mui/material/InitColorSchemeScript';
import { ThemeProvider } from '@mui/material/styles';
import { type ReactNode, useContext, useEffect } from 'react';
import { isRouteErrorResponse, Links, Meta, Outlet, Scripts, ScrollRestoration, useRouteError, useRouteLoaderData } from 'react-router';
import { here } from '../server/http/requestContext';
import type { Route } from './+types/root';
import { guard } from './guard.server';
import { Nonce } from './nonce';
import { earlyTouch } from './shell/earlyTouch';
import { theme } from './theme/theme';

export const meta: Route.MetaFunction = () => [{ title: 'Bloodstone' }];
export const links: Route.LinksFunction = () => [
  { rel: 'icon', href: '/favicon.svg', type: 'image/svg+xml' },
  { rel: 'manifest', href: '/manifest.webmanifest' },
  { rel: 'apple-touch-icon', href: '/icons/192.png' },
];

export function loader({ context }: Route.LoaderArgs) {
  return { reference: context.get(here).requestId };
}
export const middleware: Route.MiddlewareFunction[] = [guard];

/** The nonce belongs to the document that was sent, so it is never loaded again. */
export const shouldRevalidate = () => false;

/** The variables come from variables.css. A property of the provider that its type does not name. */
const variablesElsewhere: object = { disableStyleSheetGeneration: true };

export function Layout({ children }: { children: ReactNode }) {
  // Also there when no loader ran, because the page was refused before.
  const nonce = useContext(Nonce);
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        <meta charSet="utf-8" />
        <meta name="viewport" content="width=device-width, initial-scale=1" />
        <meta name="color-scheme" content="light dark" />
        <Meta />
        <Links />
      </head>
      <body suppressHydrationWarning>
        <InitColorSchemeScript attribute="data" defaultMode="system" nonce={nonce} />
        <script
          nonce={nonce}
          suppressHydrationWarning
          dangerouslySetInnerHTML={{ __html: import.meta.env.SSR ? `(${earlyTouch.toString()})()` : '' }}
        />
        <ThemeProvider theme={theme} defaultMode="system" {...variablesElsewhere}>
          <CssBaseline />
          {children}
        </ThemeProvider>
        <ScrollRestoration nonce={nonce} />
        <Scripts nonce={nonce} />
      </body>
    </html>
  );
}

export default function App() {
  // The page answers from here on: for whoever drives it from outside.
  useEffect(() => {
    document.documentElement.dataset.alive = 'true';
  }, []);
  return <Outlet />;
}

/** Last resort, outside the shell: says what happened and where to go. */
export function ErrorBoundary() {
  const error = useRouteError();
  const loaded = useRouteLoaderData<typeof loader>('root');
  const expected = isRouteErrorResponse(error);
  return (
    <main style={{ padding: 32, maxWidth: 720 }}>
      <h1>{expected ? error.statusText || 'Not found' : 'Something went wrong'}</h1>
      <p style={{ marginTop: 16 }}>
        {expected
          ? String(error.data)
          : `Something unexpected happened. Nothing confirmed is lost. Reload the page; if it happens again, give the reference ${loaded?.reference ?? 'in the server log'}.`}
      </p>
      <p style={{ marginTop: 16 }}>
        <a href="/">Go to the Floor</a>
      </p>
    </main>
  );
}
