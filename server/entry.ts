import { randomUUID } from 'node:crypto';
import type { Server } from 'node:http';
import { join } from 'node:path';
import { createRequestHandler } from '@react-router/express';
import compression from 'compression';
import { sql } from 'drizzle-orm';
import express, { type ErrorRequestHandler } from 'express';
import { pinoHttp } from 'pino-http';
import { RouterContextProvider, type ServerBuild } from 'react-router';
import { needsSetUp } from './accounts/people';
import { findSession } from './accounts/sessions';
import { tokenOf } from './cookie';
import { FolderLocked } from './db/lock';
import { ensureTemplate } from './db/open';
import { seedDemo } from './demo';
import { isDemoData } from './demoPeople';
import { startSimulatedMeter } from './devices/simulatedMeter';
import { BrokenContent } from './documents';
import { log } from './log';
import { notify } from './live';
import { enterSimulatedMeter } from './meters';
import { headers, limitedBody, nonce, sameOrigin } from './security';
import { here } from './requestContext';
import { openServices, type Services, type Settings } from './services';

export { ensureTemplate };

export interface Start extends Settings {
  host: string;
  port: number;
}

/** The router's own list of routes, for the test that compares it with the table of rights. */
export async function routeManifest(): Promise<{ address: string; loads: boolean; acts: boolean }[]> {
  const { routes } = (await import('virtual:react-router/server-build')) as unknown as ServerBuild;
  const path = (id: string | undefined): string => (id === undefined ? '' : `${path(routes[id]?.parentId)}/${routes[id]?.path ?? ''}`);
  return Object.values(routes)
    .filter((r) => r !== undefined && (r.path !== undefined || r.index === true) && r.id !== 'root')
    .map((r) => ({
      address: path(r!.id)
        .replace(/\/+/g, '/')
        .replace(/(.)\/$/, '$1'),
      loads: 'loader' in r!.module && r!.module.loader !== undefined,
      acts: 'action' in r!.module && r!.module.action !== undefined,
    }));
}

export interface Running {
  url: string;
  stop(): Promise<void>;
}

/** Opens the data, serves, and prints the address. Expected reasons not to start are said in one line. */
export async function start(settings: Start): Promise<Running> {
  let services: Services;
  try {
    services = await openServices(settings);
    if (settings.demo && (await needsSetUp(services.database.db))) await seedDemo(services);
    else if (settings.demo && !(await isDemoData(services.database.db))) {
      await services.close();
      throw new BrokenContent(
        'This folder holds a shop’s own data, not the demo. Leave BLOODSTONE_DEMO out, or give another folder in BLOODSTONE_DATA.',
      );
    }
  } catch (error) {
    if (error instanceof FolderLocked || error instanceof BrokenContent) {
      process.stderr.write(`Bloodstone does not start.\n${error.message}\n`);
      process.exit(1);
    }
    throw error;
  }
  const app = await createApp(services, settings);
  let server: Server;
  try {
    server = await listening(app, settings);
  } catch (error) {
    await services.close();
    if ((error as NodeJS.ErrnoException).code !== 'EADDRINUSE') throw error;
    process.stderr.write(
      `Bloodstone does not start.\nPort ${settings.port} on ${settings.host} is in use. Stop what listens there, or set PORT to another number.\n`,
    );
    process.exit(1);
  }
  const simulated = settings.demo || settings.simulatedMeter ? await startSimulatedMeter() : null;
  if (simulated) await enterSimulatedMeter(services.database.db, simulated.port);
  const { port } = server.address() as { port: number };
  const url = settings.address ?? `http://${settings.host}:${port}`;
  let stopping: Promise<void> | undefined;
  const stop = () => (stopping ??= Promise.all([shutDown(server, services), simulated?.close()]).then(() => undefined));
  for (const signal of ['SIGTERM', 'SIGINT'] as const) process.once(signal, () => void stop().then(() => process.exit(0)));
  return { url, stop };
}

const listening = (app: express.Express, { port, host }: Start) =>
  new Promise<Server>((resolve, reject) => {
    const server = app.listen(port, host, (error?: Error) => (error ? reject(error) : resolve(server)));
  });

