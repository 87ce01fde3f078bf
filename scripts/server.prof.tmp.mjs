// A built server for the scripts: started on a folder, with somebody of the demo signed in.
import { spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';

export async function start(folder, env = {}) {
  const child = spawn(process.execPath, ['--cpu-prof','--cpu-prof-dir=/tmp/prof','bin/serve.mjs'], {
    env: { ...process.env, PORT: '0', BLOODSTONE_DATA: folder, BLOODSTONE_DEMO: '1', LOG_LEVEL: 'error', ...env },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const url = await new Promise((resolve, reject) => {
    child.stdout.on('data', (chunk) => {
      const ready = /ready at (http:\S+)/.exec(String(chunk));
      if (ready) resolve(ready[1]);
    });
    child.once('exit', (code) => reject(new Error(`The server ended with ${code}`)));
  });
  // However the script ends, its server does not outlive it.
  process.once('exit', () => child.kill());
  return {
    url,
    pid: child.pid,
    /** The cookie of somebody whom the sign-in page of the demo names. */
    async comeIn(name) {
      const page = await (await fetch(`${url}/sign-in`)).text();
      const password = new RegExp(`name="name" value="${name}"/><input type="hidden" name="password" value="([^"]+)"`).exec(page)?.[1];
      if (!password) throw new Error(`The sign-in page does not offer to come in as ${name}`);
      const answer = await fetch(`${url}/sign-in`, {
        method: 'POST',
        headers: { Origin: url },
        body: new URLSearchParams({ name, password }),
        redirect: 'manual',
      });
      return answer.headers.get('set-cookie').split(';')[0];
    },
    /** Opens a case of the commonest system type, without a bay. */
    async openCase(cookie, vehicle) {
      const fields = { intent: 'open', commandId: randomUUID(), vehicle, words: 'It does not start.', system: 'family:transponder-dwell' };
      const answer = await fetch(`${url}/cases/new`, {
        method: 'POST',
        headers: { Origin: url, Cookie: cookie },
        body: new URLSearchParams({ ...fields, 'keys.0.tag': 'A', 'keys.0.here': 'on' }),
        redirect: 'manual',
      });
      if (answer.status !== 302) throw new Error(`A case could not be opened: ${answer.status}`);
    },
    async stop() {
      const gone = new Promise((resolve) => child.once('exit', resolve));
      child.kill('SIGTERM');
      await gone;
    },
  };
}
