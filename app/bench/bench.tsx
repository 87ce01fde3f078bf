import { Link } from 'react-router';
import styles from './bench.module.css';

export const meta = () => [{ title: 'Bench · Bloodstone' }];
export const handle = { place: () => ({ title: 'Bench', detail: 'the instruments' }) };

const instruments = [
  {
    to: '/bench/lamp',
    name: 'Light',
    say: 'Tap along with a security light, or read a recording of it: which pattern of the system type it is, and how sure.',
  },
  {
    to: '/bench/ladder',
    name: 'Resistor key',
    say: 'Readings of a resistor chip against its chart of values, the same key through the column, and the column while it is moved.',
  },
  {
    to: '/bench/substitute',
    name: 'Substitute',
    say: 'Resistors that stand in for a step, from the drawer or a series; and what to do when nobody knows the step.',
  },
  { to: '/bench/trials', name: 'Repeated looks', say: 'Does the coil emit each time? Count yes and no, and see what so many looks still allow.' },
  { to: '/bench/copy-check', name: 'Copy check', say: 'A secret, label digits or a number, typed twice: where the two differ, and how.' },
];

/** The instruments, by what one has in the hand. */
export default function Bench() {
  return (
    <div className={styles.index}>
      <h1>What is to be measured?</h1>
      <ul>
        {instruments.map(({ to, name, say }) => (
          <li key={to}>
            <Link to={to}>{name}</Link>
            <span>{say}</span>
          </li>
        ))}
      </ul>
      <p className="quiet">Bursts and battery come with the next versions. Until then a measured value is typed where a test or a run asks for it.</p>
    </div>
  );
}
