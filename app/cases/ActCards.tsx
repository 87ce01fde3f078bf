import type { Answered } from '../ui/useAct';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import { type ReactNode } from 'react';
import { Link, useFetcher, useNavigation } from 'react-router';
import type { Step } from '../../core/diagnosis';
import type { RepairAction } from '../../server/record/cases';
import { useActIds } from '../ui/useActIds';
import { Cautions, useCautions } from '../ui/Cautions';
import { useKeys } from '../ui/keys';
import { formatChance, inSentence, moneyWords } from '../../core/units';
import { Outline } from './Outline';
import styles from './Next.module.css';
import type { CasePage } from './page';
import { RunKeys } from './RunKeys';
import { Took, useTook } from './Took';
import { useRecord } from './useRecord';

type Result = 'works' | 'fails' | 'done';

/** Answers about something that was done, as observations, by touch and by number key. */
function Answers({
  page,
  kind,
  fault,
  faultKey,
  replaces,
  answers,
  shut,
  name,
}: {
  page: CasePage;
  kind: RepairAction['kind'];
  fault: string;
  faultKey: string | undefined;
  replaces?: string | undefined;
  answers: [Result, string][];
  shut?: boolean;
  name: string;
}) {
  const { busy, send } = useRecord(page);
  const took = useTook(`${page.record.id} ${name}`);
  const off = shut === true || page.supposing.length > 0;
  const record = (result: Result) => {
    if (off) return;
    send({
      intent: 'repairAction',
      kind,
      fault,
      result,
      minutes: took.take(),
      ...(faultKey ? { key: faultKey } : {}),
      ...(replaces ? { replaces } : {}),
    });
  };
  useKeys(off ? [] : answers.map(([result, say], i) => ({ keys: String(i + 1), shown: String(i + 1), say, act: () => record(result) })));
  return (
    <>
      <div className={styles.outcomes}>
        {answers.map(([result, say], i) => (
          <button key={result} type="button" className={styles.outcome} onClick={() => record(result)} disabled={busy || off}>
            <span className="keycap" aria-hidden="true">
              {i + 1}
            </span>
            <span>{say}</span>
          </button>
        ))}
      </div>
      {!page.supposing.length && <Took took={took} />}
    </>
  );
}

/** Whoever tries whether it helped starts the engine: the cautions of the test that does. */
const trialCautions = (page: CasePage): string[] => Object.values(page.tests).find((t) => t.triage?.includes('engine'))?.cautions ?? [];

/** A repair: what to do, what it takes, what must be there first; then whether it helped. */
export function RepairCard({
  page,
  fault: id,
  faultKey,
  why,
  pending,
  replaces,
}: {
  page: CasePage;
  fault: string;
  faultKey: string | undefined;
  why: string;
  pending?: string | undefined;
  replaces?: string | undefined;
}) {
  const weighed = page.diagnosis.weighed;
  const fault = weighed?.faults[id];
  const cautions = useCautions([...new Set([...(pending ? [] : (fault?.cure.cautions ?? [])), ...trialCautions(page)])], page.cautions);
  if (!weighed || !fault) return <p>This fault is not in the system type of this case.</p>;
  const belief = weighed.beliefs.find((b) => b.fault === id && (faultKey === undefined || b.key === faultKey || b.key === undefined));
  const shut = page.shut[id] ?? [];
  const open = page.record.repairActions.find(
    (d) => page.repairActions.includes(d.id) && d.result === 'done' && d.id !== pending && d.id !== replaces,
  );
  const { minutes, money, penalty } = fault.cure;
  return (
    <>
      <h2>{pending ? 'Try it. Did it help?' : fault.cure.do}</h2>
      <p className={styles.why}>{why}</p>
      <p className={styles.meta}>
        {pending || why.includes(fault.title)
          ? ''
          : `${fault.title}${faultKey ? `, tag ${faultKey}` : ''}${belief ? ` (${formatChance(belief.p)})` : ''} · `}
        about {minutes} min
        {money ? ` · about ${moneyWords(money, page.currency)} of parts` : ''}
        {penalty ? ' · with a risk of its own: read the service information first' : ''}
      </p>
      {shut.length > 0 && !pending && (
        <p className={styles.shut} role="status">
          <b>Locked.</b> {shut.join(' ')} <a href="#authority">Record it here</a>
        </p>
      )}
      {open && (
        <p className={styles.warned} role="status">
          {weighed.faults[open.fault]?.title ?? open.fault} was repaired but not tried since. Try it first: after two changes at once, nobody knows
          which one helped.
        </p>
      )}
      <Cautions state={cautions} />
      <Answers
        page={page}
        kind="repair"
        fault={id}
        faultKey={faultKey}
        replaces={pending ?? replaces}
        name={`repair ${id} ${faultKey ?? ''}`}
        shut={(shut.length > 0 && !pending) || !cautions.clear}
        answers={[
          ['works', 'Done: it works now'],
          ['fails', 'Done: no better'],
          ...(pending ? [] : ([['done', 'Done, not tried yet']] as [Result, string][])),
        ]}
      />
      <p className={styles.meta}>Fix confirmed when: {inSentence(fault.prove.say)}</p>
    </>
  );
}

