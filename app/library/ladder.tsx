import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { Link, redirect } from 'react-router';
import { formatOhms, lintLadder, parseLadderCsv } from '../../core/ladder';
import { ladderCsv, ladderNamed, parseLadderForm, saveLadder } from '../../server/ladders';
import { listMeters } from '../../server/meters';
import { Refused } from '../../server/expected';
import { here } from '../../server/requestContext';
import { may } from '../../server/rights';
import { LadderChart, Plot } from '../bench/ladder/Plot';
import { acting, notThere } from '../respond.server';
import { Choice } from '../ui/Choice';
import { newCommandId } from '../ui/commandId';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import type { Route } from './+types/ladder';
import styles from './library.module.css';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `${loaderData?.ladder?.title ?? 'A ladder'} · Bloodstone` }];
export const handle = {
  place: ({ ladder }: Route.ComponentProps['loaderData']) => ({ title: 'Library', detail: ladder ? ladder.title : 'a new ladder' }),
};

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const { db } = services.database;
  const mayEdit = may(session!.person, 'editLibrary');
  const found = params.ladderId === 'new' ? undefined : await ladderNamed(db, services.library, params.ladderId).catch(missing);
  return {
    ladder: found?.ladder ?? null,
    origin: found?.origin ?? 'shop',
    csv: found ? ladderCsv(found.ladder) : '',
    meters: await listMeters(db),
    mayEdit,
  };
}
const missing = (error: unknown): never => {
  if (error instanceof Refused) return notThere('No such ladder', 'This ladder is not in the library. Look at the list of ladders.');
  throw error;
};

export async function action(args: Route.ActionArgs) {
  const { services } = args.context.get(here);
  const id = args.params.ladderId === 'new' ? '' : args.params.ladderId;
  const answer = await acting('/library/ladders/:ladderId', args, {
    saveLadder: async ({ form, act }) => ({
      ...(await saveLadder(services.database.db, services.library, act(), id, parseLadderForm(form))),
      said: 'The ladder is saved.',
    }),
  });
  if ('id' in answer.data && id === '') throw redirect(`/library/ladders/${answer.data.id}`);
  return answer;
}

export default function LadderPage({ loaderData: d }: Route.ComponentProps) {
  const { ladder } = d;
  return (
    <div className={styles.page}>
      {ladder && (
        <>
          <h1>{ladder.title}</h1>
          <p>
            {ladder.source}{' '}
            {ladder.checked ? (
              `Checked by ${ladder.checked.by}, ${ladder.checked.on}.`
            ) : (
              <span className="typical">Checked by nobody against a source.</span>
            )}
          </p>
          <p className="quiet">
            {ladder.pellets === 2 ? 'Two pellets in a key, each read in both orientations. ' : 'One pellet in a key, read in both orientations. '}
            {ladder.contactOhms === undefined ? '' : `Good contacts and wires add at most ${formatOhms(ladder.contactOhms)}. `}
            {ladder.ppmPerKelvin === undefined ? '' : `${ladder.ppmPerKelvin} parts per million for a kelvin, from 20 °C. `}
            Version {ladder.version}.
          </p>
          <div className={styles.ladder}>
            <Plot say={`${ladder.steps.length} steps on a log axis`}>
              <LadderChart steps={ladder.steps} marked={null} readings={[]} near={null} />
            </Plot>
            <table>
              <thead>
                <tr>
                  <th scope="col">Step</th>
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
          <MeterNotes d={d} />
          <p>
            <a href={`/library/ladders/${ladder.id}/export`}>Save as YAML</a> ·{' '}
            <Link to={`/bench/ladder?ladder=${ladder.id}`}>Measure a key with it</Link> · <Link to="/library/ladders">All ladders</Link>
          </p>
        </>
      )}
      {!ladder && <h1>A ladder of this shop</h1>}
      {d.mayEdit ? (
        d.origin === 'shop' ? (
          <Edit key={ladder?.version ?? 0} d={d} />
        ) : (
          <p className="quiet">What is shipped is not edited. Save it as YAML, give it a name of your own, and take it in.</p>
        )
      ) : null}
    </div>
  );
}

