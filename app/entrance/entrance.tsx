import { Outlet } from 'react-router';
import { Mark } from '../ui/Mark';
import styles from './entrance.module.css';

/** The pages before one is signed in: nothing of the shop shows here. */
export default function Entrance() {
  return (
    <main className={styles.page}>
      <div className={styles.head}>
        <Mark />
        <p>Bloodstone</p>
      </div>
      <Outlet />
    </main>
  );
}

export { OutsideError as ErrorBoundary } from './OutsideError';
