import { Link } from 'react-router';
import { closedBecause } from '../../core/library';
import { onRecord } from '../../server/record/cases';
import { may } from '../../server/acts/rights';
import { here } from '../../server/http/requestContext';
import { parseDisposition, parseGrant, parseItemAndReason, parseSealing } from '../../server/vault/forms';
import { destroyItem, dispose, listSealed, sealItem } from '../../server/vault/items';
import { askRelease, grantRelease, isReleaseByTwo, pendingReleases } from '../../server/vault/release';
import { caseId, caseOf } from '../cases/caseId.server';
import { acting } from '../respond.server';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import { unlessTimers } from '../ui/looks';
import type { Route } from './+types/vault';
import { Item } from './Item';
import { SealForm } from './SealForm';
import styles from './vault.module.css';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `Vault${loaderData ? `, case ${loaderData.number}` : ''} · Bloodstone` }];
export const handle = {
  place: ({ number, vehicle }: Route.ComponentProps['loaderData']) => ({ title: `Case ${number}, vault`, detail: vehicle }),
};
export const shouldRevalidate = unlessTimers;

/** What is sealed in a case, as everybody may see it: names and sizes, nothing of what is in it. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const { db } = services.database;
  const record = await caseOf(context, params.caseId);
  const person = session!.person;
  const [items, releases, two] = await Promise.all([
    listSealed(db, record.id),
    pendingReleases(db, record.id, services.clock.now()),
    isReleaseByTwo(db),
  ]);
  return {
    id: record.id,
    number: record.number,
    vehicle: record.vehicle,
    open: record.state === 'open',
    shut: closedBecause('reveals', onRecord(record)),
    closed: services.keys.open ? null : services.keys.why,
    mayOpen: may(person, 'openSecrets'),
    two,
    items: items.map((item) => ({
      ...item,
      releases: releases
        .filter((r) => r.item === item.id)
        .map(({ id, by, byId, reason, granted }) => ({ id, by, reason, granted, mine: byId === person.id })),
    })),
  };
}

export async function action(args: Route.ActionArgs) {
  const { database, keys, files } = args.context.get(here).services;
  const { db } = database;
  const id = caseId(args.params.caseId);
  return acting('/cases/:caseId/vault', args, {
    seal: async ({ form: { file, ...form }, act }) => {
      const bytes = file instanceof Uint8Array && file.byteLength > 0 ? file : undefined;
      await sealItem({ db, keys, files }, act(), id, parseSealing(form), bytes);
      return { said: 'Sealed.' };
    },
    destroy: async ({ form, act }) => {
      const { item, reason } = parseItemAndReason(form);
      await destroyItem({ db, keys }, act(), id, item, reason);
      return { said: 'Destroyed. Nobody can open it any more, in no copy of the database either.' };
    },
    dispose: async ({ form, act }) => {
      const { item, ...what } = parseDisposition(form);
      await dispose(db, act(), id, item, what);
      return { said: 'Saved.' };
    },
    askRelease: async ({ form, act }) => {
      const { item, reason } = parseItemAndReason(form);
      await askRelease(db, act(), id, item, reason);
      return { said: 'Asked for. Another lead releases it on this page, within ten minutes.' };
    },
    grant: async ({ form, act }) => {
      await grantRelease(db, act(), id, parseGrant(form).release);
      return { said: 'Released for ten minutes.' };
    },
  });
}

/** The vault of a case: memory files, secrets and photos of labels that are sealed. */
export default function Vault({ loaderData: d }: Route.ComponentProps) {
  const act = useAct<typeof action>();
  return (
    <div className={styles.page}>
      <p>
        <Link to={`/cases/${d.id}`}>Back to the case</Link>
      </p>
      <h1>Vault</h1>
      <p>Memory files, secrets, photos of labels: encrypted, and opened only with a reason. Each opening is in the audit log.</p>
      {d.closed !== null && (
        <p role="alert" className={styles.closed}>
          The vault is closed. {d.closed}
        </p>
      )}
      {d.closed === null && d.shut.length > 0 && (
        <p className={styles.closed}>
          <b>Locked.</b> {d.shut.join(' ')} <Link to={`/cases/${d.id}#authority`}>Record it in the case</Link>
        </p>
      )}
      <ProblemSummary errors={act.errors} />
      <p role="status" className={act.said ? styles.said : undefined}>
        {act.said}
      </p>
      {d.items.length === 0 ? (
        <p className="quiet">Nothing is sealed in this case.</p>
      ) : (
        <ul className={styles.items} aria-label="Sealed items">
          {d.items.map((item) => (
            <Item key={item.id} page={d} item={item} act={act} />
          ))}
        </ul>
      )}
      {d.mayOpen ? (
        d.open && d.closed === null && d.shut.length === 0 && <SealForm key={d.items.length} act={act} />
      ) : (
        <p className="quiet">A lead seals and opens.</p>
      )}
    </div>
  );
}
