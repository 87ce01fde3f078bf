import TextField from '@mui/material/TextField';
import { useRef, useState } from 'react';
import type { Result } from '../../core/units';
import { cellsOf, textOf } from './cells';
import { Choice } from './Choice';
import styles from './TypedTable.module.css';

/** With more rows than this a table is slow to type in, and is shown as text. */
const mostRows = 300;

/**
 * Rows of numbers, typed cell by cell or as CSV. What is wrong is said as it is typed.
 * @param columns by the names of the CSV's header, with their headings
 * @param read the text as it is understood so far
 * @param fine says what was understood
 */
export function TypedTable<T>({
  label,
  columns,
  text,
  put,
  read,
  fine,
  disabled = false,
  words = [],
}: {
  label: string;
  columns: Readonly<Record<string, string>>;
  text: string;
  put: (text: string) => void;
  read: Result<T>;
  fine: (value: T) => string;
  disabled?: boolean;
  /** Columns that hold words; the others hold numbers. */
  words?: readonly string[];
}) {
  const [inTable, setInTable] = useState(true);
  const names = Object.keys(columns);
  const cells = cellsOf(text, names);
  const shown = inTable && cells !== null && cells.length <= mostRows ? cells : null;
  const problems = read.ok ? [] : read.problems.slice(0, 3).map((p) => [p.path, p.message].filter(Boolean).join(': '));
  return (
    <div className={styles.typed}>
      <fieldset className={styles.choices}>
        <legend className="label">{label}</legend>
        {([true, false] as const).map((table) => (
          <Choice key={String(table)} type="radio" name={label} value={String(table)} checked={inTable === table} onChange={() => setInTable(table)}>
            {table ? 'as a table' : 'as CSV'}
          </Choice>
        ))}
      </fieldset>
      {shown ? (
        <div className={styles.wide}>
          <Cells label={label} columns={columns} rows={shown} put={(rows) => put(textOf(rows, names))} disabled={disabled} words={words} />
        </div>
      ) : (
        <TextField
          label={`${label}, as CSV`}
          value={text}
          onChange={(e) => {
            // Whoever mends text goes on as text: it must not turn into a table under the fingers.
            setInTable(false);
            put(e.target.value);
          }}
          multiline
          minRows={6}
          maxRows={20}
          disabled={disabled}
          helperText={`${names.join(',')}; a line for each.`}
          slotProps={{ htmlInput: { maxLength: 60_000, spellCheck: false, className: 'mono' } }}
        />
      )}
      {inTable && cells === null && <p className="quiet">Not a table yet: every line needs {names.length} cells. Fix it as text.</p>}
      {cells?.length !== 0 && (
        <p className={read.ok ? 'quiet' : styles.problem} role="status">
          {read.ok
            ? fine(read.value)
            : problems.map((say) => (shown ? say.replace(/^line (\d+)/, (_line, n: string) => `row ${Number(n) - 1}`) : say)).join(' ')}
        </p>
      )}
    </div>
  );
}

/** Enter goes to the next row; typing into the last one, which is empty, adds it. */
function Cells({
  label,
  columns,
  rows,
  put,
  disabled,
  words,
}: {
  label: string;
  columns: Readonly<Record<string, string>>;
  rows: string[][];
  put: (rows: string[][]) => void;
  disabled: boolean;
  words: readonly string[];
}) {
  const table = useRef<HTMLTableElement>(null);
  const names = Object.keys(columns);
  const shown = disabled ? rows : [...rows, names.map(() => '')];
  const set = (at: number, column: number, cell: string) =>
    put(
      shown
        .map((row, i) => (i === at ? row.map((old, c) => (c === column ? cell : old)) : row))
        .filter((row, i) => i < rows.length || row.some(Boolean)),
    );
  const focus = (at: number) => table.current?.querySelectorAll('tbody tr')[at]?.querySelector('input')?.focus();
  return (
    <table ref={table} className={styles.table} data-words={words.length > 0 || undefined} aria-label={label}>
      <thead>
        <tr>
          {Object.values(columns).map((heading) => (
            <th key={heading} scope="col">
              {heading}
            </th>
          ))}
          <td />
        </tr>
      </thead>
      <tbody>
        {shown.map((row, at) => (
          <tr key={at}>
            {row.map((cell, c) => (
              <td key={c} data-words={words.includes(names[c]!) || undefined}>
                <input
                  className="mono"
                  inputMode={words.includes(names[c]!) ? 'text' : 'decimal'}
                  aria-label={`Row ${at + 1}, ${names[c]!.replaceAll('_', ' ')}`}
                  value={cell}
                  maxLength={words.includes(names[c]!) ? 120 : 20}
                  disabled={disabled}
                  onChange={(event) => set(at, c, event.target.value)}
                  onKeyDown={(event) => {
                    if (event.key !== 'Enter') return;
                    event.preventDefault();
                    focus(at + 1);
                  }}
                />
              </td>
            ))}
            <td>
              {at < rows.length && !disabled && (
                <button type="button" aria-label={`Remove row ${at + 1}`} onClick={() => put(rows.filter((_row, i) => i !== at))}>
                  ×
                </button>
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
