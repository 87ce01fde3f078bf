import { type compareEntries, differenceWords } from '../../core/copycheck';
import styles from './copycheck.module.css';

/** As many differences are told; more is another original. */
const most = 20;

/** Where two entries differ, and what can't be right in either; characters only where they are shown. */
export function Differences({ found, reveal }: { found: ReturnType<typeof compareEntries>; reveal: boolean }) {
  return (
    <ul className={styles.list}>
      {found.differences.slice(0, most).map((d, i) => (
        <li key={i}>{differenceWords(d, reveal)}</li>
      ))}
      {found.differences.length > most && <li>{found.differences.length - most} more.</li>}
      {(['aProblems', 'bProblems'] as const).flatMap((side) =>
        found[side].slice(0, 5).map((p) => (
          <li key={side + p.path + p.code}>
            {side === 'aProblems' ? 'First' : 'Second'}:{' '}
            {[p.path, reveal || p.code !== 'alphabet' ? p.message : 'a character that isn’t allowed here.'].filter(Boolean).join(': ')}
          </li>
        )),
      )}
    </ul>
  );
}
