/** One part of a paper, top to bottom: drawn on a page of the app and in a PDF alike. */
export type PaperBlock =
  | { kind: 'heading'; text: string }
  | { kind: 'lines'; lines: string[] }
  | { kind: 'facts'; rows: [string, string][] }
  | { kind: 'table'; head: string[]; rows: string[][]; /** Columns that hold figures stand to the right. */ figures?: number[]; total?: string[] }
  | { kind: 'signature'; path: string; width: number; height: number; under: string };
