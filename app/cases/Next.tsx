import Button from '@mui/material/Button';
import { Link, useFetcher } from 'react-router';
import type { Proposal } from '../../core/diagnosis';
import type { CasePage } from './page';
import { Cautions, useCautions } from '../ui/Cautions';
import { newCommandId } from '../ui/commandId';
import { errorsByPath, ProblemSummary } from '../ui/problems';
import type { action } from './case';
import styles from './Next.module.css';
import { TestCard } from './TestCard';
import { triageWords } from '../triage/words';

type Data = typeof action;

/** What to do next, large; what could be done instead, small. `?do=TEST` chooses another test. */
export function Next({ page, chosen }: { page: CasePage; chosen: string | null }) {
  const { assessment, record } = page;
  const fetcher = useFetcher<Data>({ key: 'case' });
  const problems = fetcher.data && 'problems' in fetcher.data ? fetcher.data.problems : [];
  const running = record.runs.find((r) => r.status === 'running');
  const first = assessment.next[0]!;
  const picked = chosen ? (assessment.next.find((p) => p.kind === 'test' && p.test.id === chosen) ?? testProposal(page, chosen)) : undefined;
  const shown = picked ?? first;
  const others = assessment.next
    .filter((p) => p !== shown && !(p.kind === 'test' && shown.kind === 'test' && p.test.id === shown.test.id))
    .slice(0, 3);

  if (record.state === 'closed') {
    return (
      <section className={styles.next} aria-label="Closed">
        <p className="label">Closed</p>
        <h2>{record.outcome}</h2>
        <Button component={Link} to={`/cases/${record.id}/report`} variant="contained" sx={{ justifySelf: 'start' }}>
          Open the report
        </Button>
      </section>
    );
  }
  if (running) {
    return (
      <section className={styles.next} aria-label="Next">
        <p className="label">Next</p>
        <h2>A run is going on.</h2>
        <Button component={Link} to={`/cases/${record.id}/runs/${running.id}`} variant="contained" size="large" sx={{ justifySelf: 'start' }}>
          Go to the run
        </Button>
      </section>
    );
  }
  return (
    <section className={styles.next} aria-label="Next">
      <p className={styles.top}>
        <span className="label">{picked ? 'Instead' : 'Next'}</span>
        <Link to={`/cases/${record.id}/triage`}>
          Triage: {page.triage.stages.some((s) => s.done.length > 0) ? triageWords[page.triage.kind].title.toLowerCase() : 'not begun'}
        </Link>
      </p>
      <ProblemSummary errors={errorsByPath(problems)} />
      <One key={shown.kind === 'test' ? `${shown.test.id} ${shown.key}` : shown.kind} page={page} proposal={shown} />
      {assessment.verdict && (
        <p className={styles.verdict}>
          <span className="label">So far</span> {assessment.verdict.say}
        </p>
      )}
      <ul className={styles.others}>
        {picked && (
          <li>
            <span className="quiet">back to</span>
            <Link to={`/cases/${record.id}`}>what is proposed</Link>
          </li>
        )}
        {others.map((p, i) => (
          <Other key={i} proposal={p} page={page} first={i === 0} />
        ))}
      </ul>
    </section>
  );
}

/** A test that is not proposed may be made all the same, or once more. */
function testProposal(page: CasePage, id: string): Proposal | undefined {
  const test = page.tests[id];
  const key = page.record.keys.find((k) => k.present)?.tag;
  return test ? { kind: 'test', test, why: 'Chosen by you.', ...(test.perKey && key ? { key } : {}) } : undefined;
}

