import { useRef } from 'react';
import { mostSteps } from '../../core/ladder';
import styles from './library.module.css';
import { columns } from './stepsText';

const headings = { step: 'Step', nominal: 'Nominal', low: 'From', high: 'To' };

/** Steps typed cell by cell; Enter goes to the next row, and a row is added by typing into the last one. */
export function StepsTable({ rows, put }: { rows: string[][]; put: (rows: string[][]) => void }) {
  const table = useRef<HTMLTableElement>(null);
  const shown = rows.length < mostSteps ? [...rows, columns.map(() => '')] : rows;
  const set = (at: number, column: number, cell: string) =>
    put(
      shown
        .map((row, i) => (i === at ? row.map((old, c) => (c === column ? cell : old)) : row))
        .filter((row, i) => i < rows.length || row.some(Boolean)),
    );
  const focus = (at: number) => table.current?.querySelectorAll('tbody tr')[at]?.querySelector('input')?.focus();
  return (
    <table ref={table} className={styles.steps} aria-label="Steps">
      <thead>
        <tr>
          {columns.map((name) => (
            <th key={name} scope="col">
              {headings[name]}
            </th>
          ))}
          <td />
        </tr>
      </thead>
      <tbody>
        {shown.map((row, at) => (
          <tr key={at}>
            {row.map((cell, c) => (
              <td key={c}>
                <input
                  className="mono"
                  inputMode="decimal"
                  aria-label={`Row ${at + 1}, ${columns[c]!}`}
                  value={cell}
                  maxLength={20}
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
              {at < rows.length && (
                <button type="button" aria-label={`Take row ${at + 1} out`} onClick={() => put(rows.filter((_row, i) => i !== at))}>
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
