import { resolveParams, valuesOf } from '../../core/library';
import { lint } from '../../core/procedure';
import { Lamp } from '../ui/Lamp';
import type { Route } from './+types/library';
import styles from './library.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Library · Bloodstone' }];
export const handle = { place: () => ({ title: 'Library', detail: 'families, profiles, procedures' }) };

export function loader({ context }: Route.LoaderArgs) {
  const { library } = context.services;
  const cautions = new Set(library.cautions.keys());
  return {
    families: [...library.families.values()].map((f) => ({
      id: f.id,
      version: f.version,
      title: f.title,
      text: f.text,
      source: f.source,
      checked: f.checked,
      chain: f.chain.map((l) => ({ id: l.id, title: l.title, how: l.how })),
      lamps: f.lamps,
      params: Object.values(resolveParams(f)).map((p) => ({ name: p.name, label: p.label, value: p.value, unit: p.unit, usual: p.usual })),
      profiles: [...library.profiles.values()]
        .filter((p) => p.family === f.id)
        .map((p) => ({ id: p.id, title: p.title, version: p.version, known: Object.keys(p.values).length, checked: p.checked })),
      procedures: [...library.procedures.values()]
        .filter((p) => p.family === f.id)
        .map((p) => ({
          id: p.id,
          title: p.title,
          text: p.text,
          version: p.version,
          minutes: lint(p, valuesOf(resolveParams(f)), { cautions }).expectedMinutes,
        })),
    })),
  };
}

/** Reads like a manual. Copying, editing and comparing come with a later version. */
export default function Library({ loaderData: { families } }: Route.ComponentProps) {
  return (
    <div className={styles.page}>
      {families.map((f) => (
        <article key={f.id}>
          <h1>{f.title}</h1>
          <p className="quiet">
            Family {f.id}, version {f.version}.{' '}
            {f.checked ? `Checked by ${f.checked.by}, ${f.checked.on}.` : 'Nobody has checked this against a source.'} {f.source}
          </p>
          <p>{f.text.what}</p>
          <p>{f.text.how}</p>
          <h2>The start chain</h2>
          <ol className={styles.chain}>
            {f.chain.map((l) => (
              <li key={l.id}>
                <b>{l.title}.</b> {l.how}
              </li>
            ))}
          </ol>
          <h2>What the lamp says with the ignition on</h2>
          <ul className={styles.lamps}>
            {f.lamps.map((l) => (
              <li key={l.id}>
                <Lamp pattern={l} /> {l.title}. <span className="quiet">Look for {l.decisiveS} s.</span>
              </li>
            ))}
          </ul>
          <h2>Procedures</h2>
          <ul>
            {f.procedures.map((p) => (
              <li key={p.id}>
                <b>{p.title}</b>{' '}
                <span className="quiet">
                  version {p.version}, about {Math.round(p.minutes)} min.
                </span>{' '}
                {p.text}
              </li>
            ))}
          </ul>
          <h2>Numbers</h2>
          <p className="quiet">Typical for the family. The number of a vehicle comes from its service information.</p>
          <dl className={styles.params}>
            {f.params.map((p) => (
              <div key={p.name}>
                <dt>{p.label}</dt>
                <dd className="mono">
                  <span className="typical">
                    {p.value} {p.unit}
                  </span>{' '}
                  <span className="quiet">usual {p.usual}</span>
                </dd>
              </div>
            ))}
          </dl>
          <h2>Profiles</h2>
          <ul>
            {f.profiles.map((p) => (
              <li key={p.id}>
                <b>{p.title}</b>{' '}
                <span className="quiet">
                  version {p.version}, {p.known} numbers looked up,{' '}
                  {p.checked ? `checked by ${p.checked.by}, ${p.checked.on}` : 'not checked by a second person'}
                </span>
              </li>
            ))}
          </ul>
          <h2>Advice to the owner</h2>
          <ul>
            {f.text.advice.map((a) => (
              <li key={a}>{a}</li>
            ))}
          </ul>
        </article>
      ))}
    </div>
  );
}
