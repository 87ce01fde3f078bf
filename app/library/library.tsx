import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { Form, Link } from 'react-router';
import { everyFamily } from '../../core/library';
import { searchLibrary } from '../../server/library/librarySearch';
import { keptProfiles } from '../../server/library/profiles';
import { here } from '../../server/http/requestContext';
import { setRetired, unreadable, type Unreadable } from '../../server/library/shopDocuments';
import { parseUnreadable } from '../../server/library/forms';
import { may } from '../../server/acts/rights';
import { acting, type Sent } from '../respond.server';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import { notChecked } from './notChecked';
import type { Route } from './+types/library';
import { SystemDrawing } from '../drawings/SystemDrawing';
import styles from './library.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Library · Bloodstone' }];
export const handle = { place: () => ({ title: 'Library', detail: 'system types and vehicles' }) };

/** Longest query that is looked for, characters. */
const maxQuery = 120;

export async function loader({ request, context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const { library } = services;
  const query = (new URL(request.url).searchParams.get('q') ?? '').slice(0, maxQuery);
  const profiles = await keptProfiles(services);
  const own = profiles.filter((p) => p.origin === 'shop');
  const row = ({ profile: p, retired }: (typeof own)[number]) => ({
    id: p.id,
    title: p.title,
    family: library.families.get(p.family)!.title,
    version: p.version,
    known: Object.keys(p.values).length,
    retired,
  });
  return {
    query,
    found: query.trim() === '' ? null : searchLibrary(library, profiles, query),
    mayEdit: may(session!.person, 'editLibrary'),
    own: own.map(row),
    everyVehicle: [...library.procedures.values()].filter((p) => p.family === everyFamily).map((p) => ({ id: p.id, title: p.title, text: p.text })),
    unreadable: await unreadable(services.database.db),
    families: [...library.families.values()]
      .map((f) => ({
        id: f.id,
        title: f.title,
        what: f.text.what,
        checked: f.checked !== null,
        profiles: profiles.filter((p) => p.profile.family === f.id && !p.retired).map((p) => ({ id: p.profile.id, title: p.profile.title })),
      }))
      .sort((a, b) => (a.title < b.title ? -1 : 1)),
  };
}

export async function action(args: Route.ActionArgs) {
  const { db } = args.context.get(here).services.database;
  const set = async ({ form, act }: Pick<Sent, 'form' | 'act'>, retired: boolean) => {
    const { kind, id } = parseUnreadable(form);
    await setRetired(db, act(), kind, id, retired);
    return { done: true };
  };
  return acting('/library', args, { retire: (sent) => set(sent, true), restore: (sent) => set(sent, false) });
}

/** Documents of the shop that don't pass the check of their form: named with the reason, so that they can be made anew. */
function CannotBeRead({ documents, mayEdit }: { documents: Unreadable[]; mayEdit: boolean }) {
  const act = useAct<typeof action>();
  return (
    <section aria-labelledby="unreadable">
      <h3 id="unreadable">Can’t be read</h3>
      <ProblemSummary errors={act.errors} />
      <ul>
        {documents.map((d) => (
          <li key={`${d.kind} ${d.id}`}>
            {d.kind} “{d.id}”, version {d.version}
            {d.retired && ', retired'}. <span className="quiet">{d.reason} Make it again, and retire this one.</span>
            {mayEdit && (
              <Form method="post" onSubmit={act.send(d.retired ? 'restore' : 'retire')}>
                <input type="hidden" name="kind" value={d.kind} />
                <input type="hidden" name="id" value={d.id} />
                <Button type="submit" variant="outlined" color={d.retired ? 'inherit' : 'error'} loading={act.busy}>
                  {d.retired ? 'Offer again' : 'Retire'}
                </Button>
              </Form>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The families, each with what it is in a sentence; the shop's own vehicles; and a search over both. */
export default function Library({ loaderData: { query, found, mayEdit, own, unreadable, families, everyVehicle } }: Route.ComponentProps) {
  return (
    <div className={styles.page}>
      <h1>System types</h1>
      <p className="quiet">
        A vehicle that is not listed starts from its system type, with typical numbers. {families.every((f) => !f.checked) && `${notChecked} `}A new
        case finds the system type by what you can see.
      </p>
      <Form role="search" aria-label="Library" className={styles.search}>
        <TextField
          key={query}
          name="q"
          label="Search the Library"
          defaultValue={query}
          helperText="Such as a vehicle, a light, a part, a mark"
          slotProps={{ htmlInput: { maxLength: maxQuery, type: 'search' } }}
        />
        <Button type="submit" variant="outlined" sx={{ minHeight: 56 }}>
          Search
        </Button>
      </Form>
      {found ? (
        <>
          <p role="status">
            {found.length === 0
              ? `Nothing contains every word of “${query}”. Try fewer words, or the beginning of one.`
              : `${found.length === 1 ? 'One place has' : `${found.length} places have`} “${query}”.`}{' '}
            <Link to="/library">Show all</Link>
          </p>
          <ul className={styles.index} aria-label="Found">
            {found.map((f) => (
              <li key={`${f.kind} ${f.to} ${f.title}`}>
                <Link to={f.to}>{f.title}</Link> <span className="quiet">{f.kind}</span>
                {f.excerpt !== '' && <p>{f.excerpt}</p>}
              </li>
            ))}
          </ul>
        </>
      ) : (
        <>
          <section aria-labelledby="own">
            <h2 id="own">Vehicles of this shop</h2>
            {own.length === 0 && (
              <p>
                None yet. A profile keeps the numbers of a vehicle you work on, each with the page it was looked up on
                {mayEdit ? '.' : '; a lead makes one.'}
              </p>
            )}
            <ul>
              {own.map((p) => (
                <li key={p.id}>
                  <Link to={`/library/profiles/${p.id}`}>{p.title}</Link>{' '}
                  <span className="quiet">
                    {p.family}, version {p.version}, {p.known} numbers looked up{p.retired && ', retired'}
                  </span>
                </li>
              ))}
            </ul>
            {unreadable.length > 0 && <CannotBeRead documents={unreadable} mayEdit={mayEdit} />}
            {mayEdit && (
              <div className={styles.tools}>
                <Button component={Link} to="/library/profiles/new" variant="outlined">
                  Make a profile
                </Button>
                <Button component={Link} to="/library/procedures/new" variant="outlined">
                  Make a procedure from a text
                </Button>
                <Button component={Link} to="/library/import" variant="outlined" color="inherit">
                  Import
                </Button>
              </div>
            )}
          </section>
          <p className={styles.tools}>
            <Link to="/library/codes">Trouble codes</Link>
            <Link to="/library/ladders">Value charts of resistor keys</Link>
            <Link to="/library/layouts">Memory layouts</Link>
          </p>
          <details className={styles.every}>
            <summary>Procedures for every vehicle</summary>
            <ul aria-label="Procedures for every vehicle">
              {everyVehicle.map((p) => (
                <li key={p.id}>
                  <Link to={`/library/procedures/${p.id}`}>{p.title}</Link> {p.text}
                </li>
              ))}
            </ul>
          </details>
          <ul className={styles.index} aria-label="System types">
            {families.map((f) => (
              <li key={f.id} className={styles.type}>
                <SystemDrawing family={f.id} width={120} />
                <Link to={`/library/${f.id}`}>{f.title}</Link>
                <p>{f.what}</p>
                {f.profiles.length > 0 && (
                  <p className="quiet">
                    Vehicles:{' '}
                    {f.profiles.map((p, i) => (
                      <span key={p.id}>
                        {i > 0 && ', '}
                        <Link className={styles.plain!} to={`/library/profiles/${p.id}`}>
                          {p.title}
                        </Link>
                      </span>
                    ))}
                  </p>
                )}
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}
