import { isRouteErrorResponse, useRouteError } from 'react-router';
import styles from './entrance.module.css';

/** What went wrong on a page that needs nobody signed in. */
export function OutsideError() {
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
