import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { type Combination, formatOhms, inWords, parseReading, parseTolerance, type SeriesName, seriesNames, seriesValues } from '../../core/ladder';
import { closedBecause } from '../../core/library';
import { onRecord } from '../../server/record/cases';
import { keptDrawer } from '../../server/shop/drawer';
import { offeredLadders } from '../../server/library/ladders';
import { testsOf } from '../../server/ledger/measurements/record';
import { parseBenchQuery } from '../../server/cases/queries';
import { here } from '../../server/http/requestContext';
import { Field } from '../intake/parts';
import { Cautions, useCautions } from '../ui/Cautions';
import { ProblemSummary } from '../ui/problems';
import { readQuantity } from '../../core/units';
import { useAct } from '../ui/useAct';
import type { Route } from './+types/substitute';
import { benchCase } from './benchCase.server';
import bench from './bench.module.css';
import { CasePick } from './CasePick';
import { Schematic } from './ladder/Schematic';
import { useSubstitutes } from './ladder/useSubstitutes';
import styles from './substitute.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Substitute · Bloodstone' }];
export const handle = {
  place: ({ chosen }: Route.ComponentProps['loaderData']) => ({
    title: 'Substitute',
    detail: chosen ? `case ${chosen.number} · ${chosen.vehicle}` : 'a resistor in place of the contacts',
  }),
};

