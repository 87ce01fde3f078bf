import { isRouteErrorResponse, Outlet, useRouteError } from 'react-router';
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

export function ErrorBoundary() {
  const error = useRouteError();
  const expected = isRouteErrorResponse(error);
  return (
    <main className={styles.page}>
      <h1>{expected ? error.statusText : 'Something went wrong'}</h1>
      <p>{expected && typeof error.data === 'string' ? error.data : 'Something unexpected happened. Reload the page.'}</p>
      <p>
        <a href="/sign-in">Go to the sign-in</a>
      </p>
    </main>
  );
}
