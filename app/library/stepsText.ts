/** The steps of a ladder as they are typed: text, which is what is read and sent, and its cells. */
export const columns = ['step', 'nominal', 'low', 'high'] as const;

/** Cells as they are typed; null where the text is no table of steps, and is mended as text. */
export function cellsOf(text: string): string[][] | null {
  const [header = '', ...lines] = text
    .replace(/^\ufeff/, '')
    .split(/\r\n|\r|\n/)
    .filter((line) => line.trim() !== '');
  const parting = header.includes(';') ? ';' : ',';
  const parted = (line: string) => line.split(parting).map((cell) => cell.trim());
  if (parted(header.toLowerCase()).join() !== columns.join()) return null;
  const rows = lines.map(parted);
  return rows.every((row) => row.length === columns.length) ? rows : null;
}

/** A table as the text that is read and sent. Semicolons part, so that a decimal comma stays one; rows at the end with nothing in them are left out. */
export function textOf(rows: readonly (readonly string[])[]): string {
  const last = rows.findLastIndex((row) => row.some((cell) => cell !== ''));
  return [columns, ...rows.slice(0, last + 1)].map((row) => row.map((cell) => cell.replace(/[;\r\n]/g, ' ')).join(';')).join('\n');
}