/** Steps that a meter of the shop can't tell apart. */
function MeterNotes({ d }: { d: Route.ComponentProps['loaderData'] }) {
  const notes = d.meters.flatMap((m) => lintLadder(d.ladder!, m).filter((p) => p.severity === 'warning'));
  if (notes.length === 0) return d.meters.length === 0 ? null : <p className="quiet">Every meter of the shop tells all steps apart.</p>;
  return (
    <ul className={styles.warnings}>
      {notes.map((n) => (
        <li key={n.message}>{n.message}</li>
      ))}
    </ul>
  );
}

function Edit({ d }: { d: Route.ComponentProps['loaderData'] }) {
  const { ladder } = d;
  const act = useAct<typeof action>('ladder');
  const [title, setTitle] = useState(ladder?.title ?? '');
  const [source, setSource] = useState(ladder?.source ?? '');
  const [pellets, setPellets] = useState(ladder?.pellets ?? 1);
  const [contactOhms, setContact] = useState(ladder?.contactOhms === undefined ? '' : String(ladder.contactOhms));
  const [ppmPerKelvin, setPpm] = useState(ladder?.ppmPerKelvin === undefined ? '' : String(ladder.ppmPerKelvin));
  const [steps, setSteps] = useState(d.csv || 'step,nominal,low,high\n');
  const [check, setCheck] = useState(false);
  const read = parseLadderCsv(steps);
  const error = (path: string, help?: string) => ({ error: path in act.errors, helperText: act.errors[path] ?? help });
  const number = (text: string) => text.trim().replace(',', '.');
  return (
    <section className={styles.import} aria-label={ladder ? 'Edit the ladder' : 'The ladder'}>
      {ladder && <h2>Edit</h2>}
      <ProblemSummary errors={act.errors} />
      <p role="status">{act.said}</p>
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
        <legend className="label">Pellets in a key</legend>
        {([1, 2] as const).map((n) => (
          <Choice key={n} type="radio" name="pellets" value={n} checked={pellets === n} onChange={() => setPellets(n)}>
            {n === 1 ? 'one' : 'two, read one after the other'}
          </Choice>
        ))}
      </fieldset>
      <TextField
        label="Good contacts add at most, Ω"
        value={contactOhms}
        onChange={(e) => setContact(e.target.value)}
        {...error('contactOhms', 'Empty: not known.')}
      />
      <TextField
        label="Change with warmth, ppm for a kelvin"
        value={ppmPerKelvin}
        onChange={(e) => setPpm(e.target.value)}
        {...error('ppmPerKelvin', 'Empty: not known.')}
      />
      <TextField
        label="Steps, as CSV"
        value={steps}
        onChange={(e) => setSteps(e.target.value)}
        multiline
        minRows={8}
        maxRows={20}
        {...error('steps', 'step,nominal,low,high in ohms, a line for each. k is understood.')}
        slotProps={{ htmlInput: { maxLength: 60_000, spellCheck: false, style: { fontFamily: 'JetBrains Mono, monospace' } } }}
      />
      <label>
        Or a file{' '}
        <input
          type="file"
          accept=".csv,.txt"
          onChange={(event) => {
            const chosen = event.currentTarget.files?.[0];
            if (chosen && chosen.size < 60_000) void chosen.text().then(setSteps);
          }}
        />
      </label>
      {steps.trim() !== '' && steps.trim() !== 'step,nominal,low,high' && (
        <p className={read.ok ? 'quiet' : styles.problem} role="status">
          {read.ok
            ? `${read.value.length} ${read.value.length === 1 ? 'step' : 'steps'}, all of them told apart.`
            : read.problems
                .slice(0, 3)
                .map((p) => [p.path, p.message].filter(Boolean).join(': '))
                .join(' ')}
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
          act.sendJson(
            { intent: 'saveLadder', title, source, pellets, contactOhms: number(contactOhms), ppmPerKelvin: number(ppmPerKelvin), steps, check },
            newCommandId(),
          )
        }
      >
        Save the ladder
      </Button>
    </section>
  );
}
