import Button from '@mui/material/Button';
import { useEffect, useEffectEvent, useState } from 'react';
import { Link, type ShouldRevalidateFunctionArgs, useFetcher, useSearchParams } from 'react-router';
import { changes } from '../../core/library';
import { inSentence } from '../../core/units';
import type { TriageStage } from '../../core/triage';
import { readCasePage } from '../../server/cases/caseView';
import { setChanged } from '../../server/cases/changeIntake';
import { parseChanged } from '../../server/cases/forms';
import { here } from '../../server/http/requestContext';
import { caseId, noCase } from '../cases/caseId.server';
import { UncertainType } from '../cases/UncertainType';
import { waitingOutcome } from '../cases/answerLater';
import type { TriagePage } from '../cases/page';
import { TestCard } from '../cases/TestCard';
import { acting } from '../respond.server';
import { Choice } from '../ui/Choice';
import { LinkDot, stateWords } from '../ui/LinkGlyph';
import { errorsByPath, ProblemSummary } from '../ui/problems';
import { unlessOnlySearch, unlessTimers } from '../ui/looks';
import { useWaiting } from '../ui/sending';
import { type Answered, useAct } from '../ui/useAct';
import { useKept } from '../ui/useKept';
import type { Route } from './+types/triage';
import { ImmobilizerLamp } from './ImmobilizerLamp';
import { OnChain } from './OnChain';
import { Quick } from './Quick';
import styles from './triage.module.css';
import { stageWords, triageCaveat, triageTitle, triageWords } from './words';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `Triage, case ${loaderData?.record.number ?? ''} · Bloodstone` }];
export const handle = {
  place: ({ record: r }: Route.ComponentProps['loaderData']) => ({ title: `Case ${r.number}, triage`, detail: r.vehicle }),
};

export async function loader({ params, context }: Route.LoaderArgs) {
  const page = await readCasePage(context.get(here).services, caseId(params.caseId));
  return page ?? noCase(params.caseId);
}

/** Going from one question to another needs no server. */
export const shouldRevalidate = (args: ShouldRevalidateFunctionArgs): boolean => unlessTimers(args) && unlessOnlySearch(args);

export async function action(args: Route.ActionArgs) {
  const id = caseId(args.params.caseId);
  return acting('/cases/:caseId/triage', args, {
    changed: async ({ form, services, act }) => {
      await setChanged(services.database.db, act(), id, parseChanged(form));
      return { done: true };
    },
  });
}

/** Is it the immobilizer at all: one look after the other, each kept as it is answered, and what they say together. */
export default function Triage({ loaderData: page }: Route.ComponentProps) {
  const { record, triage } = page;
  const [search, setSearch] = useSearchParams();
  const [skipped, setSkipped] = useKept<string[]>(`triage.${record.id}`, [], (kept) =>
    Array.isArray(kept) ? kept.filter((s): s is string => typeof s === 'string') : undefined,
  );
  const asked = triage.stages.find((s) => s.id === search.get('at'));
  const waiting = useWaiting(`/cases/${record.id}`);
  const waitingChange = useWaiting(`/cases/${record.id}/triage`).length > 0;
  /** Answered here, as far as this device knows before the server has heard of it. */
  const isAnswered = (s: TriageStage) =>
    s.answered || (s.id === 'changed' ? waitingChange : s.tests.length === 1 && waitingOutcome(waiting, s.tests[0]!.id) !== undefined);
  const open = triage.stages.find((s) => !isAnswered(s) && !skipped.includes(s.id));
  const shown = search.get('at') === 'verdict' ? undefined : (asked ?? open);
  const goTo = (id: string) => setSearch({ at: id }, { preventScrollReset: true });
  const goOn = () => setSearch({}, { preventScrollReset: true });
  const leave = (stage: TriageStage) => {
    if (!stage.answered) setSkipped([...skipped.filter((s) => s !== stage.id), stage.id]);
    goOn();
  };
  if (record.kind !== 'vehicle' || record.state !== 'open')
    return (
      <div className={styles.none}>
        <h1>{record.kind === 'vehicle' ? 'This case is not open.' : 'Parts came without a vehicle.'}</h1>
        <p>
          {record.kind === 'vehicle' ? 'Reopen it for the triage. ' : 'There is no light to watch and no engine to start. '}
          <Link to={`/cases/${record.id}`}>Back to the case</Link>
        </p>
      </div>
    );
  return (
    <div className={styles.page}>
      <h1 className="hidden">Triage of case {record.number}</h1>
      <section className={styles.stage} aria-label={shown ? stageWords[shown.id] : 'Verdict'}>
        <UncertainType page={page} />
        {shown ? <Stage key={shown.id} page={page} stage={shown} goOn={goOn} leave={() => leave(shown)} /> : <Verdict page={page} />}
      </section>
      <SoFar page={page} shown={shown?.id ?? 'verdict'} skipped={skipped} goTo={goTo} />
    </div>
  );
}

