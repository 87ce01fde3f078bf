import { failed, ok, type Problem, readDigits, type Result } from '../units';
import { csvRows, ohmsCell } from './ladderFile';
import { parseTolerance, type Resistor } from './resistors';
import { sentences } from './sentences';

/** No drawer has more kinds of resistors. */
const mostKinds = 2000;

/** The drawer of a shop: `ohms,tolerance_percent,count,watts`. */
export function parseDrawerCsv(text: string): Result<Resistor[]> {
  const rows = csvRows(text, ['ohms', 'tolerance_percent', 'count', 'watts']);
  if (!rows.ok) return rows;
  if (rows.value.length === 0) return failed({ code: 'empty', path: '', message: sentences.drawerEmpty });
  if (rows.value.length > mostKinds) return failed({ code: 'tooMany', path: '', message: sentences.tooManyKinds(rows.value.length, mostKinds) });
  const problems: Problem[] = [];
  const take = <T>(read: Result<T>, otherwise: T): T => {
    if (read.ok) return read.value;
    problems.push(...read.problems);
    return otherwise;
  };
  const resistors = rows.value.map(({ line, cells }): Resistor => {
    const at = sentences.lineAt(line);
    const count = Number(cells[2]);
    if (!/^\d{1,6}$/.test(cells[2]!))
      problems.push({ code: 'count', path: `${at}, count`, message: sentences.count(JSON.stringify(cells[2]!.slice(0, 40))) });
    const watts = readDigits(cells[3]!)?.value ?? NaN;
    if (!(watts > 0 && watts <= 1000))
      problems.push({
        code: 'watts',
        path: `${at}, watts`,
        message: sentences.watts(JSON.stringify(cells[3]!.slice(0, 40))),
      });
    return {
      ohms: take(ohmsCell(cells[0]!, `${at}, ohms`), 1),
      tolerance: take(parseTolerance(cells[1]!, `${at}, tolerance_percent`), 0),
      count,
      watts,
    };
  });
  return problems.length > 0 ? failed(...problems.slice(0, 20)) : ok(resistors.filter((r) => r.count! > 0));
}
