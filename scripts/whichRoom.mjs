// `node scripts/whichRoom.mjs [SEED]`: twenty lines of app, core, server and cli, and after them, apart, the files they are from. Whoever reads a line
// should be able to name its folder; where not, names are to be changed (docs/decisions/rooms.md).
import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { root } from './prepare.mjs';

let state = Number(process.argv[2] ?? 1);
/** A linear congruential generator, enough to pick lines. */
const next = (below) => {
  state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
  return Math.floor((state / 2 ** 32) * below);
};
const files = execFileSync('git', ['ls-files', 'app', 'core', 'server', 'cli'], { cwd: root, encoding: 'utf8' })
  .split('\n')
  .filter((f) => /\.tsx?$/.test(f) && !/\.(test|testing)\.tsx?$/.test(f));
const lines = files.flatMap((file) =>
  readFileSync(join(root, file), 'utf8')
    .split('\n')
    .map((line, i) => ({ at: `${file}:${i + 1}`, line: line.trim() }))
    // Brackets and names of modules say nothing, or too much.
    .filter(({ line }) => line.length >= 40 && !/^(import|export \{|\} from)/.test(line)),
);
const picked = Array.from({ length: 20 }, () => lines[next(lines.length)]);
picked.forEach(({ line }, i) => console.log(`${String(i + 1).padStart(2)}  ${line}`));
console.log('\n'.repeat(40));
picked.forEach(({ at }, i) => console.log(`${String(i + 1).padStart(2)}  ${at}`));
