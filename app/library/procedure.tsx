import Button from '@mui/material/Button';
import { Form, Link, redirect } from 'react-router';
import { type Family, fillText, formatParams, gates, resolveParams, valuesOf, withNumbers } from '../../core/library';
import { compile, leafTitle, outline, type Procedure } from '../../core/procedure';
import { dateWords } from '../../core/units';
import { here } from '../../server/http/requestContext';
import {
  copyProcedure,
  headOf,
  parseProcedureForm,
  parseStepsForm,
  procedureVersions,
  saveProcedure,
  saveSteps,
} from '../../server/library/procedures';
import { stepNotes } from '../../server/runs/notes';
import { isRetired, setRetired } from '../../server/library/shopDocuments';
import { may } from '../../server/acts/rights';
import { acting, notThere } from '../respond.server';
import { Sequence } from '../run/Sequence';
import { useUnits } from '../ui/clock';
import { useAct } from '../ui/useAct';
import type { Route } from './+types/procedure';
import { askedVersion } from './askedVersion';
import { notChecked } from './notChecked';
import { Changed } from './procedure/Changed';
import { CopyEditor } from './procedure/CopyEditor';
import { Editor } from './procedure/Editor';
import { Retire } from './Retire';
import { Versions } from './Versions';
import styles from './library.module.css';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `${loaderData?.procedure?.title ?? 'A procedure of this shop'} · Bloodstone` }];
export const handle = {
  place: ({ procedure }: Route.ComponentProps['loaderData']) => ({ title: 'Library', detail: procedure ? procedure.title : 'a new procedure' }),
};