/** Open pages hold their event stream for ever, so connections are cut after a short grace; then the database is closed cleanly. */
async function shutDown(server: Server, services: Services): Promise<void> {
  const closed = new Promise<void>((resolve) => server.close(() => resolve()));
  const grace = setTimeout(() => server.closeAllConnections(), 300);
  await closed;
  clearTimeout(grace);
  await services.close();
}

export async function createApp(services: Services, settings: Start): Promise<express.Express> {
  const app = express();
  const secure = settings.address?.startsWith('https:') ?? false;
  app.disable('x-powered-by');
  app.set('trust proxy', 'loopback');

  app.get('/healthz', async (_request, response) => {
    await services.database.db.execute(sql`select 1`);
    response.json({ status: 'ok' });
  });

  app.use(
    pinoHttp({
      logger: log,
      genReqId: () => randomUUID(),
      autoLogging: { ignore: (request) => request.url?.startsWith('/assets/') ?? false },
      serializers: {
        req: (r: { id: string; method: string; url: string }) => ({ id: r.id, method: r.method, url: r.url }),
        res: (r: { statusCode: number }) => ({ statusCode: r.statusCode }),
      },
    }),
  );
  app.use(nonce, headers(secure), sameOrigin(settings.address), limitedBody, compression());

  const client = join(settings.root, 'build/client');
  app.use('/assets', express.static(join(client, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }));
  app.get('/favicon.svg', (_request, response) => response.sendFile(join(client, 'favicon.svg'), { maxAge: '1d' }));

  app.get('/live', async (request, response) => {
    const session = await findSession(services.database.db, await tokenOf(request.headers.cookie, secure), services.clock.now());
    if (!session) return void response.status(401).type('text/plain').send('Sign in first.\n');
    streamChanges(services, request, response);
  });
  if (settings.manualClock) {
    app.post('/test/clock', express.json(), async (request, response) => {
      const ms = Number((request.body as { advanceMs?: unknown }).advanceMs);
      if (!Number.isFinite(ms) || ms < 0) return void response.status(400).json({ message: 'advanceMs: milliseconds, 0 or more' });
      await services.clock.advance(ms);
      await notify(services.database.db, { what: 'clock' });
      response.json(services.clock.read());
    });
  }

  const build = (await import('virtual:react-router/server-build')) as unknown as ServerBuild;
  app.use(
    createRequestHandler({
      // The router compares origins too; behind a proxy it can't know the address people use.
      build: settings.address ? { ...build, allowedActionOrigins: [new URL(settings.address).host] } : build,
      mode: process.env.NODE_ENV ?? 'production',
      getLoadContext: async (request, response) => {
        const token = await tokenOf(request.headers.cookie, secure);
        const context = new RouterContextProvider();
        context.set(here, {
          services,
          requestId: String((request as { id?: unknown }).id),
          dataOnly: request.path.endsWith('.data'),
          nonce: (response.locals as { nonce: string }).nonce,
          session: await findSession(services.database.db, token, services.clock.now()),
          token,
          browser: { agent: request.headers['user-agent'] ?? '', address: request.ip ?? '' },
          secure,
        });
        return context;
      },
    }),
  );
  const failed: ErrorRequestHandler = (error: unknown, request, response, next) => {
    if (response.headersSent) return next(error);
    const status = (error as { status?: number }).status;
    if (status !== undefined && status >= 400 && status < 500)
      return void response.status(status).type('text/plain').send('This address or request is not understood.\n');
    const reference = String((request as { id?: unknown }).id);
    log.error({ err: error, reference }, 'unexpected');
    response.status(500).type('text/plain').send(`Something went wrong in Bloodstone. Nothing that was confirmed is lost. Reference: ${reference}\n`);
  };
  app.use(failed);
  return app;
}

/** Server-sent events: what changed, and the clock from time to time, which also keeps the connection alive. */
function streamChanges(services: Services, request: express.Request, response: express.Response): void {
  response.writeHead(200, { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-cache, no-transform', Connection: 'keep-alive' });
  const send = (event: string, data: unknown) => response.write(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`);
  send('clock', services.clock.read());
  const unsubscribe = services.live.subscribe((change) => {
    if (change.what === 'clock') send('clock', services.clock.read());
    send('change', change);
  });
  const beat = setInterval(() => send('clock', services.clock.read()), 10_000);
  request.on('close', () => {
    clearInterval(beat);
    unsubscribe();
  });
}
