import { useState } from 'react';
import { redirect, useSearchParams } from 'react-router';
import { here } from '../../server/requestContext';
import { recordAuthority } from '../../server/authority';
import { readCasePage } from '../../server/caseView';
import { parkCase, reopenCase } from '../../server/closing';
import { parseAuthority, parseEvidence, parseStartRun, parseTitle } from '../../server/forms';
import { parseCounter, parseCustody, parsePart, parseReason } from '../../server/intake';
import { addPart, readCounter, recordCustody } from '../../server/keys';
import { recordEvidence, withdrawEvidence } from '../../server/ledger';
import { saveNumbers } from '../../server/numbers';
import { startRun } from '../../server/runs';
import { may } from '../../server/rights';
import { acting } from '../respond.server';
import { About } from './About';
import { Board } from './Board';
import { Chain } from './Chain';
import type { Route } from './+types/case';
import styles from './case.module.css';
import { Doubt } from './Doubt';
import { Learnt } from './Learnt';
import { Ledger } from './Ledger';
import { Next } from './Next';
import { Papers } from './Papers';
import { Parts } from './Parts';
import { Aside } from './Aside';
import { caseId, noCase } from './caseId.server';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `${loaderData ? `Case ${loaderData.record.number}` : 'Case'} · Bloodstone` }];
export const handle = {
  place: ({ record: r }: Route.ComponentProps['loaderData']) => ({
    title: `Case ${r.number}`,
    detail: [r.vehicle || 'parts', r.plate && `plate ${r.plate}`, r.bay?.toLowerCase()].filter(Boolean).join(' · '),
  }),
};

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const page = (await readCasePage(services, caseId(params.caseId))) ?? noCase(params.caseId);
  const { person } = session!;
  return {
    ...page,
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
      const run = await startRun(db, services.documents, services.library, act(), id, parseStartRun(form).procedure);
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
  const [search] = useSearchParams();
  const [selected, select] = useState<string | null>(null);
  return (
    <div className={styles.page}>
      <h1 className="hidden">
        Case {page.record.number}, {page.record.vehicle}
      </h1>
      {page.record.state !== 'open' && <Aside page={page} />}
      <Doubt page={page} />
      {page.record.kind === 'vehicle' && (
        <Chain links={page.assessment.links} selected={selected} onSelect={(id) => select((s) => (s === id ? null : id))} page={page} />
      )}
      <div className={styles.work}>
        {page.record.kind === 'vehicle' ? <Next key={search.get('do') ?? 'first'} page={page} chosen={search.get('do')} /> : <Parts page={page} />}
        <div className={styles.below}>
          <About page={page} />
          <Board page={page} />
        </div>
      </div>
      <Ledger page={page} link={selected} />
      <Learnt page={page} />
      <Papers page={page} />
    </div>
  );
}
