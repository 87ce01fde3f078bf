import Button from '@mui/material/Button';
import { type KeyboardEvent, useState } from 'react';
import { compareEntries, copyVerdict, differenceWords, type Form, groupsOfFour, readEntry } from '../../../core/copycheck';
import type { Instrument } from '../../../core/procedure';
import { Choice } from '../../ui/Choice';
import type { OnResult } from './onResult';
import styles from './instruments.module.css';

/**
 * Two independent entries of one original, compared here: what is typed stays in this page and is gone with the step. Only that they are equal, and how many
 * characters they have, goes into the run.
 */
export default function Entries({
  instrument,
  busy,
  onResult,
}: {
  instrument: Extract<Instrument, { kind: 'entries' }>;
  busy: boolean;
  onResult: OnResult;
}) {
  const form: Form = { alphabet: instrument.alphabet, length: instrument.length };
  const [first, setFirst] = useState('');
  const [second, setSecond] = useState('');
  const [stage, setStage] = useState<'first' | 'second' | 'compared'>('first');
  const [reveal, setReveal] = useState(!instrument.secret);
  const now = stage === 'first' ? first : second;
  const entry = readEntry(now, form);
  const found = stage === 'compared' ? compareEntries(first, second, form) : null;
  const go = () => {
    if (entry.text === '') return;
    setStage(stage === 'first' ? 'second' : 'compared');
    setReveal(!instrument.secret);
  };
  const anew = () => {
    setFirst('');
    setSecond('');
    setStage('first');
  };
  if (found)
    return (
      <Result
        found={found}
        reveal={reveal}
        setReveal={setReveal}
        busy={busy}
        go={() => onResult('ticked', { result: { kind: 'entries', length: readEntry(first, form).text.length } })}
        again={() => {
          setSecond('');
          setStage('second');
        }}
        anew={anew}
      />
    );
  const label = stage === 'first' ? 'First entry' : 'Second entry, from the original again';
  return (
    <div className={styles.part}>
      <textarea
        key={stage}
        className={styles.field}
        data-masked={!reveal || undefined}
        aria-label={label}
        placeholder={label}
        value={now}
        rows={2}
        maxLength={20_000}
        autoComplete="off"
        autoCorrect="off"
        autoCapitalize="characters"
        spellCheck={false}
        autoFocus={stage === 'second'}
        inputMode={instrument.alphabet === 'decimal' ? 'numeric' : 'text'}
        onChange={(event) => (stage === 'first' ? setFirst : setSecond)(event.target.value)}
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
      <p role="status">
        {label}: {entry.text.length} of {instrument.length} characters
      </p>
      {entry.text !== '' &&
        entry.problems
          .filter((p) => p.code !== 'length' || entry.text.length > instrument.length)
          .slice(0, 2)
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
        {stage === 'second' && (
          <Button variant="text" color="inherit" onClick={anew}>
            Start both over
          </Button>
        )}
      </div>
      <p className="quiet">
        {instrument.secret
          ? 'The secret stays in this page: it is neither saved nor sent.'
          : 'What you type is neither saved nor sent, only that both are equal.'}
      </p>
    </div>
  );
}

/** Where the two differ; or that they are equal, which is what the run goes on with. */
function Result({
  found,
  reveal,
  setReveal,
  busy,
  go,
  again,
  anew,
}: {
  found: ReturnType<typeof compareEntries>;
  reveal: boolean;
  setReveal: (to: boolean) => void;
  busy: boolean;
  go: () => void;
  again: () => void;
  anew: () => void;
}) {
  const said = copyVerdict(found);
  return (
    <section aria-label="Result" aria-live="polite">
      <h2>{said.head}</h2>
      <p>{said.text}</p>
      <ul className={styles.list}>
        {found.differences.slice(0, 12).map((d, i) => (
          <li key={i}>{differenceWords(d, reveal)}</li>
        ))}
        {(['aProblems', 'bProblems'] as const).flatMap((side) =>
          found[side].slice(0, 5).map((p) => (
            <li key={side + p.path + p.code}>
              {side === 'aProblems' ? 'First' : 'Second'}:{' '}
              {[p.path, reveal || p.code !== 'alphabet' ? p.message : 'a character that isn’t allowed here.'].filter(Boolean).join(': ')}
            </li>
          )),
        )}
      </ul>
      <div className={styles.row}>
        {found.equal ? (
          <Button variant="contained" size="large" loading={busy} onClick={go}>
            Equal: go on
          </Button>
        ) : (
          <>
            <Button variant="contained" onClick={again}>
              Type the second entry again
            </Button>
            <Choice type="checkbox" name="reveal" checked={reveal} onChange={(event) => setReveal(event.target.checked)}>
              Show the characters
            </Choice>
          </>
        )}
        <Button variant="outlined" color="inherit" onClick={anew}>
          Start both over
        </Button>
      </div>
    </section>
  );
}
