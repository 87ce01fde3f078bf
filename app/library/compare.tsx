import TextField from '@mui/material/TextField';
import { Link, useNavigate } from 'react-router';
import { compareProfiles } from '../../core/library';
import { keptProfiles, profileVersions } from '../../server/library/profiles';
import { here } from '../../server/http/requestContext';
import { notThere } from '../respond.server';
import { askedVersion } from './askedVersion';
import type { Route } from './+types/compare';
import styles from './library.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Compare profiles · Bloodstone' }];
export const handle = { place: ({ sides }: Route.ComponentProps['loaderData']) => ({ title: 'Compare', detail: sides[1].profile.title }) };

/** The address holds both sides: `a` is a version of this profile or another profile, `b` a version, each the newest when it is not said. */
export async function loader({ params, request, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const { library, database } = services;
  const { db } = database;
  const asked = new URL(request.url).searchParams;
  const none = () => notThere('Profile not found', 'The library has no profile of this name in this version.');
  const versions = await profileVersions(db, params.profileId);
  const right = askedVersion(versions, asked.get('b') || null) ?? none();
  const all = (await keptProfiles(services)).filter((p) => p.profile.family === right.profile.family);
  const a = asked.get('a') || null;
  const others = all.filter((p) => p.pin.id !== params.profileId);
  // A version has only digits; the name of a profile never does.
  const left = (a !== null && !/^\d+$/.test(a) ? others.find((p) => p.pin.id === a) : askedVersion(versions, a ?? null)) ?? none();
  const family = library.families.get(right.profile.family)!;
  const side = (e: typeof right) => ({ id: e.pin.id, version: e.pin.version, profile: { title: e.profile.title, checked: e.profile.checked } });
  return {
    id: params.profileId,
    sides: [side(left), side(right)] as const,
    rows: compareProfiles(family, left.profile, right.profile),
    versions: versions.map((v) => v.pin.version),
    others: others.map((p) => ({ id: p.pin.id, title: p.profile.title })),
  };
}

export default function Compare({ loaderData: { id, sides, rows, versions, others } }: Route.ComponentProps) {
  const navigate = useNavigate();
  const [left, right] = sides;
  const go = (a: string, b: string) => void navigate(`/library/profiles/${id}/compare?a=${a}&b=${b}`, { replace: true });
  const a = left.id === id ? String(left.version) : left.id;
  const b = String(right.version);
  const differing = rows.filter((r) => r.differs).length;
  const name = (s: typeof left) => `${s.profile.title}, version ${s.version}`;
  return (
    <div className={styles.page} data-wide="">
      <p>
        <Link to={`/library/profiles/${id}`}>Back to the profile</Link>
      </p>
      <h1>Compare</h1>
      <div className={styles.sides}>
        <TextField
          label="This"
          select
          value={a}
          onChange={(event) => go(event.target.value, b)}
          slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
        >
          {versions.map((v) => (
            <option key={v} value={v}>
              version {v}
            </option>
          ))}
          {others.map((o) => (
            <option key={o.id} value={o.id}>
              {o.title}
            </option>
          ))}
        </TextField>
        <TextField
          label="With"
          select
          value={b}
          onChange={(event) => go(a, event.target.value)}
          slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
        >
          {versions.map((v) => (
            <option key={v} value={v}>
              version {v}
            </option>
          ))}
        </TextField>
      </div>
      <p role="status">
        {differing === 0 ? 'No number differs.' : `${differing === 1 ? 'One number differs' : `${differing} numbers differ`} of ${rows.length}.`}
      </p>
      <table className={styles.compared}>
        <thead>
          <tr>
            <th scope="col">Number</th>
            <th scope="col">{name(left)}</th>
            <th scope="col">{name(right)}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={r.name} data-differs={r.differs || undefined}>
              <th scope="row">
                {r.label}
                {r.differs && <span className={styles.differs}> differs</span>}
              </th>
              {r.sides.map((s, i) => (
                <td key={i}>
                  <span className={s.status === 'typical' ? 'mono typical' : 'mono'}>{s.value}</span>
                  <small className="quiet">{s.status === 'typical' ? 'typical' : `verified: ${s.source}`}</small>
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
