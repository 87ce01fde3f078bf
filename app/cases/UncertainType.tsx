import { Link } from 'react-router';
import styles from './case.module.css';
import type { CaseView } from './page';

/** What was seen does not fit the system that the vehicle is worked as: the same pattern would mean something else in another. */
export function UncertainType({ page }: { page: CaseView }) {
  const { uncertain, strangeLamp, record } = page;
  if (record.state !== 'open' || (!uncertain && strangeLamp === null)) return null;
  const first = uncertain?.against[0];
  return (
    <section className={styles.uncertain} aria-label="System type not certain" role="alert">
      {uncertain && (
        <p>
          <b>This contradicts “{page.system.family}”.</b> {uncertain.key === null ? '' : `Tag ${uncertain.key}: `}
          {first ? `${first.say}. ` : ''}
          The signs point to “{uncertain.instead.title}”. The same light can mean the opposite there.
        </p>
      )}
      {strangeLamp !== null && (
        <p>
          <b>The light contradicts this system type.</b> {strangeLamp}
        </p>
      )}
      <p>
        <Link to={`/cases/${record.id}/identify`}>Check the system type again</Link>; everything recorded stays.
      </p>
    </section>
  );
}
