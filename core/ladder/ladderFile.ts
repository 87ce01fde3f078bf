import { type CsvLine, csvLines } from '../csv';
import { failed, ok, type Problem, type Result } from '../units';
import type { LadderStep } from './ladder';
import { lintLadder } from './lintLadder';
import { parseReading } from './parseReading';
import { sentences } from './sentences';

/** A ladder has at most so many steps. */
export const mostSteps = 200;

/** Lines of a CSV with exactly this header, without it. Numbered from 1, empty lines left out. */
export function csvRows(text: string, header: readonly string[]): Result<CsvLine[]> {
  const lines = csvLines(text);
  if (!lines) return failed({ code: 'quote', path: '', message: sentences.openQuote });
  const [first, ...rows] = lines;
  const expected = header.join(',');
  const found = first?.cells.map((c) => c.toLowerCase().replace(/\s/g, '')).join(',');
  if (found !== expected)
    return failed({
      code: 'header',
      path: 'line 1',
      message: sentences.header(JSON.stringify(first?.cells.join(',').slice(0, 60) ?? 'nothing'), expected),
    });
  const problems = rows.flatMap(({ line, cells }): Problem[] =>
    cells.length === header.length
      ? []
      : [{ code: 'cells', path: sentences.lineAt(line), message: sentences.wrongCellCount(cells.length, header.length, header.join(', ')) }],
  );
  return problems.length > 0 ? failed(...problems.slice(0, 20)) : ok(rows);
}

/** A number of ohms in a cell: a finite value above zero. */
export function ohmsCell(cell: string, path: string): Result<number> {
  const read = parseReading(cell, path);
  if (!read.ok) return read;
  if (Number.isFinite(read.value) && read.value > 0) return read;
  return failed({ code: 'number', path, message: sentences.ohmsUnread(JSON.stringify(cell.slice(0, 40))) });
}

/** `step,nominal,low,high`, ohms; checked by the lint: what comes out can be compared with. */
export function parseLadderCsv(text: string): Result<LadderStep[]> {
  const rows = csvRows(text, ['step', 'nominal', 'low', 'high']);
  if (!rows.ok) return rows;
  if (rows.value.length === 0) return failed({ code: 'empty', path: '', message: sentences.noValues });
  if (rows.value.length > mostSteps) return failed({ code: 'tooMany', path: '', message: sentences.tooManyValues(rows.value.length, mostSteps) });
  const problems: Problem[] = [];
  const steps = rows.value.map(({ line, cells }): LadderStep => {
    const path = sentences.lineAt(line);
    if (!/^\d{1,4}$/.test(cells[0]!))
      problems.push({
        code: 'number',
        path: `${path}, step`,
        message: sentences.stepUnread(JSON.stringify(cells[0]!.slice(0, 40))),
      });
    const [nominal, low, high] = ['nominal', 'low', 'high'].map((name, i) => {
      const read = ohmsCell(cells[i + 1]!, `${path}, ${name}`);
      if (!read.ok) problems.push(...read.problems);
      return read.ok ? read.value : 1;
    }) as [number, number, number];
    return { step: Number(cells[0]), nominal, low, high };
  });
  if (problems.length > 0) return failed(...problems.slice(0, 20));
  const errors = lintLadder({ steps }).filter((p) => p.severity === 'error');
  const lineOf = (path: string) =>
    path.replace(/^steps\[(\d+)\]/, (_all, i: string) => sentences.lineAt(rows.value[Number(i)]!.line)).replace('.', ', ');
  return errors.length > 0 ? failed(...errors.map(({ code, path, message }) => ({ code, path: lineOf(path), message }))) : ok(steps);
}

/** `step,p`: how often each step is found; steps that are left out are never found. @returns chances in the ladder's order, adding up to 1 */
export function parsePriorCsv(text: string, steps: readonly LadderStep[]): Result<number[]> {
  const rows = csvRows(text, ['step', 'p']);
  if (!rows.ok) return rows;
  const problems: Problem[] = [];
  const chances = steps.map(() => 0);
  for (const { line, cells } of rows.value) {
    const at = steps.findIndex((s) => String(s.step) === cells[0]);
    const p = Number(cells[1]);
    if (at < 0)
      problems.push({
        code: 'unknownStep',
        path: sentences.lineAt(line),
        message: sentences.unknownStep(
          JSON.stringify(cells[0]!.slice(0, 20)),
          steps
            .map((s) => s.step)
            .join(', ')
            .slice(0, 200),
        ),
      });
    else if (cells[1] === '' || !(p >= 0 && p <= 1e9))
      problems.push({
        code: 'chance',
        path: sentences.lineAt(line),
        message: sentences.chanceUnread(JSON.stringify(cells[1]!.slice(0, 20))),
      });
    else chances[at]! += p;
  }
  const sum = chances.reduce((a, b) => a + b, 0);
  if (problems.length === 0 && sum === 0) problems.push({ code: 'none', path: '', message: sentences.noChance });
  return problems.length > 0 ? failed(...problems.slice(0, 20)) : ok(chances.map((p) => p / sum));
}
