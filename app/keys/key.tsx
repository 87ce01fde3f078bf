import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { Form, Link, redirect } from 'react-router';
import { gridCell, heldTags } from '../../core/keys';
import { abilities, type Ability, abilityResults, type KeyKind, keyKinds, keyRoles } from '../../core/library';
import { entriesOf } from '../../server/record/cases';
import { parseCustody, parseKey, parseKeyChange } from '../../server/cases/forms';
import { addKey, changeKey, recordCustody } from '../../server/cases/keys';
import { here } from '../../server/http/requestContext';
import { caseId, caseOf } from '../cases/caseId.server';
import { freeTag, type KeyFields, newKeyPlan } from '../intake/fields';
import { NewKey } from '../intake/KeyPart';
import { KeyDrawing, keyParts, partStates } from '../drawings/KeyDrawing';
import { Field, Pick } from '../intake/parts';
import { Photos } from '../photos/Photos';
import { acting, notThere } from '../respond.server';
import { useTimes } from '../ui/clock';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import { unlessTimers } from '../ui/looks';
import type { Route } from './+types/key';
import styles from './key.module.css';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `Key ${loaderData?.key?.tag ?? ''} · Bloodstone` }];
export const handle = {
  place: ({ number, key, vehicle }: Route.ComponentProps['loaderData']) => ({
    title: key ? `Case ${number}, tag ${key.tag}` : `Case ${number}, a key`,
    detail: vehicle,
  }),
};
export const shouldRevalidate = unlessTimers;

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const record = await caseOf(context, params.caseId);
  const family = await services.documents.family(record.family);
  const profile = record.profile ? await services.documents.profile(record.profile) : undefined;
  const isNew = params.tag === 'new';
  const key = record.keys.find((k) => k.tag === params.tag.toUpperCase()) ?? null;
  if (!key && !isNew) notThere('Key not found', `Case ${record.number} has no key with the tag ${params.tag.slice(0, 10)}. The case lists its keys.`);
  const entries = entriesOf(record, family);
  return {
    id: record.id,
    number: record.number,
    vehicle: record.vehicle,
    open: record.state === 'open',
    key,
    tag: freeTag(
      [...record.keys, ...record.parts].map((k) => k.tag),
      'key',
    ),
    held: key ? heldTags(record.custody).includes(key.tag) : false,
    customer: record.customer?.name ?? '',
    custody: record.custody.filter((c) => c.tag === key?.tag),
    cells: key ? (Object.keys(abilities) as Ability[]).map((ability) => ({ ability, ...gridCell(entries, key.tag, ability) })) : [],
    photos: record.photos.filter((p) => p.keyTag === key?.tag),
    needs: { family: family.newKey, profile: profile?.newKey },
  };
}

export async function action(args: Route.ActionArgs) {
  const { db } = args.context.get(here).services.database;
  const id = caseId(args.params.caseId);
  const answer = await acting('/cases/:caseId/keys/:tag', args, {
    change: async ({ form, act }): Promise<{ said: string; to?: string }> => {
      await changeKey(db, act(), id, args.params.tag.toUpperCase(), parseKeyChange(form));
      return { said: 'Saved.' };
    },
    add: async ({ form, act }) => {
      const key = parseKey(form);
      await addKey(db, act(), id, key);
      return { said: 'Added.', to: `/cases/${id}/keys/${key.tag}` };
    },
    custody: async ({ form, act }) => {
      await recordCustody(db, act(), id, parseCustody(form));
      return { said: 'Recorded.' };
    },
  });
  if ('to' in answer.data && answer.data.to) throw redirect(answer.data.to);
  return answer;
}

export default function Key({ loaderData: d }: Route.ComponentProps) {
  return <KeyPage key={d.key?.tag ?? 'new'} d={d} />;
}

type KeyChangeFields = Omit<KeyFields, 'tag' | 'here' | 'told'>;

const fieldsOf = (key: Route.ComponentProps['loaderData']['key']): KeyChangeFields => ({
  role: key?.role ?? 'unknown',
  kind: key?.kind ?? 'unknown',
  marks: key?.marks ?? '',
  colour: key?.colour ?? '',
  condition: key?.condition ?? '',
  cell: key?.cell ?? '',
  note: key?.note ?? '',
  toFit: key?.toFit ? { ...newKeyPlan(), ...key.toFit, price: key.toFit.price === undefined ? '' : String(key.toFit.price) } : null,
});

