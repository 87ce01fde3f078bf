import { isRouteErrorResponse, Outlet, useRouteError, useRouteLoaderData } from 'react-router';
import { stripClocks } from '../../server/floor';
import { ClockProvider } from '../ui/clock';
import { KeysProvider } from '../ui/keys';
import type { Route } from './+types/shell';
import { Rail } from './Rail';
import styles from './shell.module.css';
import { Strip } from './Strip';

export async function loader({ context }: Route.LoaderArgs) {
  const { services } = context;
  const { name, initials } = await services.actor();
  return {
    clocks: await stripClocks(services),
    clock: services.clock.read(),
    person: { name, initials },
    timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
    demo: services.demo,
    reference: context.requestId,
  };
}

/** What every page with rail and strip is told. */
export const useShell = () => useRouteLoaderData<typeof loader>('shell/shell')!;

export default function Shell({ loaderData, children }: Route.ComponentProps & { children?: React.ReactNode }) {
  return (
    <ClockProvider reading={loaderData.clock} timeZone={loaderData.timeZone}>
      <KeysProvider>
        <div className={styles.shell}>
          <a className={styles.skip} href="#main">
            To the content
          </a>
          <Rail />
          <Strip clocks={loaderData.clocks} person={loaderData.person} demo={loaderData.demo} wallSince={loaderData.clock.wallSince} />
          <main id="main" className={styles.main} tabIndex={-1}>
            {children ?? <Outlet />}
          </main>
        </div>
      </KeysProvider>
    </ClockProvider>
  );
}

/** Errors of a page keep rail and strip, so that one can go on elsewhere. */
export function ErrorBoundary(props: Route.ErrorBoundaryProps) {
  const error = useRouteError();
  const expected = isRouteErrorResponse(error);
  const page = (
    <div className={styles.error}>
      <h1>{expected ? error.statusText || 'Not found' : 'Something went wrong'}</h1>
      <p>
        {expected
          ? typeof error.data === 'string'
            ? error.data
            : 'This address or request is not understood. Go back and try again.'
          : `Bloodstone met something it did not expect. Nothing that was confirmed is lost. Reload the page. If it comes again, tell the reference ${props.loaderData?.reference ?? 'in the server log'}.`}
      </p>
      <p>
        <a href="/">Go to the Floor</a> or <a href="/cases">to the cases</a>.
      </p>
    </div>
  );
  if (!props.loaderData) return <main className={styles.main}>{page}</main>;
  return (
    <Shell {...(props as unknown as Route.ComponentProps)} loaderData={props.loaderData}>
      {page}
    </Shell>
  );
}
