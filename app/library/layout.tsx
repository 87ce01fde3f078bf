import Button from '@mui/material/Button';
import { Link } from 'react-router';
import { type Layout, regionsOf } from '../../core/memory';
import { dateWords } from '../../core/units';
import { here } from '../../server/http/requestContext';
import { documentVersions, isRetired, setRetired } from '../../server/library/shopDocuments';
import { may } from '../../server/acts/rights';
import { MemoryMap } from '../memory/MemoryMap';
import { acting, notThere } from '../respond.server';
import { useUnits } from '../ui/clock';
import { useAct } from '../ui/useAct';
import { askedVersion } from './askedVersion';
import { notChecked } from './notChecked';
import { Retire } from './Retire';
import { Versions } from './Versions';
import type { Route } from './+types/layout';
import memory from '../memory/memory.module.css';
import styles from './library.module.css';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `${loaderData?.layout.title ?? 'A layout'} · Bloodstone` }];
export const handle = { place: ({ layout }: Route.ComponentProps['loaderData']) => ({ title: 'Library', detail: layout.title }) };

export async function loader({ params, request, context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const { db } = services.database;
  const versions = await documentVersions(db, 'layout', params.layoutId);
  const shown = askedVersion(versions, new URL(request.url).searchParams.get('version'));
  if (!shown) return notThere('Layout not found', 'The library has no layout of this name in this version.');
  return {
    layout: shown.body,
    family: { id: shown.body.family, title: services.library.families.get(shown.body.family)?.title ?? shown.body.family },
    origin: shown.origin,
    newest: shown === versions[0],
    retired: await isRetired(db, 'layout', params.layoutId),
    mayEdit: may(session!.person, 'editLibrary'),
    versions: versions.map((v) => ({ version: v.pin.version, at: v.enteredAt, by: v.by })),
  };
}

export async function action(args: Route.ActionArgs) {
  const { db } = args.context.get(here).services.database;
  const id = args.params.layoutId;
  return acting('/library/layouts/:layoutId', args, {
    retire: async ({ act }) => {
      await setRetired(db, act(), 'layout', id, true);
      return { said: 'No longer offered.' };
    },
    restore: async ({ act }) => {
      await setRetired(db, act(), 'layout', id, false);
      return { said: 'Offered again.' };
    },
  });
}

/** A layout: the map of its memory, and what a slot is made of. */
export default function LayoutPage({ loaderData: d }: Route.ComponentProps) {
  const { layout } = d;
  const units = useUnits();
  const act = useAct<typeof action>();
  return (
    <div className={styles.page}>
      <p>
        <Link to="/library">Library</Link> · <Link to="/library/layouts">Memory layouts</Link>
      </p>
      <h1>{layout.title}</h1>
      <p className="quiet">
        {d.origin === 'shop' ? 'Layout of this shop' : 'Shipped with the app'}, version {layout.version}
        {d.newest ? '' : ' (an older one)'}.{' '}
        {layout.checked ? `Checked by ${layout.checked.by}, ${dateWords(layout.checked.on, units.dates)}.` : notChecked}
        {d.retired && ' No longer offered.'}
      </p>
      <p>{layout.source}</p>
      <p role="status" className={act.said ? styles.said : undefined}>
        {act.said}
      </p>
      <div className={styles.tools}>
        <Button component={Link} to={`/bench/memory?layout=${layout.id}`} variant="outlined">
          Read a memory with it
        </Button>
        <Button component="a" href={`/library/layouts/${layout.id}/export?version=${layout.version}`} variant="outlined" color="inherit">
          Export as YAML
        </Button>
        {d.mayEdit && d.newest && d.origin === 'shop' && <Retire retired={d.retired} act={act} />}
      </div>
      <p>
        For <Link to={`/library/${d.family.id}`}>{d.family.title}</Link>. {layout.bytes} bytes, {layout.order === 'high' ? 'high' : 'low'} byte first.
        An empty slot is {hex(layout.empty)} in every byte.
      </p>
      <h2>Map</h2>
      <p className="quiet">In order, not to scale. Addresses are hexadecimal.</p>
      <MemoryMap regions={regionsOf(layout)} base={layout.base} />
      <Fields layout={layout} />
      <Checks layout={layout} />
      {d.origin === 'shop' && <Versions at={`/library/layouts/${layout.id}`} shown={layout.version} versions={d.versions} />}
    </div>
  );
}

const hex = (n: number) => n.toString(16).toUpperCase().padStart(2, '0');
const places = (at: number, bytes: number) => (bytes === 1 ? String(at) : `${at} to ${at + bytes - 1}`);

function Fields({ layout }: { layout: Layout }) {
  return (
    <>
      <h2>One slot, {layout.slots.bytes} bytes</h2>
      <div className={memory.wide} tabIndex={0} role="group" aria-label="Fields of a slot, scrollable">
        <table className={memory.slots} aria-label="Fields of a slot">
          <thead>
            <tr>
              <th scope="col">Field</th>
              <th scope="col">Kind</th>
              <th scope="col">Bytes</th>
              <th scope="col">Values</th>
            </tr>
          </thead>
          <tbody>
            {layout.fields.map((f) => (
              <tr key={f.id}>
                <th scope="row">{f.title}</th>
                <td>{f.kind}</td>
                <td className="mono">{places(f.at, f.bytes)}</td>
                <td>
                  {Object.entries(f.values ?? {})
                    .map(([name, value]) => `${name} ${hex(value)}`)
                    .join(', ')}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}

const kindWords = { sum: 'bytes added up', xor: 'bytes XORed', crc16: 'CRC, polynomial 1021, from FFFF' } as const;

function Checks({ layout: { checksums, mirrors, slots } }: { layout: Layout }) {
  if (checksums.length + mirrors.length === 0) return <p>No checksum and no copy.</p>;
  return (
    <>
      <h2>Checksums and copies</h2>
      <ul>
        {checksums.map((c) => (
          <li key={c.id}>
            {c.title}: {kindWords[c.kind]}, over {c.over.bytes} bytes {c.each ? `of each of the ${slots.count} slots` : `from ${hex(c.over.at)}`}
            {c.inverted ? ', inverted' : ''}
          </li>
        ))}
        {mirrors.map((m) => (
          <li key={m.id}>
            {m.title}: {m.bytes} bytes from {hex(m.from)}, again from {hex(m.at)}
          </li>
        ))}
      </ul>
    </>
  );
}
