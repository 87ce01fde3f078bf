import { mkdtempSync, rmSync } from 'node:fs';
import { connect } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { serve, type ServerProcess } from './process.testing';

/** Requests as no browser makes them, written on the line byte by byte: each is answered, none with a 500, and the next one is served. */

const folder = mkdtempSync(join(tmpdir(), 'bloodstone-requests-'));
let server: ServerProcess;
let behind: ServerProcess;
const at = 'shop.example.com';
const behindPort = 4793;
const intake = { vehicle: 'Orrin Thimble', words: 'It does not start.', system: 'family:transponder-dwell', 'keys.0.tag': 'A', 'keys.0.here': 'on' };

beforeAll(async () => {
  server = await serve(join(folder, 'open'));
  await server.setUp();
  await server.post('/cases/new', { commandId: 'request-0001', ...intake });
  behind = await serve(join(folder, 'behind'), { BLOODSTONE_URL: `http://${at}`, BLOODSTONE_PROXIES: '127.0.0.1', PORT: String(behindPort) });
});
afterAll(async () => {
  await server?.kill();
  await behind?.kill();
  rmSync(folder, { recursive: true, force: true });
});

/** Sends bytes as they are; the status of the answer, or "closed". */
const raw = (port: number, text: string) =>
  new Promise<number | 'closed'>((resolve, reject) => {
    let said = '';
    const socket = connect(port, '127.0.0.1', () => socket.write(text.replaceAll('\n', '\r\n'), 'latin1'));
    socket.setTimeout(5_000, () => {
      socket.destroy();
      reject(new Error('no answer'));
    });
    socket.on('data', (chunk) => {
      said += chunk.toString('latin1');
      if (/\r\n\r\n/.test(said)) socket.destroy();
    });
    socket.on('error', () => undefined);
    socket.on('close', () => resolve(Number(/^HTTP\/1\.\d (\d+)/.exec(said)?.[1]) || 'closed'));
  });
const portOf = ({ url }: ServerProcess) => Number(/:(\d+)$/.exec(url)?.[1]);

describe('a request line or a head that no browser writes', () => {
  const host = () => `127.0.0.1:${portOf(server)}`;
  test.each<[string, () => string, number | 'closed']>([
    ['no host', () => 'GET / HTTP/1.0\n\n', 421],
    ['no host, though the version needs one', () => 'GET / HTTP/1.1\n\n', 400],
    ['a host of %00', () => 'GET /sign-in HTTP/1.1\nHost: %00\n\n', 421],
    ['a port out of range', () => 'GET /sign-in HTTP/1.1\nHost: 127.0.0.1:99999\n\n', 421],
    ['a host with a path', () => 'GET /sign-in HTTP/1.1\nHost: 127.0.0.1/x\n\n', 421],
    ['a host with a person', () => 'GET /sign-in HTTP/1.1\nHost: a@127.0.0.1\n\n', 421],
    ['another host', () => 'GET /sign-in HTTP/1.1\nHost: evil.example.com\n\n', 421],
    [
      'another host, before an act',
      () => 'POST /set-up HTTP/1.1\nHost: evil.example.com\nOrigin: http://evil.example.com\nContent-Length: 0\n\n',
      421,
    ],
    ['a broken forwarded host', () => `GET /sign-in HTTP/1.1\nHost: ${host()}\nX-Forwarded-Host: ,,[:%\n\n`, 200],
    ['a forwarded host from nobody we know', () => `GET /sign-in HTTP/1.1\nHost: ${host()}\nX-Forwarded-Host: evil.example.com\n\n`, 200],
    ['an absolute target', () => `GET http://evil.example.com/ HTTP/1.1\nHost: ${host()}\n\n`, 400],
    ['a star for a target', () => `OPTIONS * HTTP/1.1\nHost: ${host()}\n\n`, 405],
    ['a path that is no text', () => `GET /%ff%fe HTTP/1.1\nHost: ${host()}\n\n`, 400],
    ['a path cut off in the middle of a sign', () => `GET /cases/%e2%8 HTTP/1.1\nHost: ${host()}\n\n`, 400],
    ['a zero sign in a key', () => `GET /keys/%00 HTTP/1.1\nHost: ${host()}\nCookie: ${server.cookie}\n\n`, 400],
    ['a zero sign in a photo', () => `GET /cases/1/photos/%00 HTTP/1.1\nHost: ${host()}\nCookie: ${server.cookie}\n\n`, 400],
    ['a zero sign in a search', () => `GET /find?q=%00 HTTP/1.1\nHost: ${host()}\nCookie: ${server.cookie}\n\n`, 400],
    ['a line break in a path', () => `GET /cases/%0d%0aX-Evil:1 HTTP/1.1\nHost: ${host()}\n\n`, 400],
    ['two slashes', () => `GET //evil.example.com/ HTTP/1.1\nHost: ${host()}\nCookie: ${server.cookie}\n\n`, 404],
    ['an address of 9 kB', () => `GET /find?q=${'x'.repeat(9_000)} HTTP/1.1\nHost: ${host()}\n\n`, 400],
    ['a method nobody knows', () => `BREW / HTTP/1.1\nHost: ${host()}\n\n`, 400],
    ['TRACE', () => `TRACE / HTTP/1.1\nHost: ${host()}\nOrigin: http://${host()}\nContent-Length: 0\n\n`, 405],
    ['a head of 40 kB', () => `GET / HTTP/1.1\nHost: ${host()}\nX: ${'x'.repeat(40_000)}\n\n`, 431],
  ])('%s', async (_what, text, expected) => {
    expect(await raw(portOf(server), text())).toBe(expected);
    expect((await server.get('/cases')).status).toBe(200);
  });
});

