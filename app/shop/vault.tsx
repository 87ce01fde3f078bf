import Button from '@mui/material/Button';
import { Form, Link } from 'react-router';
import { may } from '../../server/acts/rights';
import { here } from '../../server/http/requestContext';
import { parseTwo } from '../../server/vault/forms';
import { overdue } from '../../server/vault/items';
import { isReleaseByTwo, setReleaseByTwo } from '../../server/vault/release';
import { acting } from '../respond.server';
import { useTimes } from '../ui/clock';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import type { Route } from './+types/vault';
import { ShopNav } from './ShopNav';
import styles from './shop.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Vault · Bloodstone' }];
export const handle = { place: () => ({ title: 'Vault', detail: 'what is sealed in all cases' }) };

export async function loader({ context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const { db } = services.database;
  return {
    two: await isReleaseByTwo(db),
    overdue: await overdue(db, services.clock.now()),
    closed: services.keys.open ? null : services.keys.why,
    maySet: may(session!.person, 'setRelease'),
  };
}

export async function action(args: Route.ActionArgs) {
  const { db } = args.context.get(here).services.database;
  return acting('/shop/vault', args, {
    two: async ({ form, act }) => {
      const on = parseTwo(form).two === 'on';
      await setReleaseByTwo(db, act(), on);
      return { said: on ? 'Two people open it from now on.' : 'One lead opens it from now on.' };
    },
  });
}

/** Who opens what is sealed, and what was to be kept no longer. */
export default function ShopVault({ loaderData: d }: Route.ComponentProps) {
  const act = useAct<typeof action>();
  const { day } = useTimes();
  return (
    <div className={styles.page}>
      <h1 className="hidden">Vault</h1>
      <ShopNav />
      <ProblemSummary errors={act.errors} />
      {d.closed !== null && <p role="alert">The vault is closed. {d.closed}</p>}
      <section aria-labelledby="who">
        <h2 id="who">Who opens what is sealed</h2>
        <p>
          {d.two
            ? 'Two people: one lead asks, another lead releases it for ten minutes.'
            : 'One lead, with a reason. Each opening is in the audit log.'}
        </p>
        {d.maySet ? (
          <Form onSubmit={act.send('two')}>
            <input type="hidden" name="two" value={d.two ? 'off' : 'on'} />
            <Button type="submit" variant="outlined" loading={act.busy}>
              {d.two ? 'Let one lead open it' : 'Ask for two people'}
            </Button>
          </Form>
        ) : (
          <p className="quiet">The owner changes this.</p>
        )}
        <p role="status">{act.said}</p>
      </section>
      <section aria-labelledby="overdue">
        <h2 id="overdue">Kept past its date</h2>
        {d.overdue.length === 0 ? (
          <p className="quiet">Nothing is overdue.</p>
        ) : (
          <ul aria-label="Overdue">
            {d.overdue.map((o) => (
              <li key={o.id}>
                <Link to={`/cases/${o.caseId}/vault`}>{o.name}</Link> <span className="quiet">was to be kept until {day(o.keepUntil)}</span>
              </li>
            ))}
          </ul>
        )}
      </section>
    </div>
  );
}
