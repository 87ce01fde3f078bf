import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { Form, Link } from 'react-router';
import { originWords, stepStateWords } from '../../core/replacement';
import { inSentence } from '../../core/units';
import type { JobShown } from '../../server/replacement/jobView';
import { useTimes } from '../ui/clock';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import { Step } from './Step';
import styles from './work.module.css';

/** The plan that is being worked: the step that is next, large, and all steps with how they went. */
export function Work({ job, caseId, chosen, open }: { job: JobShown; caseId: number; chosen: string | null; open: boolean }) {
  const step = job.steps.find((s) => s.id === chosen) ?? job.steps.find((s) => s.id === job.next);
  const parts = job.parts.map((p) => `${p.title}: ${inSentence(originWords[job.replaced[p.part] ?? 'new'])}`).join(', ');
  return (
    <div className={styles.work}>
      <div>
        <p className={styles.about}>
          {parts}. {job.byHand ? 'Without a scan tool.' : ''} {job.settled} of {job.steps.length} steps done.
        </p>
        {step ? (
          <Step key={step.id} step={step} job={job} caseId={caseId} open={open} />
        ) : (
          <section className={styles.step} aria-label="All steps are done">
            <h2>All steps are done.</h2>
            <p className={styles.why}>Go back to the case: proof, report and keys are left to do.</p>
            <Button component={Link} to={`/cases/${caseId}`} variant="contained" size="large" sx={{ justifySelf: 'start' }}>
              Back to the case
            </Button>
          </section>
        )}
        <Counters job={job} />
      </div>
      <aside aria-label="The plan">
        {job.warnings.length > 0 && (
          <ul className={styles.warnings} aria-label="Warnings">
            {job.warnings.map((say) => (
              <li key={say}>{say}</li>
            ))}
          </ul>
        )}
        <h2>All steps</h2>
        <ol className={styles.list}>
          {job.steps.map((s) => (
            <li key={s.id} data-state={s.state} aria-current={s.id === step?.id ? 'step' : undefined}>
              <b>{s.number}</b>
              <Link to={`?step=${s.id}`} preventScrollReset>
                {s.title}
                {s.part && <span className="quiet"> · {job.parts.find((p) => p.part === s.part)?.title}</span>}
              </Link>
              <span>{s.id === job.next && s.state === 'open' ? 'Next' : s.state === 'open' ? '' : stepStateWords[s.state]}</span>
            </li>
          ))}
        </ol>
        {open && <GiveUp />}
      </aside>
    </div>
  );
}

function Counters({ job }: { job: JobShown }) {
  const { hm, day } = useTimes();
  if (job.counters.length === 0) return null;
  return (
    <section aria-labelledby="counters-sides" className={styles.counters}>
      <h2 id="counters-sides">Counters</h2>
      <table>
        <thead>
          <tr>
            <th scope="col">Counter</th>
            <th scope="col">Before</th>
            <th scope="col">Now</th>
          </tr>
        </thead>
        <tbody>
          {job.counters.map((c) => (
            <tr key={c.say}>
              <th scope="row">{c.say}</th>
              <td>{c.before}</td>
              <td>
                {c.now}
                {c.by && <span className="quiet">{` by ${c.by.name}, ${day(c.by.at)}, ${hm(c.by.at)}`}</span>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function GiveUp() {
  const act = useAct();
  return (
    <details className={styles.giveUp}>
      <summary>Give up this plan</summary>
      <Form onSubmit={act.send('end')} noValidate>
        <ProblemSummary errors={act.errors} />
        <TextField
          label="Why, without names"
          name="reason"
          size="small"
          error={'reason' in act.errors}
          helperText={act.errors.reason}
          slotProps={{ htmlInput: { maxLength: 300 } }}
        />
        <Button type="submit" variant="outlined" loading={act.busy}>
          Give up the plan
        </Button>
      </Form>
    </details>
  );
}