function KeyPage({ d }: { d: Route.ComponentProps['loaderData'] }) {
  const { hm } = useTimes();
  const act = useAct<typeof action>();
  const [f, setF] = useState(() => fieldsOf(d.key));
  const [tag, setTag] = useState(d.tag);
  const [isHere, setHere] = useState(true);
  const put = (name: keyof typeof f) => (value: string) => setF((before) => ({ ...before, [name]: value }));
  const bound = (name: Exclude<keyof typeof f, 'toFit'>) => ({ name, value: f[name], put: put(name), errors: act.errors, disabled: !d.open });
  const save = () => act.sendJson(d.key ? { intent: 'change', ...f } : { intent: 'add', tag, here: isHere && f.toFit === null, ...f });
  return (
    <div className={styles.page}>
      <div className={styles.head}>
        <h1>{d.key ? `Tag ${d.key.tag}` : 'Another key'}</h1>
        {d.key && <span className="mono quiet">{d.key.code}</span>}
        <Link to={`/cases/${d.id}`}>Back to the case</Link>
        {d.key && <Link to={`/cases/${d.id}/labels`}>Print labels</Link>}
      </div>
      <ProblemSummary errors={act.errors} />
      {d.key && <Parts kind={f.kind as KeyKind} cells={d.cells} />}
      <form
        className={styles.form}
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          save();
        }}
      >
        <div className={styles.fields}>
          {!d.key && (
            <Field name="tag" label="Tag" value={tag} put={setTag} errors={act.errors} max={3} slotProps={{ htmlInput: { className: 'mono' } }} />
          )}
          <Pick {...bound('kind')} label="Kind" options={keyKinds} />
          <Pick {...bound('role')} label="Role (as told)" options={keyRoles} />
          <Field {...bound('marks')} label="Marks" max={120} />
          <Field {...bound('colour')} label="Color" max={40} />
          <Field {...bound('condition')} label="Condition" max={120} />
          <Field {...bound('cell')} label="Key battery" max={40} />
          <Field {...bound('note')} label="Note" max={120} />
        </div>
        {!d.key && (
          <div className={styles.checks}>
            <label>
              <input type="checkbox" checked={isHere} disabled={f.toFit !== null} onChange={(event) => setHere(event.target.checked)} /> is here
            </label>
            <label>
              <input
                type="checkbox"
                checked={f.toFit !== null}
                onChange={(event) => setF((b) => ({ ...b, toFit: event.target.checked ? newKeyPlan() : null }))}
              />{' '}
              a new key to be made
            </label>
          </div>
        )}
        {f.toFit && (
          <NewKey
            value={f.toFit}
            path="toFit"
            kind={f.kind}
            errors={act.errors}
            put={(name, value) => setF((b) => ({ ...b, toFit: b.toFit && { ...b.toFit, [name]: value } }))}
            needs={d.needs}
          />
        )}
        {d.open && (
          <div className={styles.checks}>
            <Button type="submit" variant="contained" loading={act.busy}>
              {d.key ? 'Save' : 'Add the key'}
            </Button>
            <span role="status" className="quiet">
              {act.said}
            </span>
          </div>
        )}
      </form>
      {d.key && (
        <>
          <section className={styles.section} aria-labelledby="grid">
            <h2 id="grid">What this key does</h2>
            <table className={styles.grid}>
              <thead>
                <tr>
                  <th scope="col">Ability</th>
                  <th scope="col">The customer says</th>
                  <th scope="col">First seen</th>
                  <th scope="col">Now</th>
                </tr>
              </thead>
              <tbody>
                {d.cells.map((c) => (
                  <tr key={c.ability}>
                    <th scope="row">{abilities[c.ability]}</th>
                    <td>{c.told ? abilityResults[c.told.result] : ''}</td>
                    <td>{c.before && <Seen entry={c.before} />}</td>
                    <td>{c.now && <Seen entry={c.now} />}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
          <section className={styles.section} aria-labelledby="custody">
            <h2 id="custody">Who has the key</h2>
            {d.custody.length === 0 ? (
              <p>{d.key.toFit ? 'The shop’s own, until it is handed over.' : 'Never been here.'}</p>
            ) : (
              <ol>
                {d.custody.map((c) => (
                  <li key={c.at}>
                    <span className="mono">{hm(c.at)}</span> {c.act} {c.person && (c.act === 'received' ? `from ${c.person}` : `to ${c.person}`)} by{' '}
                    {c.by}
                  </li>
                ))}
              </ol>
            )}
            {d.open && (
              <Form className={styles.checks} onSubmit={act.send('custody')}>
                <input type="hidden" name="tag" value={d.key.tag} />
                <input type="hidden" name="act" value={d.held ? 'returned' : 'received'} />
                <TextField
                  key={d.custody.length}
                  name="person"
                  label={d.held ? 'Returned to' : 'Received from'}
                  size="small"
                  placeholder={d.customer || 'the customer'}
                  sx={{ maxWidth: 260 }}
                  slotProps={{ htmlInput: { maxLength: 80 }, inputLabel: { shrink: true } }}
                />
                <Button type="submit" variant="outlined">
                  {d.held ? 'Return the key' : 'Receive the key'}
                </Button>
              </Form>
            )}
          </section>
          <section className={styles.section} aria-labelledby="photos">
            <h2 id="photos">Photos</h2>
            <Photos caseId={d.id} photos={d.photos} keyTag={d.key.tag} closed={!d.open} />
          </section>
        </>
      )}
    </div>
  );
}

const stateSays = { works: 'works', fails: 'does not work', untried: 'not tried yet' };

/** The key drawn, each of its parts as it was seen last; what only the customer says is not drawn. */
function Parts({ kind, cells }: { kind: KeyKind; cells: Route.ComponentProps['loaderData']['cells'] }) {
  const parts = partStates(kind, Object.fromEntries(cells.map((c) => [c.ability, (c.now ?? c.before)?.result])));
  return (
    <figure className={styles.parts}>
      <KeyDrawing kind={kind} states={Object.fromEntries(parts.map(({ part, state }) => [part, state]))} width={220} />
      <figcaption>
        <ul>
          {parts.map(({ part, state }) => (
            <li key={part} data-state={state}>
              <b>{kind === 'pellet' && part === 'chip' ? 'Resistor chip' : keyParts[part].say}</b> {stateSays[state]}
            </li>
          ))}
        </ul>
      </figcaption>
    </figure>
  );
}

const sourceWords = { told: 'told', seen: 'tried', test: 'by a test', run: 'in a run' };

function Seen({ entry }: { entry: { result: keyof typeof abilityResults; source: keyof typeof sourceWords; by: string; at: number } }) {
  const { hm } = useTimes();
  return (
    <>
      <b>{abilityResults[entry.result]}</b>{' '}
      <span className="quiet">
        {sourceWords[entry.source]}, <span className="mono">{hm(entry.at)}</span>, {entry.by}
      </span>
    </>
  );
}
