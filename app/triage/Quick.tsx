import type { Answered } from '../ui/useAct';
import { type ReactNode, useState } from 'react';
import { useFetcher } from 'react-router';
import type { TestDefinition } from '../../core/library';
import type { TriageStage } from '../../core/triage';
import { answerLater, waitingOutcome } from '../cases/answerLater';
import type { CaseView } from '../cases/page';
import { Cautions, useCautions } from '../ui/Cautions';
import { Choice } from '../ui/Choice';
import { useWaiting } from '../ui/sending';
import { useActIds } from '../ui/useActIds';
import { errorsByPath, ProblemSummary } from '../ui/problems';
import styles from './triage.module.css';

/** Several looks on one page, each answered with one touch and kept at once. */
export function Quick({ page, stage, children }: { page: CaseView; stage: TriageStage; children: ReactNode }) {
  const keys = page.record.keys.filter((k) => k.present).map((k) => k.tag);
  const [key, setKey] = useState(keys[0] ?? '');
  const perKey = stage.tests.some((t) => t.perKey);
  return (
    <div className={styles.card}>
      <h2>{stage.id === 'signs' ? 'What else did you notice?' : 'Quick checks first.'}</h2>
      <p className={styles.why}>
        {stage.id === 'signs'
          ? 'What stays dead tells as much as what works. Leave blank what you did not check.'
          : 'Key refused: these checks take a minute and fix many cars. Change one thing at a time, then turn the ignition on again.'}
      </p>
      {perKey && keys.length > 1 && (
        <fieldset className={styles.keys}>
          <legend>With</legend>
          {keys.map((tag) => (
            <Choice key={tag} type="radio" name="key" value={tag} checked={key === tag} onChange={() => setKey(tag)}>
              tag {tag}
            </Choice>
          ))}
        </fieldset>
      )}
      <ul className={styles.rows}>
        {stage.tests.map((t) => (
          <Row key={`${t.id} ${t.perKey ? key : ''}`} page={page} test={t} tag={t.perKey ? key : null} />
        ))}
      </ul>
      <div className={styles.foot}>{children}</div>
    </div>
  );
}

function Row({ page, test, tag }: { page: CaseView; test: TestDefinition; tag: string | null }) {
  const fetcher = useFetcher<Answered>({ key: `quick ${test.id}` });
  const cautions = useCautions(test.cautions, page.cautions);
  const problems = fetcher.data?.problems ?? [];
  const waiting = waitingOutcome(useWaiting(`/cases/${page.record.id}`), test.id, tag);
  const recorded = page.record.evidence.findLast(
    (e) => !e.foreign && e.test === test.id && e.key === tag && !page.record.evidence.some((o) => o.replaces === e.id),
  )?.outcome;
  const said = waiting ?? recorded;
  const busy = fetcher.state !== 'idle';
  const one = useActIds(fetcher);
  const record = (outcome: string) => {
    const send = (commandId: string) =>
      void fetcher.submit(
        { intent: 'evidence', commandId, test: test.id, outcome, ...(tag === null ? {} : { key: tag }) },
        { method: 'post', action: `/cases/${page.record.id}` },
      );
    one(`${outcome} ${tag ?? ''}`, send, { subject: tag, later: { act: answerLater(page, test, outcome, tag) } });
  };
  return (
    <li>
      <div>
        <b>{test.title}</b>
        <p>{test.do}</p>
        {test.tools.length > 0 && <p className="quiet">{test.tools.join(', ')}</p>}
        {test.effect !== 'none' && <p className="quiet">{page.effects[test.id]}</p>}
        <Cautions state={cautions} />
        <ProblemSummary errors={errorsByPath(problems)} />
        {waiting && <p className="quiet">Not sent yet.</p>}
      </div>
      <div className={styles.answers} role="group" aria-label={test.title}>
        {Object.entries(test.outcomes).map(([id, outcome]) => (
          <button key={id} type="button" aria-pressed={said === id} disabled={busy || !cautions.clear || tag === ''} onClick={() => record(id)}>
            {outcome.say}
          </button>
        ))}
      </div>
    </li>
  );
}
