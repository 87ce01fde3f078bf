import { useUnits } from '../ui/clock';
import { dateWords } from '../../core/units';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { Link, redirect } from 'react-router';
import { formatOhms, type Ladder, lintLadder, mostSteps, parseLadderCsv } from '../../core/ladder';
import { ladderCsv, ladderVersions, parseLadderForm, saveLadder } from '../../server/library/ladders';
import { keptMeters } from '../../server/shop/meters';
import { here } from '../../server/http/requestContext';
import { may } from '../../server/acts/rights';
import { isRetired, setRetired } from '../../server/library/shopDocuments';
import { LadderChart, Plot } from '../bench/ladder/Plot';
import { acting, notThere } from '../respond.server';
import { Choice } from '../ui/Choice';
import { ProblemSummary } from '../ui/problems';
import { TypedTable } from '../ui/TypedTable';
import { useAct } from '../ui/useAct';
import { askedVersion } from './askedVersion';
import { notChecked } from './notChecked';
import { Retire } from './Retire';
import { Versions } from './Versions';
import type { Route } from './+types/ladder';
import styles from './library.module.css';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `${loaderData?.ladder?.title ?? 'A value chart'} · Bloodstone` }];
export const handle = {
  place: ({ ladder }: Route.ComponentProps['loaderData']) => ({ title: 'Library', detail: ladder ? ladder.title : 'a new value chart' }),
};

