import Button from '@mui/material/Button';
import type { KeyboardEvent, ReactNode } from 'react';
import { groupsOfFour } from '../../core/copycheck';
import { Choice } from '../ui/Choice';
import styles from './copycheck.module.css';
import type { TwoEntries } from './useTwoEntries';

/** One of the two entries, in groups of four, with what can't be right in it. */
export function EntryField({
  e,
  label,
  count,
  focus,
  children,
}: {
  e: TwoEntries;
  label: string;
  count: string;
  focus: boolean;
  children?: ReactNode;
}) {
  const { stage, form, reveal, setReveal, entry, go } = e;
  return (
    <>
      <textarea
        key={stage}
        className={styles.field}
        data-masked={!reveal || undefined}
        aria-label={label}
        value={e.now}
        rows={2}
        maxLength={20_000}
        autoComplete="off"
        autoCorrect="off"
        autoCapitalize="characters"
        spellCheck={false}
        autoFocus={focus}
        inputMode={form.alphabet === 'decimal' ? 'numeric' : 'text'}
        onChange={(event) => e.typed(event.target.value)}
        onKeyDown={(event: KeyboardEvent) => {
          if (event.key !== 'Enter') return;
          event.preventDefault();
          go();
        }}
      />
      <p className={styles.groups} aria-hidden="true">
        {groupsOfFour(entry.text)
          .slice(-8)
          .map((g, i) => (
            <span key={i} className="mono">
              {reveal ? g : '•'.repeat(g.length)}
            </span>
          ))}
      </p>
      <p role="status">{count}</p>
      {entry.text !== '' &&
        entry.problems
          .filter((p) => p.code !== 'length' || entry.text.length > (form.length ?? Infinity))
          .slice(0, 3)
          .map((p) => (
            <p key={p.path + p.code} className={styles.problem}>
              {[p.path, p.message].filter(Boolean).join(': ')}
            </p>
          ))}
      <div className={styles.row}>
        <Button variant="contained" size="large" disabled={entry.text === ''} onClick={go}>
          {stage === 'first' ? 'Hide it, type the second' : 'Compare'}
        </Button>
        <Choice type="checkbox" name="reveal" checked={reveal} onChange={(event) => setReveal(event.target.checked)}>
          Show while typing
        </Choice>
        {children}
      </div>
    </>
  );
}
