import { readFileSync } from 'node:fs';
import { connect } from 'node:net';
import { strToU8, zipSync } from 'fflate';
import { generator } from '../../core/units';
import { type ServerProcess, workedMs } from './process.testing';
import { pages } from '../acts/rights';

/** Seeded hostile requests and files against the real server (`npm run hostile`; a short run stands in the system tests). The same seed asks the same. */

export interface HostileReport {
  sent: number;
  byStatus: Record<string, number>;
  /** Answers of 500 and above: what was asked, and what came. */
  failed: string[];
  /** Work of the server's processes during the answer that took the most of it, ms of a processor; what stood beside it counts too. */
  slowestMs: number;
  slowest: string;
  /** Memory of the server at each tenth of the run, megabytes. */
  rssMb: number[];
}

interface Draw {
  below(n: number): number;
  of<T>(list: readonly T[]): T;
  chance(p: number): boolean;
}
function drawing(seed: number): Draw {
  const next = generator(seed);
  const below = (n: number) => Math.floor(next() * n);
  return { below, of: (list) => list[below(list.length)]!, chance: (p) => next() < p };
}

const texts = [
  '',
  ' ',
  'x',
  'x'.repeat(300),
  'x'.repeat(70_000),
  '\u0000',
  '%00',
  '\ud800',
  '\u202e',
  'a\nb\r\nc',
  "' or 1=1 --",
  '"; drop table case_file; --',
  '<script>alert(1)</script>',
  '${7*7}{{7*7}}',
  '../../etc/passwd',
  '__proto__',
  'constructor',
  'NaN',
  'Infinity',
  '-1',
  '0',
  '1',
  '4',
  '1e309',
  '9'.repeat(400),
  '118,400',
  '1.180.000,5',
  '10:75',
  '2026-02-31',
  'A',
  'family:transponder-dwell',
  'profile:veskar-ledger',
  'tarn-gantry',
  'odometer',
  'mi',
  'null',
  'true',
  '[]',
  '{}',
  'ＡＢＣ',
  '💥'.repeat(20),
];
const names = [
  ...['name', 'words', 'system', 'vehicle', 'kind', 'value', 'unit', 'counter', 'phase', 'key', 'tag', 'note', 'reason', 'test', 'outcome', 'fault'],
  ...['case', 'raw', 'values', 'seen', 'steps', 'from', 'title', 'source', 'id', 'password', 'again', 'pin', 'present', 'to', 'person', 'role'],
  ...[
    'keys.0.tag',
    'keys.0.told.turns',
    'keys.99999.tag',
    'condition.batteryVolts',
    'counters.0.value',
    'units.clock',
    'changed.0.on',
    'a.b.c.d.e.f.g',
  ],
  ...[
    '__proto__.get',
    'constructor.prototype.x',
    'x[0][1]',
    'equipment',
    'bay',
    'results.A.turns',
    'lit',
    'lengthS',
    'moment',
    'resistors',
    'answers.engine',
  ],
];

function value(draw: Draw, depth = 0): unknown {
  switch (draw.below(depth > 3 ? 3 : 9)) {
    case 0:
    case 1:
      return draw.of(texts);
    case 2:
      return draw.of([0, 1, -1, 4, 1.5, 1e308, -0, 2 ** 53, null, true, false]);
    case 3:
      return Array.from({ length: draw.of([0, 1, 3, 40]) }, () => value(draw, depth + 1));
    case 4:
      return Array.from({ length: draw.of([10, 2000]) }, () => draw.of([0, null, '', {}]));
    default:
      return Object.fromEntries(Array.from({ length: draw.below(6) }, () => [draw.of(names).split('.')[0]!, value(draw, depth + 1)]));
  }
}

/** Never drawn with a session: they end it, and what follows would be asked by nobody. */
const endsSession = new Set(['signOut', 'lock', 'endSession', 'password', 'setRole', 'lockPerson', 'endPersonSession', 'pin']);

