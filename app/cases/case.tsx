import { useState } from 'react';
import { redirect } from 'react-router';
import { here } from '../../server/http/requestContext';
import { recordAuthority } from '../../server/cases/authority';
import { readCasePage } from '../../server/cases/caseView';
import { parkCase, reopenCase } from '../../server/cases/closing';
import { parseAuthority } from '../../server/cases/forms';
import { parseRepairAction, parseEvidence } from '../../server/ledger/forms';
import { parseStartRun } from '../../server/runs/forms';
import { parseTitle } from '../../server/library/forms';
import { parseCounter, parseCustody, parsePart, parseReason } from '../../server/cases/forms';
import { addPart, readCounter, recordCustody } from '../../server/cases/keys';
import { recordRepairAction, recordEvidence, withdrawEvidence } from '../../server/ledger/ledger';
import { saveNumbers } from '../../server/ledger/numbers';
import { parseSupposed } from '../../server/cases/queries';
import { startRun } from '../../server/runs/runs';
import { may } from '../../server/acts/rights';
import { acting } from '../respond.server';
import { About } from './About';
import type { Subject } from './about';
import { later } from '../ui/later';
import { unlessTimers } from '../ui/looks';
import { Beliefs } from './Beliefs';
import { Board } from './Board';
import { Chain } from './Chain';
import type { Route } from './+types/case';
import styles from './case.module.css';
import { UncertainType } from './UncertainType';
import { Ledger } from './Ledger';
import { Next } from './Next';
import { Record } from './Record';
import { useDiagnosis } from './useDiagnosis';
import { caseId, noCase } from './caseId.server';

const Parts = later('Parts', () => import('./Parts'));
const Aside = later('Aside', () => import('./Aside'));

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `${loaderData ? `Case ${loaderData.record.number}` : 'Case'} · Bloodstone` }];
export const handle = {
  place: ({ record: r }: Route.ComponentProps['loaderData']) => ({
    title: `Case ${r.number}`,
    detail: [r.vehicle || 'parts', r.plate && `plate ${r.plate}`, r.bay?.toLowerCase()].filter(Boolean).join(' · '),
  }),
};
export const shouldRevalidate = unlessTimers;

export async function loader({ params, request, context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const { searchParams: asked } = new URL(request.url);
  const run = asked.get('run');
  const chosen = run === null ? null : { id: run, keys: asked.getAll('with') };
  const { triage, ...page } = (await readCasePage(services, caseId(params.caseId), parseSupposed(asked), chosen)) ?? noCase(params.caseId);
  const { person } = session!;
  return {
    ...page,
    triage: triage.stages.some((s) => s.done.length > 0) ? triage.kind : null,
    may: {
      otherAuthority: may(person, 'recordOtherAuthority'),
      exportPersonal: may(person, 'exportPersonalData'),
      erase: may(person, 'erasePersonalData'),
      editLibrary: may(person, 'editLibrary'),
    },
  };
}

export async function action(args: Route.ActionArgs) {
  const id = caseId(args.params.caseId);
  const { services } = args.context.get(here);
  const { db } = services.database;
  const answer = await acting('/cases/:caseId', args, {
    evidence: async ({ form, act }) => done(recordEvidence(db, services.documents, act(), id, parseEvidence(form))),
    repairAction: async ({ form, act }) => done(recordRepairAction(db, services.documents, act(), id, parseRepairAction(form))),
    withdraw: async ({ form, act }) => done(withdrawEvidence(db, act(), id, String(form.entry))),
    authority: async ({ form, act }) => done(recordAuthority(db, act(), id, parseAuthority(form))),
    counter: async ({ form, act }) => done(readCounter(db, act(), id, parseCounter(form))),
    part: async ({ form, act }) => done(addPart(db, act(), id, parsePart(form))),
    custody: async ({ form, act }) => done(recordCustody(db, act(), id, parseCustody(form))),
    park: async ({ form, act }) => done(parkCase(db, act(), id, parseReason(form))),
    reopen: async ({ form, act }) => done(reopenCase(db, act(), id, parseReason(form))),
    saveNumbers: async ({ form, act }): Promise<{ runId?: number; kept?: string }> => ({
      kept: (await saveNumbers(db, services.library, act(), id, parseTitle(form))).profile,
    }),
    startRun: async ({ form, act }): Promise<{ runId?: number }> => {
      const { procedure, keys } = parseStartRun(form);
      const run = await startRun(db, services.documents, services.library, act(), id, procedure, keys);
      return { runId: run.id };
    },
  });
  if ('kept' in answer.data) throw redirect(`/library/profiles/${answer.data.kept}`);
  if ('runId' in answer.data) throw redirect(`/cases/${id}/runs/${answer.data.runId}`);
  return answer;
}
const done = async (work: Promise<void>): Promise<{ runId?: number }> => {
  await work;
  return {};
};

export default function CasePage({ loaderData: page }: Route.ComponentProps) {
  const [chosen, choose] = useState<Subject | null>(null);
  const shown = useDiagnosis(page);
  const { view } = shown;
  const onSubject = (subject: Subject) => choose((s) => (s && s.kind === subject.kind && s.id === subject.id ? null : subject));
  // Weights are those of what was chosen, else of the likeliest fault.
  const leading = view.weighed?.beliefs[0];
  const subject = chosen ?? (leading ? { kind: 'fault' as const, id: leading.id } : null);
  const vehicle = page.record.kind === 'vehicle';
  return (
    <div className={styles.page}>
      <h1 className="hidden">
        Case {page.record.number}, {page.record.vehicle}
      </h1>
      {page.record.state !== 'open' && <Aside page={page} />}
      <UncertainType page={page} />
      {vehicle && <Chain view={view} subject={chosen} onSubject={onSubject} page={page} />}
      <div className={styles.work}>
        {vehicle ? <Next page={page} shown={shown} /> : <Parts page={page} />}
        <div className={styles.below}>
          {vehicle && view.weighed && <Beliefs page={page} weighed={view.weighed} subject={chosen} onSubject={onSubject} />}
          <Board page={page} />
        </div>
        <About page={page} />
      </div>
      <Ledger page={page} view={view} subject={subject} chosen={chosen !== null} />
      <Record page={page} />
    </div>
  );
}
