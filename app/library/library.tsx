import { Link } from 'react-router';
import { here } from '../../server/requestContext';
import { notChecked } from './notChecked';
import type { Route } from './+types/library';
import styles from './library.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Library · Bloodstone' }];
export const handle = { place: () => ({ title: 'Library', detail: 'families of immobilizer systems' }) };

export function loader({ context }: Route.LoaderArgs) {
  const { library } = context.get(here).services;
  return {
    families: [...library.families.values()]
      .map((f) => ({
        id: f.id,
        title: f.title,
        what: f.text.what,
        checked: f.checked !== null,
        profiles: [...library.profiles.values()].filter((p) => p.family === f.id).map((p) => p.title),
      }))
      .sort((a, b) => (a.title < b.title ? -1 : 1)),
  };
}

/** The families, each with what it is in a sentence; a page of its own reads like a manual. Copying, editing and comparing come later. */
export default function Library({ loaderData: { families } }: Route.ComponentProps) {
  return (
    <div className={styles.page}>
      <h1>Families of systems</h1>
      <p className="quiet">
        A vehicle that is not listed is worked from its family at once, with typical numbers. {families.every((f) => !f.checked) && `${notChecked} `}A
        new case asks its way to the family by what can be seen.
      </p>
      <ul className={styles.index}>
        {families.map((f) => (
          <li key={f.id}>
            <Link to={`/library/${f.id}`}>{f.title}</Link>
            <p>{f.what}</p>
            {f.profiles.length > 0 && <p className="quiet">Vehicles: {f.profiles.join(', ')}</p>}
          </li>
        ))}
      </ul>
    </div>
  );
}