function Stage({ page, stage, goOn, leave }: { page: TriagePage; stage: TriageStage; goOn: () => void; leave: () => void }) {
  const waiting = useWaiting(`/cases/${page.record.id}`);
  const made = [...page.record.evidence, ...waiting.map((w) => w.fields)].filter((e) => stage.tests.some((t) => t.id === e.test)).length;
  const [before] = useState(made);
  const single = stage.tests.length === 1;
  // Opened once more and answered: on to what is open.
  const moveOn = useEffectEvent(() => {
    if (single && made > before) goOn();
  });
  useEffect(() => moveOn(), [made]);
  const fetcher = useFetcher<Answered>({ key: 'case' });
  const problems = fetcher.data?.problems ?? [];
  const on = (
    <Button variant="outlined" color="inherit" onClick={leave} className={styles.leave!}>
      {stage.answered || stage.done.length > 0 ? 'Continue' : 'Skip'}
    </Button>
  );
  const [first] = stage.tests;
  switch (stage.id) {
    case 'changed':
      return <WhatChanged page={page} goOn={goOn} leave={leave} />;
    case 'signs':
    case 'cheap':
      return (
        <Quick page={page} stage={stage}>
          {on}
        </Quick>
      );
    case 'immobilizer':
    case 'live':
    case 'engine': {
      const why = {
        immobilizer: 'Seconds that save hours. What the light does decides where to look.',
        live: 'Nothing about the key so far. See what the immobilizer says about it.',
        engine: 'What gets cut off tells which module refuses.',
      }[stage.id];
      const open = page.record.keys.filter((k) => k.present && !page.record.evidence.some((e) => e.test === first!.id && e.key === k.tag));
      return (
        <div className={styles.card}>
          <ProblemSummary errors={errorsByPath(problems)} />
          <TestCard page={page} test={first!} why={why} proposedKey={open[0]?.tag}>
            {stage.id === 'immobilizer' ? (
              <ImmobilizerLamp page={page} test={first!}>
                {on}
              </ImmobilizerLamp>
            ) : (
              on
            )}
          </TestCard>
        </div>
      );
    }
  }
}

function WhatChanged({ page, goOn, leave }: { page: TriagePage; goOn: () => void; leave: () => void }) {
  const [changed, setChosen] = useState(page.record.changed.map((c) => c.what));
  const act = useAct('changed');
  const save = (list: string[]) => {
    const say = `Case ${page.record.number}: what changed, ${list.length === 0 ? 'nothing known' : list.map((c) => changes[c as keyof typeof changes]).join(', ')}`;
    act.sendJson({ intent: 'changed', changed: list }, undefined, { say, subject: 'changed' });
    goOn();
  };
  return (
    <div className={styles.card}>
      <h2>What changed lately?</h2>
      <p className={styles.why}>What changed last is the first suspect. Ask whoever drove it.</p>
      <ProblemSummary errors={act.errors} />
      <div className={styles.changes} role="group" aria-label="What changed">
        {Object.entries(changes).map(([id, say]) => (
          <Choice
            key={id}
            type="checkbox"
            checked={changed.includes(id)}
            onChange={(event) => setChosen((before) => (event.target.checked ? [...before, id] : before.filter((c) => c !== id)))}
          >
            {say}
          </Choice>
        ))}
      </div>
      <div className={styles.acts}>
        <Button variant="contained" size="large" disabled={changed.length === 0} onClick={() => save(changed)}>
          {changed.length > 0 ? 'This changed' : 'Choose what changed'}
        </Button>
        <Button variant="outlined" size="large" onClick={() => save([])}>
          Nothing known
        </Button>
        <Button variant="outlined" color="inherit" onClick={leave}>
          {page.triage.stages.find((s) => s.id === 'changed')!.answered ? 'Continue' : 'Not asked, continue'}
        </Button>
      </div>
    </div>
  );
}