/** `new` in place of a name: a ladder that is not saved yet, as a copy of `from` where that is said. */
export async function loader({ params, request, context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const { db } = services.database;
  const asked = new URL(request.url).searchParams;
  const mayEdit = may(session!.person, 'editLibrary');
  const isNew = params.ladderId === 'new';
  const versions = await ladderVersions(db, isNew ? (asked.get('from') ?? '') : params.ladderId);
  const shown = askedVersion(versions, isNew ? null : asked.get('version'));
  if (!isNew && !shown) return notThere('Value chart not found', 'The library has no value chart of this name in this version.');
  const newest = shown === versions[0];
  const retired = !isNew && (await isRetired(db, 'ladder', params.ladderId));
  return {
    ladder: isNew ? null : shown!.ladder,
    /** What the form begins with. */
    start: shown ? { ...shown.ladder, ...(isNew ? { title: '', source: `Copied from ${shown.ladder.title}. ${shown.ladder.source}` } : {}) } : null,
    csv: shown ? ladderCsv(shown.ladder) : '',
    origin: shown?.origin ?? 'shop',
    newest,
    retired,
    mayEdit,
    editable: mayEdit && (isNew || (newest && !retired && shown!.origin === 'shop')),
    versions: isNew ? [] : versions.map((v) => ({ version: v.pin.version, at: v.enteredAt, by: v.by })),
    meters: await keptMeters(services),
  };
}
type Data = Route.ComponentProps['loaderData'];
/** What the server takes for the steps, characters. */
const mostBytes = 60_000;

export async function action(args: Route.ActionArgs) {
  const { db } = args.context.get(here).services.database;
  const id = args.params.ladderId;
  const answer = await acting('/library/ladders/:ladderId', args, {
    save: async ({ form, act }) => {
      const { version, ...saved } = await saveLadder(db, act(), id === 'new' ? '' : id, parseLadderForm(form));
      return { id: saved.id, said: `Saved as version ${version}.` };
    },
    retire: async ({ act }) => {
      await setRetired(db, act(), 'ladder', id, true);
      return { said: 'No longer offered. Measurements made with it keep it.' };
    },
    restore: async ({ act }) => {
      await setRetired(db, act(), 'ladder', id, false);
      return { said: 'Offered again.' };
    },
  });
  if ('id' in answer.data && id === 'new') throw redirect(`/library/ladders/${answer.data.id}`);
  return answer;
}

/** A ladder with its picture and its steps; the shop's own are edited here. */
export default function LadderPage({ loaderData: d }: Route.ComponentProps) {
  const units = useUnits();
  const act = useAct<typeof action>('ladder');
  const { ladder } = d;
  return (
    <div className={styles.page}>
      <p>
        <Link to="/library">Library</Link> · <Link to="/library/ladders">Value charts of resistor keys</Link>
      </p>
      <h1>{ladder?.title ?? 'A value chart of this shop'}</h1>
      {ladder && (
        <>
          <p className="quiet">
            {d.origin === 'shop' ? 'Value chart of this shop' : 'Shipped with the app'}, version {ladder.version}
            {d.newest ? '' : ' (an older one)'}.{' '}
            {ladder.checked ? `Checked by ${ladder.checked.by}, ${dateWords(ladder.checked.on, units.dates)}.` : notChecked}
            {d.retired && ' No longer offered.'}
          </p>
          <p>{ladder.source}</p>
        </>
      )}
      <p role="status" className={act.said ? styles.said : undefined}>
        {act.said}
      </p>
      {ladder && (
        <>
          <div className={styles.tools}>
            <Button component={Link} to={`/bench/ladder?ladder=${ladder.id}`} variant="outlined">
              Measure a key with it
            </Button>
            {d.mayEdit && (
              <Button component={Link} to={`/library/ladders/new?from=${ladder.id}`} variant="outlined" color="inherit">
                {d.origin === 'shop' ? 'Copy' : 'Copy to a shop value chart'}
              </Button>
            )}
            <Button component="a" href={`/library/ladders/${ladder.id}/export?version=${ladder.version}`} variant="outlined" color="inherit">
              Export as YAML
            </Button>
            {d.mayEdit && d.newest && d.origin === 'shop' && <Retire retired={d.retired} act={act} />}
          </div>
          <Steps ladder={ladder} />
          <MeterNotes ladder={ladder} meters={d.meters} />
        </>
      )}
      {d.editable && !ladder && <Edit key={d.start?.id ?? 'new'} d={d} act={act} />}
      {d.editable && ladder && (
        <details key={ladder.version} className={styles.more}>
          <summary>Change it</summary>
          <Edit d={d} act={act} />
        </details>
      )}
      {ladder && d.origin === 'shop' && <Versions at={`/library/ladders/${ladder.id}`} shown={ladder.version} versions={d.versions} />}
    </div>
  );
}

function Steps({ ladder }: { ladder: Ladder }) {
  return (
    <>
      <p>
        {ladder.pellets === 2
          ? 'Two resistor chips in the key, each measured in both directions. '
          : 'One resistor chip in the key, measured in both directions. '}
        {ladder.contactOhms === undefined ? '' : `Good contacts and wires add at most ${formatOhms(ladder.contactOhms)}. `}
        {ladder.ppmPerKelvin === undefined ? '' : `${ladder.ppmPerKelvin} ppm/K temperature coefficient, from 20 °C. `}
      </p>
      <div className={styles.ladder}>
        <Plot say={`${ladder.steps.length} values on a log axis`}>
          <LadderChart steps={ladder.steps} marked={null} readings={[]} near={null} />
        </Plot>
        <table>
          <thead>
            <tr>
              <th scope="col">Value</th>
              <th scope="col">Nominal</th>
              <th scope="col">From</th>
              <th scope="col">To</th>
            </tr>
          </thead>
          <tbody>
            {ladder.steps.map((s) => (
              <tr key={s.step}>
                <th scope="row">{s.step}</th>
                <td className="mono">{formatOhms(s.nominal)}</td>
                <td className="mono">{formatOhms(s.low)}</td>
                <td className="mono">{formatOhms(s.high)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}

/** Steps that a meter of the shop can't tell apart. */
function MeterNotes({ ladder, meters }: { ladder: Ladder; meters: Data['meters'] }) {
  const notes = meters.flatMap((m) => lintLadder(ladder, m).filter((p) => p.severity === 'warning'));
  if (notes.length === 0) return meters.length === 0 ? null : <p className="quiet">Every meter of the shop tells all values apart.</p>;
  return (
    <ul className={styles.warnings}>
      {notes.map((n) => (
        <li key={n.message}>{n.message}</li>
      ))}
    </ul>
  );
}

function Edit({ d, act }: { d: Data; act: ReturnType<typeof useAct<typeof action>> }) {
  const { ladder, start } = d;
  const [title, setTitle] = useState(start?.title ?? '');
  const [source, setSource] = useState(start?.source ?? '');
  const [pellets, setPellets] = useState(start?.pellets ?? 1);
  const [contactOhms, setContact] = useState(String(start?.contactOhms ?? ''));
  const [ppmPerKelvin, setPpm] = useState(String(start?.ppmPerKelvin ?? ''));
  const [steps, setSteps] = useState(d.csv || 'step,nominal,low,high\n');
  const [check, setCheck] = useState(false);
  const [tooLarge, setTooLarge] = useState(false);
  const error = (path: string, help?: string) => ({ error: path in act.errors, helperText: act.errors[path] ?? help });
  const number = (text: string) => text.trim().replace(',', '.');
  return (
    <section className={styles.import} aria-label={ladder ? 'Edit the value chart' : 'The value chart'}>
      <ProblemSummary errors={act.errors} />
      <TextField
        label="Name"
        value={title}
        onChange={(e) => setTitle(e.target.value)}
        {...error('title')}
        slotProps={{ htmlInput: { maxLength: 120 } }}
      />
      <TextField
        label="Where the numbers come from"
        value={source}
        onChange={(e) => setSource(e.target.value)}
        {...error('source', 'Document and page.')}
        slotProps={{ htmlInput: { maxLength: 600 } }}
      />
      <fieldset className={styles.choices}>
        <legend className="label">Resistor chips in a key</legend>
        {([1, 2] as const).map((n) => (
          <Choice key={n} type="radio" name="pellets" value={n} checked={pellets === n} onChange={() => setPellets(n)}>
            {n === 1 ? 'one' : 'two, measured one after the other'}
          </Choice>
        ))}
      </fieldset>
      <TextField
        label="Good contacts add at most, Ω"
        value={contactOhms}
        onChange={(e) => setContact(e.target.value)}
        {...error('contactOhms', 'Leave empty if not known.')}
      />
      <TextField
        label="Temperature coefficient, ppm/K"
        value={ppmPerKelvin}
        onChange={(e) => setPpm(e.target.value)}
        {...error('ppmPerKelvin', 'Leave empty if not known.')}
      />
      <p className="quiet">Nominal value and window of each, in ohms; k is understood.</p>
      <TypedTable
        label="Values"
        columns={{ step: 'Value', nominal: 'Nominal', low: 'From', high: 'To' }}
        text={steps}
        put={setSteps}
        read={parseLadderCsv(steps)}
        fine={(read) => `${read.length} ${read.length === 1 ? 'value' : 'values'}, all of them told apart.`}
      />
      <label>
        Or a file{' '}
        <input
          type="file"
          accept=".csv,.txt"
          onChange={(event) => {
            const chosen = event.currentTarget.files?.[0];
            setTooLarge(chosen !== undefined && chosen.size >= mostBytes);
            if (chosen && chosen.size < mostBytes) void chosen.text().then(setSteps);
          }}
        />
      </label>
      {tooLarge && (
        <p className={styles.problem} role="alert">
          The file is larger than {mostBytes / 1000} kB. A value chart has {mostSteps} values at most; choose the right file.
        </p>
      )}
      <Choice type="checkbox" name="check" checked={check} onChange={(e) => setCheck(e.target.checked)}>
        I compared every number with the source
      </Choice>
      <Button
        variant="contained"
        loading={act.busy}
        sx={{ justifySelf: 'start' }}
        onClick={() =>
          act.sendJson({
            intent: 'save',
            from: ladder?.version ?? 0,
            title,
            source,
            pellets,
            contactOhms: number(contactOhms),
            ppmPerKelvin: number(ppmPerKelvin),
            steps,
            check,
          })
        }
      >
        {ladder ? `Save as version ${d.versions[0]!.version + 1}` : 'Save the value chart'}
      </Button>
    </section>
  );
}
