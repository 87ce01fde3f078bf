import type { Answered } from '../ui/useAct';
import { inSentence } from '../../core/units';
import Button from '@mui/material/Button';
import { type ReactNode } from 'react';
import { Link, useFetcher, useSearchParams } from 'react-router';
import type { Step } from '../../core/diagnosis';
import { errorsByPath, ProblemSummary } from '../ui/problems';
import { useNow, useTimes } from '../ui/clock';
import { triageWords } from '../triage/words';
import { caseWith, faultOf } from './about';
import { GoCard, ProcedureCard, ProveCard, RepairCard } from './ActCards';
import styles from './Next.module.css';
import type { CasePage } from './page';
import { TestCard } from './TestCard';
import { nameOfStep, type Shown } from './useDiagnosis';

/**
 * What to do next, large; what could be done instead, small. The address may choose something else: `?do=TEST` (with `key`, and `replaces` where a line
 * of the ledger is corrected), `?fix=FAULT` (with `key`), `?run=PROCEDURE`.
 */
export function Next({ page, shown }: { page: CasePage; shown: Shown }) {
  const { record } = page;
  const { view, looking, other } = shown;
  const [search] = useSearchParams();
  const fetcher = useFetcher<Answered>({ key: 'case' });
  const problems = fetcher.data?.problems ?? [];
  const running = record.runs.find((r) => r.status === 'running');
  const picked = pickedStep(page, search);
  const first = picked ?? view.next[0]!;
  // What stands beside the proposal is not listed below it once more.
  const said = [first, ...(other && !picked ? [other] : [])].map(nameOfStep);
  const others = view.next.filter((p) => !said.includes(nameOfStep(p))).slice(0, 3);

  if (record.state === 'closed')
    return (
      <Frame label="Closed">
        <GoCard title={record.outcome ?? 'Closed.'} why={conclusionWords(page)} to={`/cases/${record.id}/report`} label="Open the report" main />
      </Frame>
    );
  if (running)
    return (
      <Frame label="Next">
        <GoCard title="A run is in progress." why="" to={`/cases/${record.id}/runs/${running.id}`} label="Go to the run" main />
      </Frame>
    );
  if (page.planned && !picked)
    return (
      <section className={styles.next} aria-label="Next">
        <p className="label">
          Next · step {page.planned.number} of {page.planned.of} of the replacement plan
        </p>
        <GoCard title={page.planned.title} why={page.planned.why} to={`/cases/${record.id}/replacement`} label="Go to this step" main />
        <ul className={styles.others}>
          {view.next.slice(0, 3).map((p, i) => (
            <Other key={nameOfStep(p)} step={p} page={page} label={i === 0 ? 'or instead' : ''} />
          ))}
        </ul>
      </section>
    );
  return (
    <section className={styles.next} aria-label="Next" aria-busy={looking}>
      <p className={styles.top}>
        <span className="label">{picked && nameOfStep(picked) !== nameOfStep(view.next[0]!) ? 'Instead' : 'Next'}</span>
        <span className={styles.looking} role="status">
          {looking ? 'looking further ahead …' : ''}
        </span>
        <Link to={`/cases/${record.id}/triage`}>
          Triage
          {view.weighed?.cured ? '' : `: ${page.triage ? triageWords[page.triage].mark : 'not started'}`}
        </Link>
      </p>
      <ProblemSummary errors={errorsByPath(problems)} />
      {page.supposing.length > 0 && <Supposing page={page} />}
      {other && !picked && (
        <p className={styles.other} role="status">
          <span>Looking further ahead, this is better first: {wordsOf(page, other)}.</span>
          <Button size="small" variant="outlined" onClick={shown.take}>
            Show that instead
          </Button>
        </p>
      )}
      <One key={nameOfStep(first)} page={page} step={first} replaces={search.get('replaces') ?? undefined} />
      {view.verdict && !('why' in first && first.why.startsWith(view.verdict.say)) && (
        <p className={styles.verdict}>
          <span className="label">So far</span> {view.verdict.say}
        </p>
      )}
      <ul className={styles.others}>
        {picked && (
          <li>
            <span className="quiet">back to</span>
            <Link to={caseWith(page, {})}>what is proposed</Link>
          </li>
        )}
        {others.map((p, i) => (
          <Other key={nameOfStep(p)} step={p} page={page} label={i === 0 ? 'or instead' : ''} />
        ))}
      </ul>
    </section>
  );
}