describe('a request that is answered before its body was read', () => {
  /** Two requests on one connection, one after the other: their statuses. */
  const both = (first: string) =>
    new Promise<string[]>((resolve) => {
      let said = '';
      const found = () => said.match(/HTTP\/1\.1 \d+/g) ?? [];
      const then = `GET /healthz HTTP/1.1\r\nHost: 127.0.0.1:${portOf(server)}\r\n\r\n`;
      const socket = connect(portOf(server), '127.0.0.1', () => socket.write(first + then, 'latin1'));
      socket.setTimeout(10_000, () => socket.destroy());
      socket.on('data', (chunk) => {
        said += chunk.toString('latin1');
        if (found().length >= 2) socket.destroy();
      });
      socket.on('error', () => undefined);
      socket.on('close', () => resolve(found()));
    });
  test.each([
    ['nothing is taken there', '/find.data', true, 405],
    ['nobody is signed in', '/cases/1/photos.data', false, 401],
    ['too much', '/sign-in', false, 413],
  ])('%s: the next one on its connection is answered', async (_what, path, signedIn, status) => {
    for (const size of [100, 100_000, 200_000, 250_000]) {
      const body = 'x'.repeat(path === '/sign-in' ? size + 20_000 : size);
      const head = `Host: 127.0.0.1:${portOf(server)}\r\nOrigin: ${server.url}\r\n${signedIn ? `Cookie: ${server.cookie}\r\n` : ''}`;
      expect([
        size,
        ...(await both(`POST ${path} HTTP/1.1\r\n${head}Content-Type: application/json\r\nContent-Length: ${body.length}\r\n\r\n${body}`)),
      ]).toEqual([size, `HTTP/1.1 ${status}`, 'HTTP/1.1 200']);
    }
  });
});

describe('behind a proxy', () => {
  const ask = (head: string) => raw(behindPort, `GET /set-up HTTP/1.1\n${head}\n\n`);
  test.each([
    ['the host that is set', `Host: ${at}`, 200],
    ['the proxy says the host', `Host: 127.0.0.1:4600\nX-Forwarded-Host: ${at}`, 200],
    ['another host, before set-up', 'Host: evil.example.com', 421],
    ['the proxy says another host', `Host: ${at}\nX-Forwarded-Host: evil.example.com`, 421],
    ['an address in digits', 'Host: 127.0.0.1', 421],
  ])('%s', async (_what, head, status) => expect(await ask(head)).toBe(status));
});

describe('what an open page hears', () => {
  /** Reads the stream until it ends, or for so long. */
  const hear = async (cookie: string, signal: AbortSignal) => {
    const answer = await fetch(`${server.url}/live`, { headers: { Cookie: cookie }, signal });
    if (answer.status !== 200) return { status: answer.status, ended: Promise.resolve('never begun' as const) };
    const ended = (async () => {
      try {
        for await (const _chunk of answer.body!);
        return 'ended' as const;
      } catch {
        return 'still going' as const;
      }
    })();
    return { status: 200, ended };
  };
  test('ends with the session', async () => {
    const gone = new AbortController();
    const stop = setTimeout(() => gone.abort(), 8_000);
    const { status, ended } = await hear(server.cookie, gone.signal);
    expect(status).toBe(200);
    await server.post('/session', { intent: 'signOut' });
    expect(await ended).toBe('ended');
    clearTimeout(stop);
    expect((await hear(server.cookie, gone.signal)).status).toBe(401);
  });
});
