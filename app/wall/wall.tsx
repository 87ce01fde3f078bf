import { useEffect } from 'react';
import { useRevalidator } from 'react-router';
import { findAddress } from '../../server/floor/addresses';
import { readFloor } from '../../server/floor/floor';
import { here } from '../../server/http/requestContext';
import { keptShop } from '../../server/shop/shop';
import { Lanes, Legend } from '../floor/Lanes';
import { noteWords } from '../floor/words';
import { notThere } from '../respond.server';
import { useTimes } from '../ui/clock';
import { QuietClock } from './QuietClock';
import type { Route } from './+types/wall';
import styles from './wall.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Floor · Bloodstone' }, { name: 'robots', content: 'noindex' }];

/** Of this machine, as everywhere. */
const timeZone = Intl.DateTimeFormat().resolvedOptions().timeZone;
/** How often a wall looks again, milliseconds; nobody taps on it. */
const againMs = 15_000;

export async function loader({ params, context, request }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const found = await findAddress(services.database.db, 'wall', params.token);
  if (!found) notThere('This address does not work', 'It was revoked, or was not copied whole. Ask the owner of the shop for a new one.');
  const ahead = new URL(request.url).searchParams.get('ahead') === 'day' ? 'day' : 'hour';
  const { now, lanes, touch, horizonMs, notes, readyAt } = await readFloor(services, {
    horizon: ahead,
    showing: found.vehicles ? 'plates' : 'nothing',
  });
  // Only what may be seen by all: no links, no numbers of rows, nobody's name.
  return {
    floor: { now, lanes, touch: { say: touch.say, then: touch.then, attention: touch.attention }, horizonMs, notes, readyAt },
    clock: services.clock.read(),
    units: (await keptShop(services)).units,
    timeZone,
  };
}

/** The Floor on a screen at the wall: nobody is signed in, and nothing can be done on it. */
export default function Wall({ loaderData: d }: Route.ComponentProps) {
  return (
    <QuietClock reading={d.clock} timeZone={d.timeZone} units={d.units}>
      <OnWall {...d.floor} />
    </QuietClock>
  );
}

function OnWall({ now, lanes, touch, horizonMs, notes, readyAt }: Route.ComponentProps['loaderData']['floor']) {
  const { hm } = useTimes();
  const { revalidate, state } = useRevalidator();
  useEffect(() => {
    // What can't be reached now is asked for again later; until then the wall shows what it has.
    const again = setInterval(() => {
      if (state !== 'idle') return;
      void fetch('/clock').then(
        ({ ok }) => void (ok && revalidate()),
        () => {},
      );
    }, againMs);
    return () => clearInterval(again);
  }, [revalidate, state]);
  return (
    <main className={styles.page}>
      <section className={styles.touch} aria-label="Next up" data-attention={touch.attention}>
        <h1>{touch.say}</h1>
        <p>
          {touch.then}
          {readyAt !== null && ` Everything should be done by ${hm(readyAt)}.`}
        </p>
        {notes.map((n, i) => (
          <p key={i}>{noteWords(n, hm)}</p>
        ))}
      </section>
      <div className={styles.lanes}>
        <Lanes lanes={lanes} read={now} horizonMs={horizonMs} />
        <Legend />
      </div>
    </main>
  );
}

export { OutsideError as ErrorBoundary } from '../entrance/OutsideError';
