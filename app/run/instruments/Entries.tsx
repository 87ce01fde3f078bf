import Button from '@mui/material/Button';
import { copyVerdict, readEntry } from '../../../core/copycheck';
import type { Instrument } from '../../../core/procedure';
import { Differences } from '../../copycheck/Differences';
import { EntryField } from '../../copycheck/EntryField';
import { type TwoEntries, useTwoEntries } from '../../copycheck/useTwoEntries';
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
  const { alphabet, length, secret } = instrument;
  const e = useTwoEntries({ alphabet, length }, !secret);
  if (e.found)
    return (
      <Result
        e={e}
        found={e.found}
        busy={busy}
        go={() => onResult('ticked', { result: { kind: 'entries', length: readEntry(e.first, e.form).text.length } })}
      />
    );
  const label = e.stage === 'first' ? 'First entry' : 'Second entry, from the original again';
  return (
    <div className={styles.part}>
      <EntryField e={e} label={label} count={`${label}: ${e.entry.text.length} of ${length} characters`} focus={e.stage === 'second'}>
        {e.stage === 'second' && (
          <Button variant="text" color="inherit" onClick={e.anew}>
            Start both over
          </Button>
        )}
      </EntryField>
      <p className="quiet">
        {secret
          ? 'The secret stays in this page: it is neither saved nor sent.'
          : 'What you type is neither saved nor sent, only that both are equal.'}
      </p>
    </div>
  );
}

/** Where the two differ; or that they are equal, which is what the run goes on with. */
function Result({ e, found, busy, go }: { e: TwoEntries; found: NonNullable<TwoEntries['found']>; busy: boolean; go: () => void }) {
  const said = copyVerdict(found);
  return (
    <section aria-label="Result" aria-live="polite">
      <h2>{said.head}</h2>
      <p>{said.text}</p>
      <Differences found={found} reveal={e.reveal} />
      <div className={styles.row}>
        {found.equal ? (
          <Button variant="contained" size="large" loading={busy} onClick={go}>
            Equal: go on
          </Button>
        ) : (
          <>
            <Button variant="contained" onClick={e.again}>
              Type the second entry again
            </Button>
            <Choice type="checkbox" name="reveal" checked={e.reveal} onChange={(event) => e.setReveal(event.target.checked)}>
              Show the characters
            </Choice>
          </>
        )}
        <Button variant="outlined" color="inherit" onClick={e.anew}>
          Start both over
        </Button>
      </div>
    </section>
  );
}
