// `npm run bench -- week`: a shop's week in fast motion (scripts/week.ts): what the server holds after each day, and what each table grows by.
import { spawnSync } from 'node:child_process';
import { root } from './prepare.mjs';

const [days, casesADay] = [7, 40];
const workDays = 300;
/** The most that what the server holds may grow from the evening of the second day to that of the last, as a share; the first one fills what is kept in memory. */
const growthGoal = 0.1;

export function weekSection() {
  const { status, stdout } = spawnSync(process.execPath, ['--import', 'tsx', 'scripts/week.ts', String(days), String(casesADay)], {
    cwd: root,
    encoding: 'utf8',
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  if (status !== 0) process.exit(1);
  const { each, tables } = JSON.parse(stdout);
  const [second, last] = [each[1], each.at(-1)];
  const growth = last.heapMb / second.heapMb - 1;
  const kinds = [...new Set(each.flatMap((d) => Object.keys(d.resources)))].sort();
  const more = kinds.filter((kind) => (last.resources[kind] ?? 0) > (second.resources[kind] ?? 0));
  const cases = tables.case_file.rows;
  const grown = Object.entries(tables)
    .map(([name, { rows, bytes }]) => ({ name, rows: rows / cases, bytes: bytes / cases }))
    .filter(({ rows, name }) => rows > 0.5 && name !== 'document')
    .sort((a, b) => b.bytes - a.bytes);
  const total = grown.reduce((sum, t) => sum + t.bytes, 0);
  const perYear = (bytes) => ((bytes * casesADay * workDays) / 1e6).toFixed(0);
  console.log(
    `After ${days} days: ${last.heapMb.toFixed(0)} MB held (${(growth * 100).toFixed(1)} % more than after two), ${(total / 1024).toFixed(1)} kB a case`,
  );
  return {
    missed: [
      ...(growth > growthGoal ? [`memory of a week: ${(growth * 100).toFixed(0)} % more`] : []),
      ...more.map((kind) => `left over after a week: ${kind}`),
    ],
    markdown: `## A week

${casesADay} cases a day for ${days} days from intake to hand-over (${cases} cases; one run, two tests, every key tried; ten pages with live news that come and go each day), with a clock set by hand, on the embedded database. What the server holds at the end of
each day, after it has thrown away what nothing holds; goal: at most ${growthGoal * 100} % more at the end than after the second day (${(growth * 100).toFixed(1)} %), and nothing more that is open.

| day | held, MB | process, MB | ${kinds.join(' | ')} |
| --- | ---: | ---: | ${kinds.map(() => '---:').join(' | ')} |
${each.map((d, i) => `| ${i + 1} | ${d.heapMb.toFixed(1)} | ${d.residentMb.toFixed(0)} | ${kinds.map((kind) => d.resources[kind] ?? 0).join(' | ')} |`).join('\n')}

Tables that grow, with their indexes; a year is ${workDays} such days, ${(casesADay * workDays).toLocaleString('en-US')} cases. Photos and captures come on top. What becomes of them is in [scale.md](scale.md).

| table | rows a case | bytes a case | MB a year |
| --- | ---: | ---: | ---: |
${grown.map((t) => `| \`${t.name}\` | ${t.rows.toFixed(1)} | ${t.bytes.toFixed(0)} | ${perYear(t.bytes)} |`).join('\n')}
| together | | ${total.toFixed(0)} | ${perYear(total)} |
`,
  };
}
