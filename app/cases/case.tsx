import { useState } from 'react';
import { redirect, useSearchParams } from 'react-router';
import { recordAuthority } from '../../server/cases';
import { readCasePage } from '../../server/caseView';
import { refused } from '../../server/expected';
import { fieldsOf, parseAuthority, parseEvidence, parseStartRun } from '../../server/forms';
import { recordEvidence, withdrawEvidence } from '../../server/ledger';
import { startRun } from '../../server/runs';
import { actOf, answering } from '../respond.server';
import { About } from './About';
import { Board } from './Board';
import { Chain } from './Chain';
import type { Route } from './+types/case';
import styles from './case.module.css';
import { Ledger } from './Ledger';
import { Next } from './Next';
import { caseId, noCase } from './caseId.server';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `${loaderData ? `Case ${loaderData.record.number}` : 'Case'} · Bloodstone` }];
export const handle = {
  place: ({ record: r }: Route.ComponentProps['loaderData']) => ({
    title: `Case ${r.number}`,
    detail: [r.vehicle, r.plate && `plate ${r.plate}`, r.bay?.toLowerCase()].filter(Boolean).join(' · '),
  }),
};

export async function loader({ params, context }: Route.LoaderArgs) {
  return (await readCasePage(context.services, caseId(params.caseId))) ?? noCase(params.caseId);
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const id = caseId(params.caseId);
  const { intent, commandId, ...form } = fieldsOf(await request.formData());
  const { services } = context;
  const { db } = services.database;
  const answer = await answering(async (): Promise<{ runId?: number }> => {
    const act = await actOf(context, commandId);
    switch (intent) {
      case 'evidence':
        await recordEvidence(db, services.documents, act, id, parseEvidence(form));
        return {};
      case 'withdraw':
        await withdrawEvidence(db, act, id, String(form.entry));
        return {};
      case 'authority':
        await recordAuthority(db, act, id, parseAuthority(form));
        return {};
      case 'startRun': {
        const run = await startRun(db, services.documents, services.library, act, id, parseStartRun(form).procedure);
        return { runId: run.id };
      }
      default:
        throw refused(400, 'unknownIntent', 'This form is not known here. Reload the page and fill it in there.');
    }
  });
  if ('runId' in answer.data) throw redirect(`/cases/${id}/runs/${answer.data.runId}`);
  return answer;
}

export default function CasePage({ loaderData: page }: Route.ComponentProps) {
  const [search] = useSearchParams();
  const [selected, select] = useState<string | null>(null);
  return (
    <div className={styles.page}>
      <h1 className="hidden">
        Case {page.record.number}, {page.record.vehicle}
      </h1>
      <Chain links={page.assessment.links} selected={selected} onSelect={(id) => select((s) => (s === id ? null : id))} page={page} />
      <div className={styles.work}>
        <Next key={search.get('do') ?? 'first'} page={page} chosen={search.get('do')} />
        <div className={styles.below}>
          <About page={page} />
          <Board page={page} />
        </div>
      </div>
      <Ledger page={page} link={selected} />
    </div>
  );
}