/** An address of a page of the app, its parts filled in with what belongs there or with what does not. */
function addressOf(draw: Draw, pattern: string): string {
  const path = pattern.replace(/:\w+/g, (name) =>
    draw.chance(0.7)
      ? draw.of(['1', 'A', 'shop-x', 'veskar-twelve', 'transponder-dwell', 'tarn-gantry'])
      : encodeURIComponent(
          draw
            .of(texts)
            .slice(0, 200)
            .replace(/\p{Surrogate}/gu, '?'),
        ) || `%0${name.length % 10}`,
  );
  const query = Array.from(
    { length: draw.of([0, 0, 1, 3, 60]) },
    () =>
      `${draw.of(['q', 'if', 'do', 'key', 'case', 'sort', 'state', 'after', 'to', 'call', 'draft', '_routes'])}=${encodeURIComponent(
        draw
          .of(texts)
          .slice(0, 120)
          .replace(/\p{Surrogate}/gu, '?'),
      )}`,
  );
  return path + (draw.chance(0.2) ? '.data' : '') + (query.length > 0 ? `?${query.join('&')}` : '');
}

/** A file that may be anything: noise, half a ZIP, a ZIP of nonsense, YAML with a slip, a picture's first bytes. */
function file(draw: Draw): Uint8Array {
  const noise = (n: number) => Uint8Array.from({ length: n }, () => draw.below(256));
  switch (draw.below(7)) {
    case 0:
      return noise(draw.of([0, 1, 300, 20_000]));
    case 1: {
      const zip = zipSync({ 'case.json': strToU8(JSON.stringify(value(draw)) ?? '0') });
      return zip.slice(0, draw.below(zip.length + 1));
    }
    case 2: {
      const zip = zipSync({ [draw.of(['case.json', '../x', 'photos/a.jpg', ''])]: strToU8(JSON.stringify(value(draw)) ?? '0') });
      if (zip.length > 0) zip[draw.below(zip.length)]! ^= 1 << draw.below(8);
      return zip;
    }
    case 3:
      return strToU8(
        `kind: ${draw.of(['profile', 'ladder', 'family', 'x'])}\nid: ${draw.of(['a', '1', '[', '&a *a'])}\nvalues: ${JSON.stringify(value(draw))}`,
      );
    case 4:
      return strToU8(`${draw.of(['? ', '- ', '[', '{a: ', '&a [*a,', '!x ', '"'])}`.repeat(draw.of([1, 50, 5000])));
    case 5:
      return Uint8Array.from([0xff, 0xd8, 0xff, 0xe0, ...noise(draw.of([0, 40, 4000]))]);
    default:
      return Uint8Array.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a, ...noise(draw.of([0, 40, 4000]))]);
  }
}

interface Asked {
  say: string;
  send(server: ServerProcess): Promise<number>;
}

/** An answer that does not come within this is none. */
const limitMs = 120_000;

function next(draw: Draw): Asked {
  const entries = Object.entries(pages) as [string, { acts?: Record<string, unknown> }][];
  const [pattern, page] = draw.of(entries);
  const signedIn = draw.chance(0.8);
  const path = addressOf(draw, pattern);
  const ask = (say: string, init: RequestInit): Asked => ({
    say: `${init.method ?? 'GET'} ${path.slice(0, 160)} ${say}`,
    async send(server) {
      const headers = { Origin: server.url, ...(signedIn ? { Cookie: server.cookie } : {}), ...(init.headers as Record<string, string> | undefined) };
      const answer = await fetch(server.url + path, { ...init, headers, redirect: 'manual', signal: AbortSignal.timeout(limitMs) });
      // An event stream has no end; its first byte is its answer.
      if (answer.headers.get('content-type')?.startsWith('text/event-stream')) await answer.body?.cancel();
      else await answer.arrayBuffer();
      return answer.status;
    },
  });
  const kind = draw.below(10);
  if (kind < 3) return ask('', {});
  if (kind === 3) return onTheWire(draw, path);
  const intents = Object.keys(page.acts ?? {}).filter((i) => !signedIn || !endsSession.has(i));
  const intent = draw.chance(0.9) && intents.length > 0 ? draw.of(intents) : String(draw.of(texts).slice(0, 50));
  const commandId = draw.chance(0.9) ? `hostile-${draw.below(1e9)}` : draw.of(texts).slice(0, 90);
  if (endsSession.has(intent) && signedIn) return ask('', {});
  if (kind < 6) {
    const body = new URLSearchParams({ intent, commandId });
    for (let i = draw.below(12); i > 0; i -= 1) body.append(draw.of(names), draw.of(texts));
    return ask(`form ${String(body).slice(0, 200)}`, { method: 'POST', body });
  }
  if (kind < 9) {
    const whole = draw.chance(0.9)
      ? { intent, commandId, ...Object.fromEntries(Array.from({ length: draw.below(8) }, () => [draw.of(names).split('.')[0]!, value(draw)])) }
      : value(draw);
    let body = JSON.stringify(whole) ?? '';
    if (draw.chance(0.1)) body = body.slice(0, draw.below(body.length + 1));
    return ask(`json ${body.slice(0, 200)}`, {
      method: draw.of(['POST', 'POST', 'PUT', 'DELETE', 'PATCH']),
      body,
      headers: { 'Content-Type': 'application/json' },
    });
  }
  const form = new FormData();
  form.append('intent', intent);
  form.append('commandId', commandId);
  if (draw.chance(0.5)) form.append('caption', draw.of(texts).slice(0, 100));
  form.append(draw.chance(0.9) ? 'file' : draw.of(names), new Blob([file(draw) as BlobPart]), draw.of(['a.zip', 'b.yaml', '../../c', 'd.jpg']));
  return ask('file', { method: 'POST', body: form });
}