function Verdict({ page }: { page: TriagePage }) {
  const { triage, diagnosis, record } = page;
  const caveat = triageCaveat(triage);
  const title = triageTitle(triage.kind, diagnosis.weighed);
  return (
    <div className={styles.card}>
      <p className="label">Verdict</p>
      <h2 className={styles.word} data-long={title.length > 20 || undefined}>
        {title}
      </h2>
      {caveat && <p className={styles.why}>{caveat}</p>}
      {(diagnosis.verdict || !caveat) && (
        <p className={caveat ? styles.family : styles.why}>{diagnosis.verdict?.say ?? triageWords[triage.kind].say}</p>
      )}
      <OnChain links={diagnosis.links} look={triage.look} />
      {triage.look.length > 0 && (
        <>
          <h3>{triage.kind === 'notClear' ? 'What to check' : 'In this order'}</h3>
          <ol className={styles.look} aria-label={triage.kind === 'notClear' ? 'What to check' : 'In this order'}>
            {triage.look.slice(0, 4).map((id) => {
              const link = diagnosis.links.find((l) => l.id === id)!;
              return (
                <li key={id}>
                  <LinkDot state={link.state} />
                  <span>
                    <b>{link.title}</b>: {stateWords[link.state]}. <span className="quiet">How it works: {link.how}</span>
                  </span>
                </li>
              );
            })}
          </ol>
        </>
      )}
      <div className={styles.acts}>
        <Button component={Link} to={`/cases/${record.id}`} variant="contained" size="large">
          Continue in the case
        </Button>
      </div>
    </div>
  );
}

/** Every look with its answer, to be seen and opened again. */
function SoFar({ page, shown, skipped, goTo }: { page: TriagePage; shown: string; skipped: string[]; goTo: (id: string) => void }) {
  const { triage, record, tests } = page;
  const answers = (stage: TriageStage): string[] =>
    stage.id === 'changed'
      ? record.changed.length > 0
        ? record.changed.map((c) => inSentence(changes[c.what as keyof typeof changes]))
        : stage.answered
          ? ['nothing known']
          : []
      : record.evidence
          .filter(
            (e) => !e.foreign && e.outcome !== null && stage.tests.some((t) => t.id === e.test) && !record.evidence.some((o) => o.replaces === e.id),
          )
          .map((e) => {
            const what = stage.tests.length > 1 ? `${inSentence(tests[e.test]!.title)}: ` : '';
            return `${what}${e.key ? `tag ${e.key}, ` : ''}${inSentence(tests[e.test]!.outcomes[e.outcome!]!.say)}`;
          });
  return (
    <nav className={styles.soFar} aria-label="So far">
      <p className="label">So far</p>
      <p className={styles.kind}>
        {triage.stages.some((s) => s.done.length > 0) ? triageTitle(triage.kind, page.diagnosis.weighed) : 'Nothing seen yet'}
      </p>
      <ol>
        {[
          ...triage.stages.map((stage) => ({
            id: stage.id as string,
            title: stageWords[stage.id],
            said: answers(stage),
            left: skipped.includes(stage.id) && !stage.answered,
          })),
          { id: 'verdict', title: 'Verdict', said: [], left: false },
        ].map((stage) => (
          <li key={stage.id}>
            <button type="button" aria-current={stage.id === shown ? 'step' : undefined} onClick={() => goTo(stage.id)}>
              <b>{stage.title}</b>
              {stage.said.map((say, i) => (
                <span key={i}>{say}</span>
              ))}
              {stage.said.length === 0 && stage.left && <span className="quiet">not checked</span>}
            </button>
          </li>
        ))}
      </ol>
    </nav>
  );
}