function Frame({ label, children }: { label: string; children: ReactNode }) {
  return (
    <section className={styles.next} aria-label={label}>
      <p className="label">{label}</p>
      {children}
    </section>
  );
}

/** By a name from the address: only what is there, and nothing that every object has. */
const own = <T,>(record: Readonly<Record<string, T>>, name: string | null): T | undefined =>
  name !== null && Object.hasOwn(record, name) ? record[name] : undefined;

/** A test or a repair that is not proposed may be made all the same, or once more. */
function pickedStep(page: CasePage, search: URLSearchParams): Step | undefined {
  const test = own(page.tests, search.get('do'));
  const key = search.get('key') ?? undefined;
  const run = search.get('run');
  const here = page.record.keys.filter((k) => k.present).map((k) => k.tag);
  if (test) {
    const proposed = page.diagnosis.next.find((s) => s.kind === 'test' && s.test.id === test.id && (key === undefined || s.key === key));
    const tag = key ?? here[0];
    return (
      proposed ?? {
        kind: 'test',
        test,
        why: search.get('replaces') ? 'The answer replaces the line in the record.' : 'Chosen by you.',
        ...(test.perKey && tag ? { key: tag } : {}),
      }
    );
  }
  const fault = page.diagnosis.weighed ? own(page.diagnosis.weighed.faults, search.get('fix')) : undefined;
  if (fault) return { kind: 'repair', fault: fault.id, ...(fault.perKey && key ? { key } : {}), why: `Chosen by you. ${fault.looks}` };
  const procedure = page.procedures.find((p) => p.id === run);
  const proposed = page.diagnosis.next.find((s) => s.kind === 'procedure' && s.procedure === run);
  if (procedure && proposed) return proposed;
  return procedure && { kind: 'procedure', procedure: procedure.id, why: 'Chosen by you.' };
}

/** What is only supposed stands over everything that follows from it. */
function Supposing({ page }: { page: CasePage }) {
  return (
    <div className={styles.supposing} role="status">
      <p>
        <b>What if.</b> Nothing is recorded here.
      </p>
      <ul>
        {page.supposing.map((s, i) => (
          <li key={i}>
            {page.tests[s.test]?.title}
            {s.key ? `, tag ${s.key}` : ''}: {page.tests[s.test]?.outcomes[s.outcome]?.say}
          </li>
        ))}
      </ul>
      <Button component={Link} to={caseWith(page, {})} variant="outlined" size="small" preventScrollReset>
        Back to what is known
      </Button>
    </div>
  );
}

function One({ page, step, replaces }: { page: CasePage; step: Step; replaces: string | undefined }) {
  const { id } = page.record;
  switch (step.kind) {
    case 'test':
      return (
        <TestCard page={page} test={step.test} why={step.why} proposedKey={step.key} weighed={step.weighed} replaces={replaces}>
          {Object.values(step.test.outcomes).some((o) => o.lamp) && (
            <p className={styles.meta}>
              <Link to={`/cases/${id}/triage?at=immobilizer`}>Tap along, or it does none of these</Link>
            </p>
          )}
        </TestCard>
      );
    case 'procedure':
      return <ProcedureCard page={page} id={step.procedure} why={step.why} fault={step.fault} />;
    case 'repair':
      return <RepairCard page={page} fault={step.fault} faultKey={step.key} why={step.why} pending={step.pending} replaces={replaces} />;
    case 'prove':
      return <ProveCard page={page} step={step} />;
    case 'verify':
      return <VerifyCard id={id} why={step.why} until={step.until} />;
    case 'handOver':
      return <GoCard title="Hand over the car." why={step.why} to={`/cases/${id}/hand-over`} label="Hand over" main />;
    case 'unknown':
      return (
        <GoCard title="Unknown is a finding too." why={step.why} to={`/cases/${id}/hand-over?as=unknown`} label="Close it as unknown" main={false} />
      );
    case 'nothing':
      return <GoCard title="Nothing more to test." why={step.why} to={`/cases/${id}/hand-over`} label="Close the case" main={false} />;
  }
}