function One({ page, proposal }: { page: CasePage; proposal: Proposal }) {
  const { record } = page;
  switch (proposal.kind) {
    case 'test':
      return (
        <TestCard page={page} test={proposal.test} why={proposal.why} proposedKey={proposal.key}>
          {Object.values(proposal.test.outcomes).some((o) => o.lamp) && (
            <p className={styles.meta}>
              <Link to={`/cases/${record.id}/triage?at=guard`}>Tap along with it, or it does none of these</Link>
            </p>
          )}
        </TestCard>
      );
    case 'procedure':
      return <ProcedureCard page={page} id={proposal.procedure} why={proposal.why} />;
    case 'verify':
      return (
        <>
          <h2>Verify every key.</h2>
          <p className={styles.why}>{proposal.why}</p>
          <Button component={Link} to={`/cases/${record.id}/verify`} variant="contained" size="large" sx={{ justifySelf: 'start' }}>
            Verify the keys
          </Button>
        </>
      );
    case 'handOver':
      return (
        <>
          <h2>Hand it over.</h2>
          <p className={styles.why}>{proposal.why}</p>
          <Button component={Link} to={`/cases/${record.id}/hand-over`} variant="contained" size="large" sx={{ justifySelf: 'start' }}>
            Hand over
          </Button>
        </>
      );
    case 'nothing':
      return (
        <>
          <h2>Nothing more to test here.</h2>
          <p className={styles.why}>{proposal.why}</p>
          <Button component={Link} to={`/cases/${record.id}/hand-over`} variant="outlined" sx={{ justifySelf: 'start' }}>
            Close the case
          </Button>
        </>
      );
  }
}

function ProcedureCard({ page, id, why }: { page: CasePage; id: string; why: string }) {
  const fetcher = useFetcher<Data>({ key: 'case' });
  const procedure = page.procedures.find((p) => p.id === id)!;
  const cautions = useCautions(procedure.cautions, page.cautions);
  return (
    <>
      <h2>{procedure.title}.</h2>
      <p className={styles.why}>
        {why} {procedure.text}
      </p>
      <p className={styles.meta}>
        about {Math.round(procedure.minutes)} min · {procedure.effect}
      </p>
      {procedure.shut.length > 0 && (
        <p className={styles.shut} role="status">
          <b>Shut.</b> {procedure.shut.join(' ')} <a href="#authority">Record it here</a>
        </p>
      )}
      {procedure.warned.map((w) => (
        <p key={w} className={styles.warned}>
          {w}
        </p>
      ))}
      {page.typical > 0 && (
        <p className={styles.meta}>
          <span className="typical">{page.typical} of its numbers are typical</span>, not looked up for this vehicle. Each is asked for at the step
          that needs it.
        </p>
      )}
      {!procedure.checked && <p className={styles.meta}>Not checked against a source: {procedure.source}</p>}
      <Cautions state={cautions} />
      {procedure.shut.length === 0 && (
        <Button
          variant="contained"
          size="large"
          sx={{ justifySelf: 'start' }}
          loading={fetcher.state !== 'idle'}
          disabled={!cautions.clear}
          onClick={() =>
            void fetcher.submit(
              { intent: 'startRun', commandId: newCommandId(), procedure: id },
              { method: 'post', action: `/cases/${page.record.id}` },
            )
          }
        >
          Start the run
        </Button>
      )}
    </>
  );
}

function Other({ proposal, page, first }: { proposal: Proposal; page: CasePage; first: boolean }) {
  const { id } = page.record;
  const label = first ? 'or instead' : '';
  switch (proposal.kind) {
    case 'test':
      return (
        <li>
          <span className="quiet">{label}</span>
          <span>
            <Link to={`/cases/${id}?do=${proposal.test.id}`}>{proposal.test.title}</Link> <span className="quiet">{proposal.why}</span>
          </span>
          <span className="mono quiet">{proposal.test.minutes} min</span>
        </li>
      );
    case 'procedure': {
      const procedure = page.procedures.find((p) => p.id === proposal.procedure);
      return (
        <li>
          <span className="quiet">{label}</span>
          <span>
            {procedure?.title} <span className="quiet">{proposal.why}</span>
          </span>
        </li>
      );
    }
    case 'verify':
    case 'handOver':
      return (
        <li>
          <span className="quiet">{label}</span>
          <Link to={`/cases/${id}/${proposal.kind === 'verify' ? 'verify' : 'hand-over'}`}>
            {proposal.kind === 'verify' ? 'Verify every key' : 'Hand over'}
          </Link>
        </li>
      );
    case 'nothing':
      return null;
  }
}
