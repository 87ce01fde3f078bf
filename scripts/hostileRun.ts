// The run of `npm run hostile -- --seed N --size N`: seeded hostile requests and files against the built server on a folder of its own. Ends with 1 when an answer was
// 500 or above or took more than 5 s of the server's work, or when the server's memory grew over the last half of the run.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { hostile } from '../server/http/hostile.testing';
import { serve, shortIntake } from '../server/http/process.testing';

const { values } = parseArgs({ options: { seed: { type: 'string', default: '1' }, size: { type: 'string', default: '100000' } } });
const [seed, size] = [Number(values.seed), Number(values.size)];
if (!Number.isInteger(seed) || !Number.isInteger(size) || size < 10 || size > 10_000_000) {
  console.error('Usage: npm run hostile -- [--seed N] [--size N]; whole numbers, size from 10 to 10000000.');
  process.exit(2);
}
/** Memory may move this much from one tenth of the run to another without growing, megabytes. */
const movesMb = 60;

const data = mkdtempSync(join(tmpdir(), 'bloodstone-hostile-'));
const server = await serve(data);
try {
  await server.setUp();
  await server.post('/cases/new', { commandId: 'hostile-first', ...shortIntake });
  const from = performance.now();
  const report = await hostile(server, seed, size, (done) => console.log(`${done} of ${size}, ${Math.round((performance.now() - from) / 1000)} s`));
  const half = report.rssMb.slice(Math.floor(report.rssMb.length / 2));
  const grown = half.at(-1)! - half[0]!;
  console.log(`seed ${seed}, ${report.sent} requests; by status ${JSON.stringify(report.byStatus)}`);
  console.log(`slowest ${report.slowestMs} ms: ${report.slowest}`);
  console.log(`memory at each tenth, MB: ${report.rssMb.join(', ')}; over the last half ${grown >= 0 ? '+' : ''}${grown}`);
  for (const failed of report.failed.slice(0, 50)) console.log(failed);
  const wrong = [
    report.failed.length > 0 && `${report.failed.length} answers of 500 and above, or none`,
    report.slowestMs > 5000 && 'an answer over 5 s of work',
    grown > movesMb && `memory grew by ${grown} MB over the last half`,
  ].filter(Boolean);
  console.log(wrong.length === 0 ? 'Held.' : `Did not hold: ${wrong.join('; ')}.`);
  process.exitCode = wrong.length === 0 ? 0 : 1;
} finally {
  await server.kill();
  rmSync(data, { recursive: true, force: true });
}