/** Every key is tried; where a rest confirms the fix, a start counts only after it. */
function VerifyCard({ id, why, until }: { id: number; why: string; until: number | undefined }) {
  const times = useTimes();
  const early = useNow() < (until ?? 0);
  return (
    <GoCard
      title={early ? `Wait. A start counts as proof from ${times.hm(until!)} on.` : 'Verify every key.'}
      why={why}
      to={`/cases/${id}/verify`}
      label="Verify the keys"
      main={!early}
    />
  );
}

/** A step in a few words, for a line. */
function wordsOf(page: CasePage, step: Step): string {
  switch (step.kind) {
    case 'test':
      return inSentence(step.test.title) + (step.key ? ` with tag ${step.key}` : '');
    case 'procedure':
      return inSentence(page.procedures.find((p) => p.id === step.procedure)!.title);
    case 'repair':
    case 'prove':
      return `the fix for “${page.diagnosis.weighed ? inSentence(faultOf(page.diagnosis.weighed, step.fault + (step.key ? `@${step.key}` : '')).title) : step.fault}”`;
    case 'verify':
      return 'to verify every key';
    case 'handOver':
      return 'to hand over';
    case 'unknown':
      return 'to close it as unknown';
    case 'nothing':
      return 'to close the case';
  }
}

function OtherLink({ step, page }: { step: Step; page: CasePage }) {
  const { id } = page.record;
  switch (step.kind) {
    case 'test':
      return <Link to={caseWith(page, { do: step.test.id, ...(step.key ? { key: step.key } : {}) })}>{step.test.title}</Link>;
    case 'procedure':
      return <Link to={caseWith(page, { run: step.procedure })}>{page.procedures.find((p) => p.id === step.procedure)?.title}</Link>;
    case 'repair':
    case 'prove':
      return (
        <Link to={caseWith(page, { fix: step.fault, ...(step.key ? { key: step.key } : {}) })}>
          {page.diagnosis.weighed?.faults[step.fault]?.cure.do ?? 'Repair'}
        </Link>
      );
    case 'verify':
      return <Link to={`/cases/${id}/verify`}>Verify every key</Link>;
    case 'handOver':
      return <Link to={`/cases/${id}/hand-over`}>Hand over</Link>;
    case 'unknown':
      return <Link to={`/cases/${id}/hand-over?as=unknown`}>Close it as unknown</Link>;
    case 'nothing':
      return null;
  }
}

function Other({ step, page, label }: { step: Step; page: CasePage; label: string }) {
  return (
    <li>
      <span className="quiet">{label}</span>
      <span>
        <OtherLink step={step} page={page} />{' '}
        <span className="quiet">{'why' in step && step.kind !== 'verify' && step.kind !== 'handOver' ? step.why : ''}</span>
      </span>
      <span className="mono quiet">{step.kind === 'test' && !step.weighed ? `${step.test.minutes} min` : ''}</span>
    </li>
  );
}

/** How well the cause of a closed case is known. */
function conclusionWords(page: CasePage): string {
  const { conclusion, conclusionFault } = page.record;
  if (!conclusion) return '';
  const cause = conclusionFault ? (page.diagnosis.weighed?.faults[conclusionFault]?.title ?? 'something else') : '';
  return conclusion === 'unknown' ? 'The cause is still unknown.' : `${conclusion === 'proven' ? 'Proven' : 'Likely'}: ${inSentence(cause)}.`;
}
