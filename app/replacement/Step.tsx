import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { Form, Link } from 'react-router';
import { causeAnswerWords, doerWords, savableWords, savedAnswerWords, stepStateWords, unsavedWords } from '../../core/replacement';
import { effectNames } from '../../core/library';
import type { JobShown, StepShown } from '../../server/replacement/jobView';
import { ProblemSummary } from '../ui/problems';
import { useTimes } from '../ui/clock';
import { useAct } from '../ui/useAct';
import { Answers } from './Answers';
import { lasting } from './lasting';
import { PartNumbers } from './PartNumbers';
import styles from './work.module.css';

/** One step of the plan: what to do, what is written down for it, and how it went. */
export function Step({ step, job, caseId, open }: { step: StepShown; job: JobShown; caseId: number; open: boolean }) {
  const part = job.parts.find((p) => p.part === step.part);
  return (
    <section className={styles.step} aria-labelledby="this-step">
      <p className="label">
        {step.id === job.next && step.state === 'open' ? 'Next' : stepStateWords[step.state]} · step {step.number} of {job.steps.length}
      </p>
      <h2 id="this-step">
        {step.title}
        {part && <span className="quiet"> · {part.title}</span>}
      </h2>
      <p className={styles.why}>{step.why}</p>
      <p className="quiet">
        {[lasting(step.minutes), doerWords[step.by], step.effect !== 'none' && effectNames[step.effect]].filter(Boolean).join(' · ')}
      </p>
      {step.risk && <p className={styles.risk}>{step.risk}</p>}
      <State step={step} />
      {step.state === 'failed' && <WhatThen step={step} job={job} />}
      {step.waitsFor.length > 0 && <p>Waits for step {step.waitsFor.join(', ')}.</p>}
      {open && (
        <>
          {step.shut.map((say) => (
            <p key={say} className={styles.shut}>
              {say} <Link to={`/cases/${caseId}#authority`}>Record it</Link>
            </p>
          ))}
          <PlaceOf step={step} job={job} caseId={caseId} />
          <Outcome key={`${step.id} ${step.state} ${step.at}`} step={step} />
        </>
      )}
    </section>
  );
}

/** A failed step: once more, or what the content says of parts that can't be made to work. What can't be read is lost, which another plan reckons with. */
function WhatThen({ step, job }: { step: StepShown; job: JobShown }) {
  if (step.place === 'saved')
    return (
      <div className={styles.notice}>
        <p>
          Open the step again and repeat it. If the old part can’t be read, make another plan below with “The old one can’t be read” chosen: it says
          what is lost, and what then.
        </p>
      </div>
    );
  const parts = job.parts.filter((p) => p.otherwise !== '' && (step.part === undefined || p.part === step.part));
  return (
    <div className={styles.notice}>
      <p>Open the step again and repeat it, or make another plan below. If it can’t be made to work:</p>
      {parts.map((p) => (
        <p key={p.part}>
          {p.title}: {p.otherwise}
        </p>
      ))}
    </div>
  );
}

const throughWords = { answer: '', run: 'by its run', scan: 'by a scan', entries: 'by what is written down' } as const;

function State({ step }: { step: StepShown }) {
  const { hm } = useTimes();
  if (step.state === 'open' || step.at === null) return null;
  const how = [stepStateWords[step.state], step.through && throughWords[step.through], `at ${hm(step.at)}`, step.who && `by ${step.who}`]
    .filter(Boolean)
    .join(' ');
  return (
    <p role="status" className={step.state === 'done' || step.state === 'leftOut' ? styles.settled : styles.stopped}>
      {how}
      {step.note && `: ${step.note}`}.
    </p>
  );
}

