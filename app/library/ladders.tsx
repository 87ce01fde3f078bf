import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { formatOhms } from '../../core/ladder';
import { keptLadders } from '../../server/library/ladders';
import { here } from '../../server/http/requestContext';
import { may } from '../../server/acts/rights';
import type { Route } from './+types/ladders';
import styles from './library.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Value charts · Bloodstone' }];
export const handle = { place: () => ({ title: 'Library', detail: 'value charts of resistor keys' }) };

export async function loader({ context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const ladders = await keptLadders(services);
  return {
    ladders: ladders.map(({ ladder: l, origin, retired }) => ({
      id: l.id,
      title: l.title,
      origin,
      retired,
      pellets: l.pellets,
      checked: l.checked,
      low: l.steps[0]!.low,
      high: l.steps.at(-1)!.high,
      steps: l.steps.length,
    })),
    mayEdit: may(session!.person, 'editLibrary'),
  };
}

/** The ladders that keys are compared with: shipped ones, and the shop's own. */
export default function Ladders({ loaderData: { ladders, mayEdit } }: Route.ComponentProps) {
  return (
    <div className={styles.page}>
      <p>
        <Link to="/library">Library</Link>
      </p>
      <h1>Value charts of resistor keys</h1>
      <p>Any resistance inside a value’s window is accepted. Between the windows are gaps: a reading there is no value.</p>
      <ul className={styles.ladders}>
        {ladders.map((l) => (
          <li key={l.id}>
            <Link to={`/library/ladders/${l.id}`}>{l.title}</Link>
            <span className="quiet">
              {l.steps} {l.steps === 1 ? 'value' : 'values'} from {formatOhms(l.low)} to {formatOhms(l.high)}
              {l.pellets === 2 ? ', two resistor chips in a key' : ''} · {l.origin === 'shop' ? 'of this shop' : 'shipped'} ·{' '}
              {l.checked ? `checked by ${l.checked.by}` : 'not checked'}
              {l.retired && ', retired'}
            </span>
          </li>
        ))}
      </ul>
      {mayEdit && (
        <div className={styles.tools}>
          <Button component={Link} to="/library/ladders/new" variant="outlined">
            Make a value chart
          </Button>
          <Button component={Link} to="/library/import" variant="outlined" color="inherit">
            Import a value chart
          </Button>
        </div>
      )}
    </div>
  );
}
