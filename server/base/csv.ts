import { stringify } from 'csv-stringify/sync';

/** A table as CSV for spreadsheets: a mark so that they read it as UTF-8, and no cell that one of them would run as a formula. */
export const csv = (columns: string[], rows: (string | number | null)[][]): string =>
  stringify([columns, ...rows], { bom: true, escape_formulas: true, quoted_match: /[\r\n]/, record_delimiter: 'windows' });

export const csvResponse = (name: string, text: string): Response =>
  new Response(text, {
    headers: { 'Content-Type': 'text/csv; charset=utf-8', 'Content-Disposition': `attachment; filename="${name}"`, 'Cache-Control': 'no-store' },
  });
