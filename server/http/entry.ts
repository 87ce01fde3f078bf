import { randomUUID } from 'node:crypto';
import type { Server } from 'node:http';
import { mkdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { constants } from 'node:zlib';
import { createRequestHandler } from '@react-router/express';
import compression from 'compression';
import { sql } from 'drizzle-orm';
import express, { type ErrorRequestHandler } from 'express';
import expressStaticGzip from 'express-static-gzip';
import { pinoHttp } from 'pino-http';
import { RouterContextProvider, type ServerBuild } from 'react-router';
import { needsSetUp } from '../accounts/people';
import { findSession } from '../accounts/sessions';
import { tokenOf } from './cookie';
import { type BackupPlace, startBackups } from '../backup/backups';
import { BackupProblem, keyFile, password } from '../backup/key';
import { awayAnswer, isAway } from '../db/away';
import { FolderLocked } from '../db/lock';
import { ensureTemplate } from '../db/open';
import { DiskFull } from '../db/space';
import { isDemoData } from '../demo/demoPeople';
import { prepareWorld, seedWorld } from '../demo/world';
import { startSimulatedMeter } from '../shop/devices/simulatedMeter';
import { BrokenContent } from '../library/documents';
import { prepareContent } from '../../content/prepared';
import { log, toldAddress, toldOf } from '../base/log';
import { notify } from '../acts/live';
import { enterSimulatedMeter } from '../shop/meters';
import { countedDoors, drained, headers, knownHost, limitedBody, nonce, sameOrigin, wellFormed } from './security';
import { measured, metrics } from './metrics';
import { here } from './requestContext';
import { startWatchdog } from '../base/watchdog';
import { openServices, type Services, type Settings } from '../services/services';

export { ensureTemplate, prepareContent, prepareWorld };

export interface Start extends Settings {
  host: string;
  port: number;
  /** Addresses of proxies that may say who asks and by which host; nobody else is believed. */
  proxies?: string[];
  /** Who has it may read what is counted; without one nobody can. */
  metricsToken?: string;
  /** Where backups go, and what opens them: a password, or a key file that is made when there is none. */
  backup?: { folder: string; password?: string; keyPath?: string };
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
  closePrototype();
  // What is written is this user's alone.
  process.umask(0o077);
  let services: Services;
  let place: BackupPlace | null;
  try {
    place = backupPlace(settings);
    services = await openServices(settings);
    if (settings.demo && (await needsSetUp(services.database.db))) await seedWorld(services, settings.history);
    else if (settings.demo && !(await isDemoData(services.database.db))) {
      await services.close();
      throw new BrokenContent(
        'This folder holds a shop’s own data, not the demo. Leave BLOODSTONE_DEMO out, or give another folder in BLOODSTONE_DATA.',
      );
    }
  } catch (error) {
    if (error instanceof FolderLocked || error instanceof BrokenContent || error instanceof DiskFull || error instanceof BackupProblem) {
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
  const endBackups = await startBackups(services, place);
  const endWatch = startWatchdog();
  const stop = () => (stopping ??= Promise.all([endBackups().then(() => shutDown(server, services)), simulated?.close()]).then(endWatch));
  for (const signal of ['SIGTERM', 'SIGINT'] as const)
    process.once(signal, () => {
      // Whatever does not end by itself is cut off; data bears that at any moment.
      setTimeout(() => process.exit(1), longestEndMs).unref();
      void stop().then(
        () => process.exit(0),
        () => process.exit(1),
      );
    });
  return { url, stop };
}

/** Where backups go, and what opens them; null: nobody said. @throws BackupProblem */
function backupPlace({ backup, vault, folder, root }: Start): BackupPlace | null {
  if (!backup) return null;
  const vaultFolder = vault?.folder ?? join(folder ?? join(root, '.data'), 'vault');
  if (backup.password !== undefined) return { folder: backup.folder, secret: password(backup.password), vault: vaultFolder };
  const keyPath = backup.keyPath ?? join(folder ?? join(root, '.data'), 'backup.key');
  if (dirname(keyPath) === backup.folder)
    throw new BackupProblem(`${keyPath} lies beside the backups that it opens. Name another place for it in BLOODSTONE_BACKUP_KEY.`);
  mkdirSync(dirname(keyPath), { recursive: true, mode: 0o700 });
  return { folder: backup.folder, secret: keyFile(keyPath), keyPath, vault: vaultFolder };
}

/**
 * A second line behind the check of names (core/library/bounds.ts): nobody adds to what every object inherits from, or changes it. Packages that
 * give an object of theirs its own `toString` or `constructor` by assignment still can, which plain freezing would forbid.
 */
function closePrototype(): void {
  const open = Object.prototype as unknown as Record<PropertyKey, unknown>;
  for (const name of Reflect.ownKeys(open)) {
    const { value, configurable } = Object.getOwnPropertyDescriptor(open, name)!;
    if (!configurable || value === undefined) continue;
    Object.defineProperty(open, name, {
      get: () => value as unknown,
      set(this: object, own: unknown) {
        if (this === open) throw new TypeError(`${String(name)} of every object stays as it is`);
        Object.defineProperty(this, name, { value: own, writable: true, enumerable: true, configurable: true });
      },
    });
  }
  Object.freeze(open);
}

const listening = (app: express.Express, { port, host }: Start) =>
  new Promise<Server>((resolve, reject) => {
    const server = app.listen(port, host, (error?: Error) => (error ? reject(error) : resolve(server)));
    // Longer than a proxy or a browser keeps an idle connection: neither sends into one that has just been shut.
    server.keepAliveTimeout = 75_000;
  });

/** A server that is told to end does so within this, ms. */
const longestEndMs = 9_000;

/** Open pages hold their event stream for ever, so connections are cut after a short grace; then the database is closed cleanly. */
async function shutDown(server: Server, services: Services): Promise<void> {
  const closed = new Promise<void>((resolve) => server.close(() => resolve()));
  const grace = setTimeout(() => server.closeAllConnections(), 300);
  await closed;
  clearTimeout(grace);
  await services.close();
}

/** In a shop's own network the wire is fast: the least effort already takes three quarters off a page, and each further step keeps people waiting. */
const compressionOptions = { level: 1, brotli: { params: { [constants.BROTLI_PARAM_QUALITY]: 1 } } };

export async function createApp(services: Services, settings: Start): Promise<express.Express> {
  const app = express();
  const secure = settings.address?.startsWith('https:') ?? false;
  app.disable('x-powered-by');
  app.set('trust proxy', settings.proxies ?? []);

  app.use(measured);
  // The process answers at all; and it can do its work.
  app.get('/readyz', async (_request, response) => {
    try {
      await services.database.db.execute(sql`select 1`);
      response.json({ status: 'ok' });
    } catch {
      response.status(503).json({ status: 'the database does not answer' });
    }
  });

  app.get('/healthz', (_request, response) => void response.json({ status: 'ok' }));
  if (settings.metricsToken !== undefined) app.get('/metrics', metrics(services, settings.metricsToken));

  app.use(
    pinoHttp({
      logger: log,
      genReqId: () => randomUUID(),
      autoLogging: { ignore: (request) => request.url?.startsWith('/assets/') ?? false },
      serializers: {
        req: (r: { id: string; method: string; url: string }) => ({ id: r.id, method: r.method, url: toldAddress(r.url) }),
        res: (r: { statusCode: number }) => ({ statusCode: r.statusCode }),
        err: toldOf,
      },
    }),
  );
  app.use(
    drained,
    wellFormed,
    knownHost(settings),
    nonce,
    headers(secure),
    sameOrigin(settings.address),
    limitedBody,
    countedDoors(),
    compression(compressionOptions),
  );

  const client = join(settings.root, 'build/client');
  const lasting = { immutable: true, maxAge: '1y', fallthrough: false } as const;
  app.use('/assets', expressStaticGzip(join(client, 'assets'), { enableBrotli: true, orderPreference: ['br', 'gz'], serveStatic: lasting }));
  app.get('/favicon.svg', (_request, response) => response.sendFile(join(client, 'favicon.svg'), { maxAge: '1d' }));
  app.get('/manifest.webmanifest', (_request, response) => response.sendFile(join(client, 'manifest.webmanifest'), { maxAge: '1d' }));
  app.use('/icons', express.static(join(client, 'icons'), { maxAge: '1d', fallthrough: false }));
  // The browser asks for it again and again: whether there is a new version.
  app.get('/sw.js', (_request, response) =>
    response.sendFile(join(client, 'sw.js'), { headers: { 'Cache-Control': 'no-cache' }, cacheControl: false }),
  );

  app.get('/live', async (request, response) => {
    const find = async () => findSession(services, await tokenOf(request.headers.cookie, secure), services.clock.now());
    const session = await find();
    if (!session || session.locked) return void response.status(401).type('text/plain').send('Sign in first.\n');
    streamChanges(services, session.id, async () => (await find())?.locked === false, response);
  });
  if (settings.manualClock) {
    app.get('/test/statements', (_request, response) => void response.json({ asked: services.database.statements.asked }));
    app.post('/test/clock', express.json(), async (request, response) => {
      const { advanceMs, rate } = request.body as { advanceMs?: unknown; rate?: unknown };
      const ms = Number(advanceMs);
      if (!Number.isFinite(ms) || ms < 0) return void response.status(400).json({ message: 'advanceMs: milliseconds, 0 or more' });
      await services.clock.advance(ms, rate === 1 ? 1 : undefined);
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
          session: await findSession(services, token, services.clock.now()),
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
    if (isAway(error)) {
      log.warn({ err: error, reference }, 'The database does not answer.');
      return void response.status(awayAnswer.status).set(awayAnswer.headers).send(awayAnswer.body);
    }
    log.error({ err: error, reference }, 'unexpected');
    response.status(500).type('text/plain').send(`Something went wrong in Bloodstone. Nothing that was confirmed is lost. Reference: ${reference}\n`);
  };
  app.use(failed);
  return app;
}

/**
 * Server-sent events: what changed, and the clock from time to time, which also keeps the connection alive. Ends as soon as the browser is signed
 * out or locked: at once when somebody does it, at the next beat when time does.
 */
function streamChanges(services: Services, sessionId: string, still: () => Promise<boolean>, response: express.Response): void {
  response.writeHead(200, { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-cache, no-transform', Connection: 'keep-alive' });
  const send = (event: string, data: unknown) => response.write(`event: ${event}\ndata: ${JSON.stringify(data)}\n\n`);
  const goOn = () =>
    still().then(
      (yes) => (yes ? true : (response.end(), false)),
      () => true,
    );
  send('clock', services.clock.read());
  const unsubscribe = services.live.subscribe((change) => {
    if (change.what === 'session') {
      if (change.session === undefined || change.session === sessionId) void goOn();
      return;
    }
    if (change.what === 'clock') {
      send('clock', services.clock.read());
      // Time alone may have locked it.
      void goOn();
    }
    send('change', change);
  });
  const beat = setInterval(() => void goOn().then((yes) => yes && send('clock', services.clock.read())), 10_000);
  response.on('close', () => {
    clearInterval(beat);
    unsubscribe();
  });
}