/** A request as no browser writes it, byte by byte. */
function onTheWire(draw: Draw, path: string): Asked {
  const host = draw.of(['HOST', 'HOST', '%00', 'evil.example.com', 'HOST:99999999', '']);
  const target = draw.of([
    path.replace(/[^\x21-\x7e]/g, '%20'),
    `http://evil.example.com${path.slice(0, 40)}`,
    '*',
    '//',
    '/%',
    '/%ff%fe',
    '/..%2f..%2f',
  ]);
  const head = draw.of([
    '',
    'X-Forwarded-Host: ][\r\n',
    'X-Forwarded-Proto: \u0001\r\n',
    'Content-Length: 5\r\n',
    'Transfer-Encoding: chunked\r\n',
    `Cookie: ${'a=b;'.repeat(500)}\r\n`,
  ]);
  const method = draw.of(['GET', 'POST', 'HEAD', 'OPTIONS', 'TRACE', 'X']);
  return {
    say: `wire ${method} ${target.slice(0, 80)} ${head.slice(0, 40)}`,
    send: (server) =>
      new Promise((resolve, reject) => {
        const { port, host: own } = new URL(server.url);
        let said = '';
        const text = `${method} ${target.slice(0, 6000)} HTTP/1.${draw.of([0, 1])}\r\nHost: ${host.replace('HOST', own)}\r\n${head}\r\n${head.startsWith('Content') ? 'a=b&c' : head.startsWith('Transfer') ? '0\r\n\r\n' : ''}`;
        const socket = connect(Number(port), '127.0.0.1', () => socket.write(text, 'latin1'));
        socket.setTimeout(limitMs, () => {
          socket.destroy();
          reject(new Error('no answer'));
        });
        socket.on('data', (chunk) => {
          said += chunk.toString('latin1');
          if (said.includes('\r\n\r\n')) socket.destroy();
        });
        socket.on('error', () => undefined);
        // A connection that is just closed is an answer to what is no request.
        socket.on('close', () => resolve(Number(/^HTTP\/1\.\d (\d+)/.exec(said)?.[1] ?? 400)));
      }),
  };
}

/**
 * Asks a server that is set up and has a case, four at a time.
 * @param size how many requests
 * @param tell is called at each tenth
 */
export async function hostile(server: ServerProcess, seed: number, size: number, tell: (done: number) => void = () => {}): Promise<HostileReport> {
  const draw = drawing(seed);
  const report: HostileReport = { sent: 0, byStatus: {}, failed: [], slowestMs: 0, slowest: '', rssMb: [] };
  const rss = () => Math.round(Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${server.child.pid}/status`, 'utf8'))![1]) / 1024);
  const tenth = Math.max(1, Math.floor(size / 10));
  const work = async () => {
    while (report.sent < size) {
      report.sent += 1;
      if (report.sent % tenth === 0) {
        report.rssMb.push(rss());
        tell(report.sent);
      }
      const asked = next(draw);
      const from = workedMs(server.child.pid!);
      const status = await asked.send(server).catch((error: unknown) => `no answer: ${String((error as Error).cause ?? error)}`);
      const took = workedMs(server.child.pid!) - from;
      report.byStatus[status] = (report.byStatus[status] ?? 0) + 1;
      if (typeof status === 'string' || status >= 500) report.failed.push(`${status}: ${asked.say}`);
      if (took > report.slowestMs) [report.slowestMs, report.slowest] = [Math.round(took), asked.say];
    }
  };
  await Promise.all(Array.from({ length: 4 }, work));
  return report;
}