type Proving = Extract<Step, { kind: 'prove' }>;
const provingAnswers: Record<Proving['ask'], [Result, string][]> = {
  broughtBack: [
    ['fails', 'It fails again'],
    ['works', 'It still works'],
  ],
  takenAway: [
    ['works', 'It works again'],
    ['fails', 'It still fails'],
  ],
  triedAgain: [
    ['works', 'It worked'],
    ['fails', 'It failed this time'],
  ],
};

/** The suspected cause is brought back once, and taken away again; or it is tried so many times in a row. */
export function ProveCard({ page, step }: { page: CasePage; step: Proving }) {
  const { fault, key: faultKey, ask, why } = step;
  const cautions = useCautions(trialCautions(page), page.cautions);
  return (
    <>
      <h2>
        {step.ask === 'triedAgain'
          ? `Try it again${faultKey ? ` with tag ${faultKey}` : ''}: ${step.starts.done} of ${step.starts.of} in a row so far.`
          : step.ask === 'broughtBack'
            ? 'Bring the fault back once to prove the cause.'
            : 'Remove the fault again, and try.'}
      </h2>
      <p className={styles.why}>{why}</p>
      {step.ask === 'triedAgain' && (
        <LinearProgress
          variant="determinate"
          value={(100 * step.starts.done) / step.starts.of}
          aria-label={`${step.starts.done} of ${step.starts.of} tries`}
        />
      )}
      <Cautions state={cautions} />
      <Answers
        page={page}
        kind={ask}
        shut={!cautions.clear}
        fault={fault}
        faultKey={faultKey}
        name={`${ask} ${fault} ${step.ask === 'triedAgain' ? step.starts.done : ''}`}
        answers={provingAnswers[ask]}
      />
    </>
  );
}

export function ProcedureCard({ page, id, why, fault }: { page: CasePage; id: string; why: string; fault?: string | undefined }) {
  const fetcher = useFetcher<Answered>({ key: 'case' });
  const one = useActIds(fetcher);
  // Keys that were just chosen are not on this page yet.
  const choosing = useNavigation().state !== 'idle';
  const procedure = page.procedures.find((p) => p.id === id)!;
  const cautions = useCautions(procedure.cautions, page.cautions);
  return (
    <>
      <h2>{procedure.title}.</h2>
      <p className={styles.why}>
        {why} {procedure.text}
      </p>
      <Outline marks={procedure.outline} forgets={procedure.forgets} />
      <RunKeys page={page} procedure={procedure} />
      <p className={styles.meta}>
        about {Math.round(procedure.minutes)} min{procedure.waiting >= 1 ? `, ${Math.round(procedure.waiting)} of them waiting` : ''} ·{' '}
        {procedure.effect}
      </p>
      {procedure.shut.length > 0 && (
        <p className={styles.shut} role="status">
          <b>Locked.</b> {procedure.shut.join(' ')} <a href="#authority">Record it here</a>
        </p>
      )}
      {procedure.unfit && <p role="alert">{procedure.unfit}</p>}
      {procedure.warned.map((w) => (
        <p key={w} className={styles.warned}>
          {w}
        </p>
      ))}
      {page.typical > 0 && (
        <p className={styles.meta}>
          <span className="typical">{page.typical} of its numbers are typical</span>, not looked up for this vehicle. You are asked for each one at
          the step that needs it.
        </p>
      )}
      {!procedure.checked && <p className={styles.meta}>Not checked against a source: {procedure.source}</p>}
      <Cautions state={cautions} />
      {!procedure.own && page.procedures.some((p) => p.own) && (
        <p className={styles.meta}>
          This shop’s own:{' '}
          {page.procedures
            .filter((p) => p.own)
            .map((p) => (
              <Link key={p.id} to={`/cases/${page.record.id}?run=${p.id}`}>
                {p.title}
              </Link>
            ))}
        </p>
      )}
      {procedure.shut.length === 0 && (
        <Button
          variant="contained"
          size="large"
          sx={{ justifySelf: 'start' }}
          loading={fetcher.state !== 'idle'}
          disabled={!cautions.clear || page.supposing.length > 0 || procedure.unfit !== null || choosing}
          onClick={() => {
            const { keys } = procedure;
            one(`${id} ${keys.join(' ')}`, (commandId) => {
              const sent = { intent: 'startRun', commandId, procedure: id, ...(keys.length > 0 ? { keys } : {}) };
              void fetcher.submit(sent, { method: 'post', action: `/cases/${page.record.id}`, encType: 'application/json' });
            });
          }}
        >
          Start the run
        </Button>
      )}
      {fault && (
        <p className={styles.meta}>
          Done another way, with the maker’s equipment? <Link to={`/cases/${page.record.id}?fix=${fault}`}>Record it as a repair</Link>
        </p>
      )}
    </>
  );
}

/** A step that leads to another page. */
export function GoCard({ title, why, to, label, main }: { title: string; why: ReactNode; to: string; label: string; main: boolean }) {
  return (
    <>
      <h2>{title}</h2>
      <p className={styles.why}>{why}</p>
      <Button component={Link} to={to} variant={main ? 'contained' : 'outlined'} size="large" sx={{ justifySelf: 'start' }}>
        {label}
      </Button>
    </>
  );
}