/** `new` in place of a name: one that is not saved yet. */
export async function loader({ params, request, context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const { db } = services.database;
  const { library } = services;
  const asked = new URL(request.url).searchParams;
  const mayEdit = may(session!.person, 'editLibrary');
  const isNew = params.procedureId === 'new';
  if (isNew && !mayEdit) return notThere('Not for everybody', 'A lead writes procedures of the shop. Ask the lead.');
  const versions = isNew ? [] : await procedureVersions(db, params.procedureId);
  const shown = askedVersion(versions, asked.get('version'));
  if (!isNew && !shown) return notThere('Procedure not found', 'The library has no procedure of this name in this version.');
  const family = shown && library.families.get(shown.procedure.family);
  // One for every vehicle rests on numbers that all of them have.
  const numbers = shown && withNumbers(family ?? [...library.families.values()][0]!, shown.procedure);
  const before = shown && versions.find((v) => v.pin.version === shown.pin.version - 1);
  const retired = !isNew && (await isRetired(db, 'procedure', params.procedureId));
  return {
    procedure: shown?.procedure ?? null,
    head: shown ? headOf(shown.procedure) : null,
    before: before?.procedure ?? null,
    /** Notes of runs with it, or with what it was copied from, by step. */
    notes: mayEdit && shown && !shown.procedure.written ? await stepNotes(services, notesOf(shown.procedure)) : [],
    family: family ? { id: family.id, title: family.title } : null,
    values: numbers ? valuesOf(resolveParams(numbers)) : {},
    /** What stands for the names in its texts: typical numbers, and keys by the tags that they mostly have. */
    words: { ...(numbers ? wordsOf(numbers) : {}), main: 'A', key: 'B', round: '1' } as Record<string, string>,
    families: [...library.families.values()].map((f) => ({ id: f.id, title: f.title })).sort((a, b) => (a.title < b.title ? -1 : 1)),
    asked: asked.get('family') ?? '',
    cautions: [...library.cautions.values()].map((c) => ({ id: c.id, say: c.say })),
    origin: shown?.origin ?? 'shop',
    newest: shown === versions[0],
    retired,
    mayEdit,
    versions: versions.map((v) => ({ version: v.pin.version, at: v.enteredAt, by: v.by })),
  };
}
const notesOf = ({ id, copyOf }: Procedure): string[] => [id, ...(copyOf ? [copyOf.id] : [])];
const wordsOf = (family: Family) => {
  const params = resolveParams(family);
  return Object.fromEntries(formatParams(params, Object.keys(params)).map((p) => [p.name, p.value]));
};
type Data = Route.ComponentProps['loaderData'];

export async function action(args: Route.ActionArgs) {
  const { services } = args.context.get(here);
  const { db } = services.database;
  const id = args.params.procedureId;
  const answer = await acting('/library/procedures/:procedureId', args, {
    save: async ({ form, act }) => {
      const saved = await saveProcedure(db, services.library, act(), id === 'new' ? '' : id, parseProcedureForm(form));
      return { id: saved.id, said: `Saved as version ${saved.version}. A run that was started before keeps its own version.` };
    },
    steps: async ({ form, act }) => {
      const saved = await saveSteps(db, services.library, act(), id, parseStepsForm(form));
      return { id: saved.id, said: `Saved as version ${saved.version}. A run that was started before keeps its own version.` };
    },
    copy: async ({ act }) => ({ ...(await copyProcedure(db, services.library, act(), id)), said: '' }),
    retire: async ({ act }) => {
      await setRetired(db, act(), 'procedure', id, true);
      return { said: 'No longer offered. Runs that were made with it keep it.' };
    },
    restore: async ({ act }) => {
      await setRetired(db, act(), 'procedure', id, false);
      return { said: 'Offered again.' };
    },
  });
  if ('id' in answer.data && answer.data.id !== id) throw redirect(`/library/procedures/${answer.data.id}`);
  return answer;
}

/** A procedure with its steps; a shop's own is written from a text here, and mended step by step. */
export default function ProcedurePage({ loaderData: d }: Route.ComponentProps) {
  const act = useAct<typeof action>('procedure');
  const { procedure } = d;
  const editable = d.mayEdit && d.origin === 'shop' && !d.retired && (!procedure || d.newest);
  return (
    <div className={styles.page} data-wide={editable || undefined}>
      <p>
        <Link to="/library">Library</Link>
        {procedure && ' · '}
        {d.family ? <Link to={`/library/${d.family.id}`}>{d.family.title}</Link> : procedure && 'for every vehicle'}
      </p>
      <h1>{procedure?.title ?? 'A procedure from a text'}</h1>
      {procedure ? (
        <About d={d} procedure={procedure} act={act} line={!editable} />
      ) : (
        <p className="quiet">
          Paste the text of the service information. Each sentence becomes a step with its times and counts; you check each one, and the vehicle has
          its own run. Nothing leaves this shop.
        </p>
      )}
      <p role="status" className={act.said ? styles.said : undefined}>
        {act.said}
      </p>
      {editable && procedure && !procedure.written && (
        <CopyEditor
          key={`${procedure.id} ${procedure.version}`}
          procedure={procedure}
          notes={d.notes}
          values={d.values}
          cautions={d.cautions}
          act={act}
        />
      )}
      {editable && (!procedure || procedure.written) && <Editor key={`${procedure?.id ?? 'new'} ${procedure?.version ?? 0}`} d={d} act={act} />}
      {procedure && !editable && <Steps procedure={procedure} words={d.words} notes={d.notes} />}
      {procedure && d.before && <Changed before={d.before} now={procedure} />}
      {procedure && d.origin === 'shop' && <Versions at={`/library/procedures/${procedure.id}`} shown={procedure.version} versions={d.versions} />}
    </div>
  );
}

function About({ d, procedure, act, line }: { d: Data; procedure: Procedure; act: ReturnType<typeof useAct<typeof action>>; line: boolean }) {
  const units = useUnits();
  return (
    <>
      <p className="quiet">
        {d.origin === 'shop' ? 'Procedure of this shop' : 'Shipped with the app'}, version {procedure.version}
        {d.newest ? '' : ' (an older one)'}.{' '}
        {procedure.checked ? `Checked by ${procedure.checked.by}, ${dateWords(procedure.checked.on, units.dates)}.` : notChecked}
        {d.retired && ' No longer offered.'}
      </p>
      <p>
        {procedure.text} {gates[procedure.effect].says}
      </p>
      <p className="quiet">{procedure.source}</p>
      {line && <Sequence marks={outline(compile(procedure), d.values, ['A', 'B'])} wait={undefined} now={0} />}
      <div className={styles.tools}>
        <Button component="a" href={`/library/procedures/${procedure.id}/export?version=${procedure.version}`} variant="outlined" color="inherit">
          Export as YAML
        </Button>
        {d.mayEdit && d.newest && (
          <Form method="post" onSubmit={act.send('copy')}>
            <Button type="submit" variant="outlined" loading={act.busy}>
              Copy to a procedure of the shop
            </Button>
          </Form>
        )}
        {d.mayEdit && d.newest && d.origin === 'shop' && <Retire retired={d.retired} act={act} />}
      </div>
    </>
  );
}

/** Its instructions in their order, those of loops and choices too. */
function Steps({ procedure, words, notes }: { procedure: Procedure; words: Record<string, string>; notes: Data['notes'] }) {
  const leaves = compile(procedure).nodes.flatMap((n) => (n.op === 'leaf' ? [n.step] : []));
  return (
    <>
      <h2>Steps</h2>
      <ol className={styles.steps}>
        {leaves.map((s) => (
          <li key={s.id}>
            {fillText(leafTitle(s), words)}
            {'hint' in s && s.hint && <small className="quiet"> {fillText(s.hint, words)}</small>}
            {notes
              .filter((n) => n.step === s.id)
              .map((n, i) => (
                <small key={i} className={styles.note}>
                  Noted in a run: “{n.note}” ({n.by})
                </small>
              ))}
          </li>
        ))}
      </ol>
    </>
  );
}