/** Where in the case the step is done or written down. */
function PlaceOf({ step, job, caseId }: { step: StepShown; job: JobShown; caseId: number }) {
  const part = job.parts.find((p) => p.part === step.part);
  const go = (to: string, label: string, say: string) => (
    <div className={styles.place}>
      <Button component={Link} to={to} variant="contained" size="large" sx={{ minHeight: 56 }}>
        {label}
      </Button>
      <span className="quiet">{say}</span>
    </div>
  );
  if (step.procedure) return go(`/cases/${caseId}?run=${step.procedure}`, 'Open the procedure', 'This step is done when its run is finished.');
  switch (step.place) {
    case undefined:
      return null;
    case 'scan':
      return go(
        `/cases/${caseId}/codes`,
        'Record the scan',
        step.quiet ? 'Done with a scan in which no communication code is present.' : 'Done with a scan that is saved now.',
      );
    case 'counters':
      return go(
        `/cases/${caseId}#counters`,
        'Record the counters',
        step.stage === 'before'
          ? 'Done when a counter reading from before the work is saved.'
          : 'Done when each counter read before the work is read again after it.',
      );
    case 'verify':
      return go(`/cases/${caseId}/verify`, 'Verify the keys', 'Done when every key here has been tried in everything it must do.');
    case 'variant':
      return part ? <PartNumbers part={part} caseId={caseId} photos={job.photos} /> : null;
    case 'saved':
      return part && part.saved.length > 0 ? (
        <Answers
          intent="saved"
          part={part.part}
          label="What is saved"
          answers={savedAnswerWords}
          asked={part.saved.map(({ item, answer }) => ({ id: item, say: savableWords[item], more: `If not: ${unsavedWords[item]}`, answer }))}
        />
      ) : null;
    case 'cause':
      return part && part.causes.length > 0 ? (
        <Answers intent="causes" part={part.part} label="What may have damaged it" answers={causeAnswerWords} asked={part.causes} />
      ) : null;
  }
}

/** How the step went, by a person's word. */
function Outcome({ step }: { step: StepShown }) {
  const act = useAct();
  const [answer, choose] = useState<'failed' | 'leftOut' | null>(null);
  const send = (say: string, label: string, main: boolean) => (
    <Form onSubmit={act.send('step')} key={say}>
      <input type="hidden" name="step" value={step.id} />
      <input type="hidden" name="answer" value={say} />
      <Button type="submit" variant={main ? 'contained' : 'outlined'} loading={act.busy} sx={{ minHeight: 56 }}>
        {label}
      </Button>
    </Form>
  );
  const settled = step.state === 'done' || step.state === 'leftOut';
  const witnessed = step.procedure !== undefined || step.place !== undefined;
  return (
    <div className={styles.outcome}>
      <ProblemSummary errors={act.errors} />
      <div className={styles.buttons}>
        {!settled && step.ready && step.shut.length === 0 && send('done', witnessed ? 'Done another way' : 'Done', !witnessed)}
        {!settled && (
          <>
            <Button variant="outlined" aria-expanded={answer === 'failed'} onClick={() => choose('failed')} sx={{ minHeight: 56 }}>
              It failed
            </Button>
            <Button variant="outlined" aria-expanded={answer === 'leftOut'} onClick={() => choose('leftOut')} sx={{ minHeight: 56 }}>
              Leave it out
            </Button>
          </>
        )}
        {step.through === 'answer' && send('open', 'Open this step again', false)}
      </div>
      {answer && (
        <Form onSubmit={act.send('step')} noValidate className={styles.reason}>
          <input type="hidden" name="step" value={step.id} />
          <input type="hidden" name="answer" value={answer} />
          <TextField
            label={answer === 'failed' ? 'How it failed, without names' : 'Why it is left out, without names'}
            name="note"
            size="small"
            autoFocus
            error={'note' in act.errors}
            helperText={act.errors.note}
            slotProps={{ htmlInput: { maxLength: 300 } }}
          />
          <Button type="submit" variant="contained" loading={act.busy} sx={{ justifySelf: 'start' }}>
            {answer === 'failed' ? 'Save as failed' : 'Save as left out'}
          </Button>
        </Form>
      )}
    </div>
  );
}
