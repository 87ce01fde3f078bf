import { Link, useParams } from 'react-router';
import { useTimes } from '../ui/clock';
import styles from './run.module.css';

/** The last scan of the case: its communication codes that are there now, when it was made, and whether it was cleared after it. */
export interface Communication {
  codes: string[];
  at: number;
  cleared: boolean;
}

/** What the case says of communication, beside a step that asks for it. */
export function Reads({ communication }: { communication: Communication | null }) {
  const { caseId } = useParams();
  const { day, hm } = useTimes();
  const scans = <Link to={`/cases/${caseId}/codes`}>{communication ? 'Scans of this case' : 'Save a scan'}</Link>;
  if (!communication)
    return <p className={styles.hint}>This case has no scan yet: which communication trouble codes return can’t be seen here. {scans}</p>;
  const { codes, at, cleared } = communication;
  const when = `${day(at)}, ${hm(at)}`;
  if (codes.length === 0)
    return (
      <p className={styles.hint}>
        Last scan ({when}): no communication trouble code is present. {scans}
      </p>
    );
  return (
    <p className={styles.warning} data-attention="amber">
      Last scan ({when}): {codes.join(', ')} present{cleared ? ', cleared after it' : ''}. Scan again: what returns is real, and is settled before any
      key is learned. {scans}
    </p>
  );
}
