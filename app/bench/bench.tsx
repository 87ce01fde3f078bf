import { Link } from 'react-router';
import styles from './bench.module.css';

export const meta = () => [{ title: 'Bench · Bloodstone' }];
export const handle = { place: () => ({ title: 'Bench', detail: 'the instruments' }) };

/** The instruments, by what one has in the hand. */
export default function Bench() {
  return (
    <div className={styles.index}>
      <h1>What is to be measured?</h1>
      <ul>
        <li>
          <Link to="/bench/lamp">Lamp</Link>
          <span>Tap along with a guard lamp, or read a recording of it: which pattern of the family it is, and how sure.</span>
        </li>
      </ul>
      <p className="quiet">
        Resistor key, coil, bursts, battery and copy check come with the next versions. Until then a measured value is typed where a test or a run
        asks for it.
      </p>
    </div>
  );
}
