import { unlessOnlySearch } from '../ui/looks';
import type { ShopRooms } from '../shop/ShopNav';
import { useEffect } from 'react';
import { isRouteErrorResponse, Outlet, useRouteError } from 'react-router';
import { limits } from '../../server/accounts/sessions';
import { here } from '../../server/http/requestContext';
import { firstClocks } from '../../server/runs/strip';
import { may, pages } from '../../server/acts/rights';
import { keptShop } from '../../server/shop/shop';
import type { Route } from './+types/shell';
import { Frame } from './Frame';
import styles from './shell.module.css';

/** Of this machine; asking for it takes longer than most of what a page needs. */
const timeZone = Intl.DateTimeFormat().resolvedOptions().timeZone;

export async function loader({ context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  return {
    ...(await firstClocks(services)),
    clock: services.clock.read(),
    locksAt: session!.atBay ? session!.touchedAt + limits.bayLockMs : null,
    person: {
      id: session!.person.id,
      name: session!.person.name,
      initials: session!.person.initials,
      role: session!.person.role,
      atBay: session!.atBay,
    },
    rooms: {
      people: may(session!.person, pages['/shop/people'].see),
      devices: may(session!.person, pages['/shop/devices'].see),
      addresses: may(session!.person, pages['/shop/addresses'].see),
      audit: may(session!.person, pages['/shop/audit'].see),
      vault: may(session!.person, pages['/shop/vault'].see),
      backups: may(session!.person, pages['/shop/backups'].see),
    } satisfies ShopRooms,
    units: (await keptShop(services)).units,
    timeZone,
    demo: services.demo,
    reference: context.get(here).requestId,
  };
}

export const shouldRevalidate = unlessOnlySearch;

export default function Shell({ loaderData }: Route.ComponentProps) {
  return (
    <Frame shell={loaderData}>
      <Outlet />
    </Frame>
  );
}

/** Errors of a page keep rail and strip, so that one can go on elsewhere. */
export function ErrorBoundary(props: Route.ErrorBoundaryProps) {
  const error = useRouteError();
  const expected = isRouteErrorResponse(error);
  // The browser's own word for a request that reached nobody.
  const alone = error instanceof TypeError && /fetch|network|load failed/i.test(error.message);
  useEffect(() => {
    // A link leads to a page's data only; the page as a whole may be kept here.
    if (alone) void import('../offline/kept').then(async ({ isHere }) => (await isHere(location.pathname + location.search)) && location.reload());
  }, [alone]);
  const page = (
    <div className={styles.error}>
      <h1>{alone ? 'No connection' : expected ? error.statusText || 'Not found' : 'Something went wrong'}</h1>
      <p>
        {alone
          ? 'The shop’s server does not answer. Runs keep their time, and nothing confirmed is lost. Go back when the connection is back.'
          : expected
            ? typeof error.data === 'string'
              ? error.data
              : 'This address or request is not understood. Go back and try again.'
            : `Something unexpected happened. Nothing confirmed is lost. Reload the page. If it happens again, give the reference ${props.loaderData?.reference ?? 'in the server log'}.`}
      </p>
      <p>
        <a href="/">Go to the Floor</a> or <a href="/cases">to the cases</a>.
      </p>
    </div>
  );
  return props.loaderData ? <Frame shell={props.loaderData}>{page}</Frame> : <main className={styles.main}>{page}</main>;
}