export async function loader({ request, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const { library, documents } = services;
  const params = new URL(request.url).searchParams;
  const query = parseBenchQuery(params);
  const { record, cases } = await benchCase(services, query.caseId);
  const family = record ? await documents.family(record.family) : undefined;
  const profile = record?.profile ? await documents.profile(record.profile) : undefined;
  const ladders = (await offeredLadders(services, profile?.ladder)).map((l) => l.ladder);
  const ladder = ladders.find((l) => l.id === (query.ladder || profile?.ladder)) ?? ladders[0];
  const test = family ? testsOf(family, 'substitute')[0] : undefined;
  const asked = params.get('step');
  return {
    cases,
    chosen: record ? { id: record.id, number: record.number, vehicle: record.vehicle } : null,
    test: test
      ? {
          id: test.id,
          title: test.title,
          as: test.instrument!.as,
          outcomes: Object.fromEntries(Object.entries(test.outcomes).map(([id, o]) => [id, o.say])),
        }
      : null,
    shut: record ? closedBecause(test?.effect ?? 'standsIn', onRecord(record)) : [],
    ladders: ladders.map((l) => ({ id: l.id, title: l.title, steps: l.steps })),
    ladder: ladder?.id ?? '',
    step: ladder?.steps.find((s) => String(s.step) === asked)?.step ?? null,
    drawer: await keptDrawer(services),
    cautions: Object.fromEntries(['supplyOff', 'testOnly'].flatMap((id) => (library.cautions.has(id) ? [[id, library.cautions.get(id)!]] : []))),
  };
}

const ohmsWanted = { unit: 'Ω' };

/** A resistor for a step: from what is at hand, inside the window with every part at its limit. */
export default function Substitute({ loaderData: d }: Route.ComponentProps) {
  const navigate = useNavigate();
  const search = (to: Record<string, string>) => {
    const all = { ...(d.chosen ? { case: String(d.chosen.id) } : {}), ladder: d.ladder, ...(d.step === null ? {} : { step: String(d.step) }), ...to };
    void navigate(`?${new URLSearchParams(Object.entries(all).filter(([, v]) => v !== ''))}`, { replace: true, preventScrollReset: true });
  };
  return <Worksheet key={`${d.chosen?.id ?? 'bench'} ${d.ladder} ${d.step}`} d={d} search={search} />;
}

function Worksheet({ d, search }: { d: Route.ComponentProps['loaderData']; search: (to: Record<string, string>) => void }) {
  const ladder = d.ladders.find((l) => l.id === d.ladder);
  const step = ladder?.steps.find((s) => s.step === d.step);
  const [target, setTarget] = useState(step ? String(step.nominal) : '');
  const [low, setLow] = useState(step ? String(step.low) : '');
  const [high, setHigh] = useState(step ? String(step.high) : '');
  const [stock, setStock] = useState<'drawer' | SeriesName>(d.drawer.resistors.length > 0 ? 'drawer' : 'E24');
  const [tolerance, setTolerance] = useState('5');
  const [parts, setParts] = useState('3');
  const [volts, setVolts] = useState(String(d.drawer.senseVolts));
  const [picked, setPicked] = useState(0);
  const [errors, setErrors] = useState<Record<string, string>>({});
  const { state, search: find, stop } = useSubstitutes();
  const cautions = useCautions(Object.keys(d.cautions), d.cautions);
  const act = useAct('substitute');
  const [sent, setSent] = useState<string | null>(null);
  const go = () => {
    const wrong: Record<string, string> = {};
    const ohms = (name: string, text: string): number => {
      const read = parseReading(text);
      if (read.ok && Number.isFinite(read.value) && read.value > 0) return read.value;
      wrong[name] = read.ok ? 'Ohms above zero, such as 1180 or 1.18k.' : read.problems[0]!.message;
      return NaN;
    };
    const targetOhms = ohms('target', target);
    const window = low === '' && high === '' ? undefined : { low: ohms('low', low), high: ohms('high', high) };
    if (window && window.low > window.high) wrong.high = 'The window ends below its beginning.';
    const tol = parseTolerance(tolerance);
    if (stock !== 'drawer' && !tol.ok) wrong.tolerance = tol.problems[0]!.message;
    const readVolts = readQuantity(volts, { unit: 'V', min: 0.1, max: 60 });
    if (!readVolts.ok) wrong.volts = readVolts.problems[0]!.message;
    const senseVolts = readVolts.ok ? readVolts.value : NaN;
    setErrors(wrong);
    if (Object.keys(wrong).length > 0) return;
    setPicked(0);
    find({
      stock: stock === 'drawer' ? d.drawer.resistors : seriesValues(stock, tol.ok ? tol.value : 0.05),
      wanted: [{ targetOhms, mostParts: Number(parts) as 1 | 2 | 3, limit: 12, senseVolts, ...(window ? { window } : {}) }],
    });
  };
  const found = state !== null && 'each' in state ? state.each[0]! : null;
  const chosen = found?.[picked];
  const results = useRef<HTMLElement>(null);
  // In one column the answer lies below the settings, out of sight.
  useEffect(() => {
    if (found && matchMedia('(max-width: 1100px)').matches) results.current?.scrollIntoView();
  }, [found]);
  const record = (verdict: 'accepted' | 'refused') => {
    const outcome = d.test?.as[verdict];
    if (!d.chosen || !d.test || outcome === undefined || !chosen || !cautions.clear || d.shut.length > 0) return;
    setSent(verdict);
    const note = `${step ? `Value ${step.step}` : 'Value'}: ${inWords(chosen)}, ${formatOhms(chosen.nominal)}`;
    act.sendJson({ intent: 'evidence', test: d.test.id, outcome, note }, `/cases/${d.chosen.id}`);
  };
  const done = sent !== null && !act.busy && act.data !== undefined && Object.keys(act.errors).length === 0;
  return (
    <div className={bench.sheet}>
      <h1 className="hidden">Substitute</h1>
      <section className={bench.input} aria-label="What you need, and what you have">
        <CasePick cases={d.cases} chosen={d.chosen?.id ?? null} onPick={(id) => search({ case: id, ladder: '', step: '' })} />
        <Field name="ladder" label="Value chart" value={d.ladder} put={(id) => search({ ladder: id, step: '' })} errors={{}} select size="small">
          {d.ladders.map((l) => (
            <MenuItem key={l.id} value={l.id}>
              {l.title}
            </MenuItem>
          ))}
        </Field>
        <Field
          name="step"
          label="Value"
          value={d.step === null ? '' : String(d.step)}
          put={(s) => search({ step: s })}
          errors={{}}
          select
          size="small"
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        >
          <MenuItem value="">Typed below</MenuItem>
          {ladder?.steps.map((s) => (
            <MenuItem key={s.step} value={String(s.step)}>
              value {s.step}, {formatOhms(s.nominal)}
            </MenuItem>
          ))}
        </Field>
        <Field name="target" label="Ohms needed" value={target} put={setTarget} errors={errors} quantity={ohmsWanted} size="small" />
        <div className={styles.pair}>
          <Field name="low" label="Window from" value={low} put={setLow} errors={errors} quantity={ohmsWanted} size="small" />
          <Field name="high" label="to" value={high} put={setHigh} errors={errors} quantity={ohmsWanted} size="small" />
        </div>
        <Field name="stock" label="Available" value={stock} put={(s) => setStock(s as typeof stock)} errors={{}} select size="small">
          <MenuItem value="drawer" disabled={d.drawer.resistors.length === 0}>
            the shop’s drawer, {d.drawer.resistors.length} kinds
          </MenuItem>
          {seriesNames.map((s) => (
            <MenuItem key={s} value={s}>
              every value of {s}
            </MenuItem>
          ))}
        </Field>
        {stock !== 'drawer' && (
          <Field name="tolerance" label="Tolerance, %" value={tolerance} put={setTolerance} errors={errors} max={8} size="small" />
        )}
        <div className={styles.pair}>
          <Field name="parts" label="Parts at most" value={parts} put={setParts} errors={{}} select size="small">
            {['1', '2', '3'].map((n) => (
              <MenuItem key={n} value={n}>
                {n}
              </MenuItem>
            ))}
          </Field>
          <Field
            name="volts"
            label="Sense voltage, V"
            value={volts}
            put={setVolts}
            errors={errors}
            quantity={{ unit: 'V', min: 0.1, max: 60 }}
            size="small"
          />
        </div>
        <Button variant="contained" onClick={go}>
          Find the best
        </Button>
        <small className="quiet">
          <Link to="/shop/meters#drawer">The shop’s drawer</Link>
        </small>
      </section>
      <section ref={results} aria-label="Combinations">
        {state === null && (
          <p className="quiet">
            {d.step === null ? 'Choose a value or type ohms, then' : 'Now'} find the best ways to build it: one to three resistors, in series, in
            parallel, or both.
          </p>
        )}
        {state === null && ladder && d.step === null && (
          <ol className={styles.list} aria-label="Values">
            {ladder.steps.map((s) => (
              <li key={s.step}>
                <button type="button" onClick={() => search({ step: String(s.step) })}>
                  <b>Value {s.step}</b>
                  <span>
                    {formatOhms(s.nominal)}
                    <small className="quiet">
                      {formatOhms(s.low)} to {formatOhms(s.high)}
                    </small>
                  </span>
                </button>
              </li>
            ))}
          </ol>
        )}
        {state !== null && 'share' in state && (
          <div className={styles.busy}>
            <progress value={state.share} aria-label="Searching" />
            <Button color="inherit" onClick={stop}>
              Cancel
            </Button>
          </div>
        )}
        {found?.length === 0 && <p>Nothing available makes it. Add resistors to the drawer, or use a standard series.</p>}
        {found && found.length > 0 && found[0]!.inside === false && (
          <p role="status">
            Nothing stays inside the window with every part at its tolerance limit. These come closest: use tighter parts, or measure what you built.
          </p>
        )}
        <ol className={styles.list} aria-label="The best combinations">
          {found?.map((c, i) => (
            <li key={`${c.expression} ${i}`}>
              <button type="button" aria-pressed={i === picked} onClick={() => setPicked(i)}>
                <b>{inWords(c)}</b>
                <span>
                  {formatOhms(c.nominal)}
                  <small className="quiet">
                    {formatOhms(c.worstLow)} to {formatOhms(c.worstHigh)}
                    {c.inside === false ? ', not inside' : ''}
                  </small>
                </span>
              </button>
            </li>
          ))}
        </ol>
      </section>
      <section className={bench.verdict} aria-label="What to build" aria-live="polite">
        {chosen ? (
          <Built combination={chosen} step={step?.step ?? null} window={step ? { low: step.low, high: step.high } : null} />
        ) : (
          <h2>Nothing chosen yet</h2>
        )}
        {chosen && d.chosen && (
          <>
            <Cautions state={cautions} />
            {d.shut.length > 0 && (
              <p role="status" className={bench.shut}>
                <b>Locked.</b> {d.shut.join(' ')} <Link to={`/cases/${d.chosen.id}#authority`}>Record it in the case</Link>
              </p>
            )}
            {d.test ? (
              <p className="quiet">
                The resistor takes the place of key and contacts: if it is accepted, everything behind them is good. Connect it at the immobilizer’s
                connector, turn the ignition on, and tap what you see.
              </p>
            ) : (
              <p className="quiet">This case’s system type has no test for this.</p>
            )}
            <ProblemSummary errors={act.errors} />
          </>
        )}
        <div className={bench.foot}>
          {done && d.chosen && (
            <p role="status">
              Saved to the case. <Link to={`/cases/${d.chosen.id}`}>Go to case {d.chosen.number}</Link>
            </p>
          )}
          {chosen && d.chosen && d.test && (
            <>
              <Button
                variant="contained"
                size="large"
                disabled={!cautions.clear || d.shut.length > 0 || done}
                loading={act.busy}
                onClick={() => record('accepted')}
              >
                {d.test.outcomes[d.test.as.accepted ?? ''] ?? 'Accepted'}
              </Button>
              <Button variant="outlined" size="large" disabled={!cautions.clear || d.shut.length > 0 || done} onClick={() => record('refused')}>
                {d.test.outcomes[d.test.as.refused ?? ''] ?? 'Still refused'}
              </Button>
            </>
          )}
          {d.chosen && (
            <Link to={`/bench/steps?${new URLSearchParams({ case: String(d.chosen.id), ladder: d.ladder })}`}>
              Nobody knows the value: try them one by one
            </Link>
          )}
        </div>
      </section>
    </div>
  );
}

/** The chosen combination: drawn, with its value, its limits and its heat. */
export function Built({
  combination: c,
  step,
  window,
}: {
  combination: Combination;
  step: number | null;
  window: { low: number; high: number } | null;
}) {
  return (
    <>
      <h2>{step === null ? formatOhms(c.nominal) : `Value ${step}: ${formatOhms(c.nominal)}`}</h2>
      <Schematic combination={c} />
      <dl className={bench.figures}>
        <div>
          <dt>With every part at its limit</dt>
          <dd className="mono">
            {formatOhms(c.worstLow)} to {formatOhms(c.worstHigh)}
          </dd>
        </div>
        {window && (
          <div>
            <dt>Window</dt>
            <dd className="mono">
              {formatOhms(window.low)} to {formatOhms(window.high)}
            </dd>
          </div>
        )}
        <div>
          <dt>Off the needed value</dt>
          <dd className="mono">{formatOhms(c.error)}</dd>
        </div>
        {c.hottestWatts !== null && (
          <div>
            <dt>Hottest part</dt>
            <dd className="mono">{c.hottestWatts < 0.01 ? `${(c.hottestWatts * 1000).toFixed(1)} mW` : `${c.hottestWatts.toFixed(2)} W`}</dd>
          </div>
        )}
      </dl>
    </>
  );
}
