import Papa from 'papaparse';

/** A line of a table as text: its number, from 1, and its cells without space around them. */
export interface CsvLine {
  line: number;
  cells: string[];
}

/**
 * Lines of a CSV (RFC 4180, quotes and all), empty ones left out; a semicolon parts where the first line has one, else a comma.
 * @returns null where a quotation mark is never closed
 */
export function csvLines(text: string): CsvLine[] | null {
  const plain = text.replace(/^\ufeff/, '').replace(/\r\n|\r/g, '\n');
  const delimiter = /\S[^\n]*/.exec(plain)?.[0].includes(';') ? ';' : ',';
  const { data, errors } = Papa.parse<string[]>(plain, { delimiter, newline: '\n' });
  if (errors.length > 0) return null;
  let line = 1;
  return data.flatMap((row) => {
    const at = line;
    line += row.reduce((n, cell) => n + cell.split('\n').length - 1, 1);
    const cells = row.map((cell) => cell.trim());
    return cells.join('') === '' && cells.length === 1 ? [] : [{ line: at, cells }];
  });
}
