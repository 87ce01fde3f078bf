import Button from '@mui/material/Button';
import { useContext, useEffect } from 'react';
import { Link } from 'react-router';
import { forgetDraft } from '../intake/useDraft';
import { useTimes } from '../ui/clock';
import { LaterActs, Sending } from '../ui/sending';
import styles from './shell.module.css';

const whyWords = {
  noAnswer: 'No connection. Sent in order when it is back, with the time at which each was done.',
  signedOut: 'You are signed out here. Sent when you have signed in again.',
  someoneElse: 'Somebody else did this here. Sent when that person signs in again.',
} as const;

/** What lies on this device for the server: what waits, what arrived, and what was refused, until somebody has read it. */
export default function NotSentYet() {
  const { waiting, refused, arrived, unsent } = useContext(LaterActs);
  const { discard, read } = useContext(Sending);
  const { hms } = useTimes();
  useEffect(() => {
    // The case that a draft was for is open: nothing of it is needed any more.
    for (const act of arrived) forgetDraft(act.id);
  }, [arrived]);
  return (
    <section className={styles.later} aria-label="Saved on this device">
      {waiting.length > 0 && (
        <details>
          <summary>{waiting.length === 1 ? 'Not sent yet: one entry' : `Not sent yet: ${waiting.length} entries`}</summary>
          {unsent && <p className="quiet">{whyWords[unsent]}</p>}
          <ul>
            {waiting.map((act) => (
              <li key={act.id}>
                <span className="num">{hms(act.at)}</span> <Link to={act.page}>{act.say}</Link>
                <Button size="small" color="inherit" onClick={() => discard(act.id)} aria-label={`Don’t send: ${act.say}`}>
                  Don’t send
                </Button>
              </li>
            ))}
          </ul>
        </details>
      )}
      {refused.length > 0 && (
        <ul role="alert">
          {refused.map((act) => (
            <li key={act.id}>
              <span>
                Not taken: <Link to={act.page}>{act.say}</Link>, <span className="num">{hms(act.at)}</span>.{' '}
                {act.problems!.map((p) => (p.path === '' ? p.message : `${p.path}: ${p.message}`)).join(' ')}
              </span>
              <Button size="small" color="inherit" onClick={() => discard(act.id)} aria-label={`Discard: ${act.say}`}>
                Discard
              </Button>
            </li>
          ))}
        </ul>
      )}
      {arrived.length > 0 && (
        <div className={styles.arrived}>
          <p role="status">
            Sent:{' '}
            {arrived.map((act, i) => [
              i > 0 && '; ',
              <Link key={act.id} to={act.at}>
                {act.say}
              </Link>,
            ])}
            .
          </p>
          <Button size="small" color="inherit" onClick={read}>
            OK
          </Button>
        </div>
      )}
    </section>
  );
}
