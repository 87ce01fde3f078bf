import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { keptLayouts } from '../../server/library/layouts';
import { here } from '../../server/http/requestContext';
import { may } from '../../server/acts/rights';
import type { Route } from './+types/layouts';
import styles from './library.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Memory layouts · Bloodstone' }];
export const handle = { place: () => ({ title: 'Library', detail: 'memory layouts' }) };

export async function loader({ context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const { families } = services.library;
  return {
    layouts: (await keptLayouts(services)).map(({ body: l, origin, retired }) => ({
      id: l.id,
      title: l.title,
      origin,
      retired,
      family: families.get(l.family)?.title ?? l.family,
      checked: l.checked,
      bytes: l.bytes,
      slots: l.slots.count,
    })),
    mayEdit: may(session!.person, 'editLibrary'),
  };
}

/** Where the slots of key memories stand: shipped layouts, and the shop's own. */
export default function Layouts({ loaderData: { layouts, mayEdit } }: Route.ComponentProps) {
  return (
    <div className={styles.page}>
      <p>
        <Link to="/library">Library</Link>
      </p>
      <h1>Memory layouts</h1>
      <p>
        Where in a module’s memory the key slots are, and what is in them. The shipped ones are made up. Layouts of real vehicles are your own, from
        authorized sources: export one as YAML, change it, import it.
      </p>
      <ul className={styles.ladders}>
        {layouts.map((l) => (
          <li key={l.id}>
            <Link to={`/library/layouts/${l.id}`}>{l.title}</Link>
            <span className="quiet">
              {l.slots} {l.slots === 1 ? 'slot' : 'slots'} in {l.bytes} bytes · {l.family} · {l.origin === 'shop' ? 'of this shop' : 'shipped'} ·{' '}
              {l.checked ? `checked by ${l.checked.by}` : 'not checked'}
              {l.retired && ', retired'}
            </span>
          </li>
        ))}
      </ul>
      {mayEdit && (
        <div className={styles.tools}>
          <Button component={Link} to="/library/import" variant="outlined" color="inherit">
            Import a layout
          </Button>
        </div>
      )}
    </div>
  );
}
