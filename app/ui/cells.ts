import { csvLines } from '../../core/csv';

/** A table that is kept and sent as text: cells as they are typed; null where the text is no such table, and is mended as text. */
export function cellsOf(text: string, columns: readonly string[]): string[][] | null {
  const [header, ...lines] = csvLines(text) ?? [];
  if (header?.cells.map((cell) => cell.toLowerCase()).join() !== columns.join()) return null;
  return lines.every(({ cells }) => cells.length === columns.length) ? lines.map(({ cells }) => cells) : null;
}

/** The cells as text. Semicolons part, so that a decimal comma stays one; rows at the end with nothing in them are left out. */
export function textOf(rows: readonly (readonly string[])[], columns: readonly string[]): string {
  const last = rows.findLastIndex((row) => row.some((cell) => cell !== ''));
  return [columns, ...rows.slice(0, last + 1)].map((row) => row.map((cell) => cell.replace(/[;\r\n]/g, ' ')).join(';')).join('\n');
}
