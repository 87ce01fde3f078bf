import { randomUUID } from 'node:crypto';
import type { Server } from 'node:http';
import { join } from 'node:path';
import { createRequestHandler } from '@react-router/express';
import compression from 'compression';
import { sql } from 'drizzle-orm';
import express, { type ErrorRequestHandler } from 'express';
import { pinoHttp } from 'pino-http';
import type { AppLoadContext, ServerBuild } from 'react-router';
import { FolderLocked } from './db/lock';
import { ensureTemplate } from './db/open';
import { seedDemo } from './demo';
import { BrokenContent } from './documents';
import { log } from './log';
import { notify } from './live';
import { headers, limitedBody, nonce, sameOrigin } from './security';
import { isEmpty, openServices, type Services, type Settings } from './services';

export { ensureTemplate };

export interface Start extends Settings {
  host: string;
  port: number;
  /** The address people use, when it is not the one listened on. */
  address?: string;
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
    if (settings.demo && (await isEmpty(services))) await seedDemo(services);
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
  const { port } = server.address() as { port: number };
  const url = settings.address ?? `http://${settings.host}:${port}`;
  let stopping: Promise<void> | undefined;
  const stop = () => (stopping ??= shutDown(server, services));
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

  app.get('/live', (request, response) => streamChanges(services, request, response));
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
      build,
      mode: process.env.NODE_ENV ?? 'production',
      getLoadContext: (request, response): AppLoadContext => ({
        services,
        requestId: String((request as { id?: unknown }).id),
        nonce: (response.locals as { nonce: string }).nonce,
      }),
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
