import Button from '@mui/material/Button';
import type { ReactNode } from 'react';
import { useRouteLoaderData } from 'react-router';
import { copyVerdict, readEntry } from '../../../core/copycheck';
import type { Instrument } from '../../../core/procedure';
import { Differences } from '../../copycheck/Differences';
import { EntryField } from '../../copycheck/EntryField';
import { type TwoEntries, useTwoEntries } from '../../copycheck/useTwoEntries';
import { Choice } from '../../ui/Choice';
import type { OnResult } from './onResult';
import { useSealed, WithSealed } from './WithSealed';
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
  const caseId = useRouteLoaderData<{ run: { caseId: number } }>('run/run')?.run.caseId;
  const sealed = useSealed(caseId, secret);
  const text = readEntry(e.first, e.form).text;
  const go = (name?: string) =>
    onResult('ticked', { result: { kind: 'entries', length: text.length, ...(name === undefined ? {} : { sealed: name }) } });
  if (e.found)
    return (
      <Result
        e={e}
        found={e.found}
        go={
          caseId !== undefined && sealed && sealed.length > 0 ? (
            <WithSealed caseId={caseId} secrets={sealed} text={text} busy={busy} go={go} />
          ) : (
            <Button variant="contained" size="large" loading={busy} disabled={sealed === null} onClick={() => go()}>
              Equal: go on
            </Button>
          )
        }
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
          ? sealed?.length
            ? 'It is compared with the sealed one, and saved nowhere else.'
            : 'The secret stays in this page: it is neither saved nor sent.'
          : 'What you type is neither saved nor sent, only that both are equal.'}
      </p>
    </div>
  );
}

/** Where the two differ; or that they are equal, which is what the run goes on with. */
function Result({ e, found, go }: { e: TwoEntries; found: NonNullable<TwoEntries['found']>; go: ReactNode }) {
  const said = copyVerdict(found);
  return (
    <section aria-label="Result" aria-live="polite">
      <h2>{said.head}</h2>
      <p>{said.text}</p>
      <Differences found={found} reveal={e.reveal} />
      <div className={styles.row}>
        {found.equal ? (
          go
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
