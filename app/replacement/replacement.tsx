import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { Form, Link, redirect, useNavigation, useSearchParams, useSubmit } from 'react-router';
import { doerWords } from '../../core/replacement';
import { moneyWords } from '../../core/units';
import { parseReplacementQuery } from '../../server/replacement/query';
import { type PlanShown, viewReplacement } from '../../server/replacement/view';
import { here } from '../../server/http/requestContext';
import { keysHere } from '../../server/record/cases';
import { keptShop } from '../../server/shop/shop';
import { answerStep, beginPlan, endPlan, recordCauses, recordFits, recordSaved, recordVariant } from '../../server/replacement/acts';
import {
  parseCausesForm,
  parseEndForm,
  parseFitsForm,
  parsePlanForm,
  parseSavedForm,
  parseStepForm,
  parseVariantForm,
} from '../../server/replacement/forms';
import { viewJob } from '../../server/replacement/jobView';
import { caseId, caseOf } from '../cases/caseId.server';
import { notChecked } from '../library/notChecked';
import { acting, notThere } from '../respond.server';
import { Choice } from '../ui/Choice';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import { unlessTimers } from '../ui/looks';
import type { Route } from './+types/replacement';
import { lasting } from './lasting';
import styles from './replacement.module.css';
import { Work } from './Work';

export const meta: Route.MetaFunction = ({ loaderData }) => [
  { title: `Replaced parts${loaderData ? `, case ${loaderData.number}` : ''} · Bloodstone` },
];
export const handle = {
  place: ({ number, vehicle }: Route.ComponentProps['loaderData']) => ({ title: `Case ${number}, replaced parts`, detail: vehicle }),
};
export const shouldRevalidate = unlessTimers;

export async function loader({ params, request, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const record = await caseOf(context, params.caseId);
  const family = await services.documents.family(record.family);
  const content = services.library.replacements.get(family.id);
  if (!content) return notThere('Not in the Library yet', `What the modules of “${family.title}” hold is not in the Library yet.`);
  const query = parseReplacementQuery(new URL(request.url).searchParams);
  const told = query.asked ? query : { ...query, ...asTold(record.changed) };
  return {
    id: record.id,
    number: record.number,
    vehicle: record.vehicle,
    family: family.title,
    open: record.state === 'open',
    asked: query.asked,
    currency: (await keptShop(services)).currency || 'units',
    job: viewJob(record, family),
    ...viewReplacement(content, told, keysHere(record)),
  };
}

export async function action(args: Route.ActionArgs) {
  const id = caseId(args.params.caseId);
  const { database, documents, library } = args.context.get(here).services;
  const needs = { db: database.db, documents, library };
  const saved = async (work: Promise<void>) => {
    await work;
    return { said: 'Saved to the case.' };
  };
  const answer = await acting('/cases/:caseId/replacement', args, {
    plan: async ({ form, act }): Promise<{ begun: boolean }> => {
      await beginPlan(needs, act(), id, parsePlanForm(form));
      return { begun: true };
    },
    end: ({ form, act }) => saved(endPlan(needs, act(), id, parseEndForm(form))),
    variant: ({ form, act }) => saved(recordVariant(needs, act(), id, parseVariantForm(form))),
    fits: ({ form, act }) => saved(recordFits(needs, act(), id, parseFitsForm(form))),
    saved: ({ form, act }) => saved(recordSaved(needs, act(), id, parseSavedForm(form))),
    causes: ({ form, act }) => saved(recordCauses(needs, act(), id, parseCausesForm(form))),
    step: ({ form, act }) => saved(answerStep(needs, act(), id, parseStepForm(form))),
  });
  // The address no longer asks for a plan: it is there.
  if ('begun' in answer.data) throw redirect(`/cases/${id}/replacement`);
  return answer;
}

/** What the intake says was replaced: those parts are in already, and nobody has said yet where they come from. */
function asTold(changed: readonly { what: string }[]): Pick<ReturnType<typeof parseReplacementQuery>, 'replaced' | 'installed'> {
  const told = (what: string) => changed.some((c) => c.what === what);
  const parts = [...(told('ecm') ? (['engine'] as const) : []), ...(told('immobilizerModule') ? (['immobilizer'] as const) : [])];
  return { replaced: Object.fromEntries(parts.map((p) => [p, 'new'])), installed: parts };
}

type Shown = Route.ComponentProps['loaderData'];

/** What a replaced part held, and what has to be done in which order until every key works again: chosen in the address, and then worked in the case. */
export default function ReplacementPage({ loaderData: d }: Route.ComponentProps) {
  const [search] = useSearchParams();
  return (
    <div className={styles.page}>
      <p>
        <Link to={`/cases/${d.id}`}>Back to the case</Link>
      </p>
      <h1>Replaced parts</h1>
      <p className="quiet">
        {d.family}. {!d.checked && notChecked} The service information of this vehicle comes first.
      </p>
      {d.job ? (
        <>
          <Work job={d.job} caseId={d.id} chosen={search.get('step')} open={d.open} />
          {d.open && (
            <details className={styles.another} open={d.asked}>
              <summary>Make another plan</summary>
              <p className="quiet">Something else turned out to be replaced, or a tool is missing: a new plan takes the place of this one.</p>
              <Chooser d={d} />
            </details>
          )}
        </>
      ) : (
        <Chooser d={d} />
      )}
    </div>
  );
}

/** What is replaced and what is at hand, and the plans that follow. */
function Chooser({ d }: { d: Shown }) {
  const submit = useSubmit();
  const busy = useNavigation().state !== 'idle';
  return (
    <>
      <Form className={styles.form} onChange={(event) => void submit(event.currentTarget, { replace: true, preventScrollReset: true })}>
        <input type="hidden" name="asked" value="" />
        <fieldset className={styles.parts}>
          <legend>What is replaced, and where does the part come from?</legend>
          {d.parts.map((p) => (
            <div key={p.name}>
              <TextField
                select
                size="small"
                label={p.title}
                name={p.name}
                key={`${p.name} ${p.origin}`}
                defaultValue={p.origin}
                slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
              >
                <option value="">Not replaced</option>
                {d.origins.map((o) => (
                  <option key={o.id} value={o.id}>
                    {o.say}
                  </option>
                ))}
              </TextField>
              {p.origin !== '' && p.name !== 'key' && (
                <Choice type="checkbox" name="installed" value={p.name} defaultChecked={p.installed}>
                  Already in
                </Choice>
              )}
              {p.origin !== '' && p.origin !== 'repaired' && p.name !== 'key' && p.holds && (
                <Choice type="checkbox" name="unread" value={p.name} defaultChecked={p.unread}>
                  The old one can’t be read
                </Choice>
              )}
            </div>
          ))}
        </fieldset>
        <fieldset className={styles.tools}>
          <legend>Tools at hand</legend>
          {d.tools.map((t) => (
            <Choice key={t.name} type="checkbox" name="tool" value={t.name} defaultChecked={t.here}>
              {t.name}
            </Choice>
          ))}
          <p className="quiet">{keysWords(d.keys)}</p>
        </fieldset>
        <noscript>
          <Button type="submit" variant="outlined">
            Make the plan
          </Button>
        </noscript>
      </Form>
      {d.plans === null ? (
        <p role="status" className={styles.empty}>
          Choose what is replaced: the plan appears here.
        </p>
      ) : (
        <Plans plans={d.plans} page={d} busy={busy} />
      )}
    </>
  );
}

function keysWords({ learned, main, valet, master }: { learned: number; main: number; valet: number; master: number }): string {
  if (learned === 0) return 'The case lists no learned key that is here.';
  const of = [main > 0 && `${main} as main key`, master > 0 && `${master} as master key`, valet > 0 && `${valet} as valet key`].filter(Boolean);
  return `The case lists ${learned} learned ${learned === 1 ? 'key' : 'keys'} here${of.length > 0 ? `, ${of.join(', ')}` : ''}.`;
}

function Plans({ plans, page, busy }: { plans: PlanShown[]; page: Shown; busy: boolean }) {
  const names = plans.length === 2 ? ['With the scan tool', 'Without a scan tool'] : ['Without a scan tool'];
  return (
    <div className={styles.plans} aria-busy={busy}>
      {plans.map((plan, i) => (
        <section key={names[i]} aria-labelledby={`plan-${i}`}>
          <h2 id={`plan-${i}`}>{names[i]}</h2>
          <Sums plan={plan} currency={page.currency} />
          {page.open && plan.steps.length > 0 && <Begin page={page} byHand={names[i] === 'Without a scan tool'} busy={busy} />}
          {plan.plain.map((say) => (
            <p key={say}>{say}</p>
          ))}
          {plan.warnings.length > 0 && plan.steps.length > 0 && (
            <ul className={styles.warnings} aria-label="Warnings">
              {plan.warnings.map((w) => (
                <li key={w.id}>{w.say}</li>
              ))}
            </ul>
          )}
          <Cannot plan={plan} />
          <ol className={styles.steps}>
            {plan.steps.map((s) => (
              <li key={s.id}>
                <b>
                  {s.title}
                  {s.part && <span className="quiet"> · {s.part}</span>}
                </b>
                <span>{s.why}</span>
                <span className="quiet">
                  {[
                    lasting(s.minutes),
                    doerWords[s.by],
                    s.effect === 'replacesKeys' && 'replaces the stored keys',
                    s.after.length > 0 && s.after.length < 4 && `after ${s.after.join(', ')}`,
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </span>
                {s.risk && <span className={styles.risk}>{s.risk}</span>}
                {s.procedure && page.open && <Link to={`/cases/${page.id}?run=${s.procedure}`}>Look at the procedure</Link>}
              </li>
            ))}
          </ol>
        </section>
      ))}
    </div>
  );
}

/** The plan becomes the work of this case. While another one is on its way, none is begun. */
function Begin({ page, byHand, busy }: { page: Shown; byHand: boolean; busy: boolean }) {
  const act = useAct();
  const begin = () =>
    act.sendJson({
      intent: 'plan',
      replaced: Object.fromEntries(page.parts.filter((p) => p.origin !== '').map((p) => [p.name, p.origin])),
      installed: page.parts.filter((p) => p.installed && p.origin !== '').map((p) => p.name),
      unread: page.parts.filter((p) => p.unread && p.origin !== '').map((p) => p.name),
      tools: page.tools.filter((t) => t.here).map((t) => t.name),
      byHand,
    });
  return (
    <>
      <ProblemSummary errors={act.errors} />
      <Button variant="contained" size="large" loading={act.busy} disabled={busy} onClick={begin} sx={{ my: 1, minHeight: 56 }}>
        Work by this plan
      </Button>
    </>
  );
}

function Sums({ plan, currency }: { plan: PlanShown; currency: string }) {
  if (plan.steps.length === 0) return null;
  const parts = [
    `${lasting(plan.minutes)}, hands-on ${lasting(plan.attended)}`,
    plan.money > 0 && `about ${moneyWords(plan.money, currency)} besides labor`,
    plan.risks > 0 && `${plan.risks} ${plan.risks === 1 ? 'step' : 'steps'} with a risk`,
  ].filter(Boolean);
  return <p className={styles.sums}>{parts.join(' · ')}</p>;
}

/** What can't be brought back, and the few things that are missing for it. */
function Cannot({ plan }: { plan: PlanShown }) {
  if (plan.cannot.length === 0) return null;
  const stops = plan.steps.length === 0;
  return (
    <div className={styles.cannot}>
      <h3>{stops ? 'Don’t start: not everything can be restored' : 'Can’t be restored'}</h3>
      <p>{plan.cannot.join('; ')}.</p>
      <ul className="quiet">
        {plan.because.map((say) => (
          <li key={say}>{say}</li>
        ))}
      </ul>
      {stops && plan.then.map((t) => <p key={t}>{t}</p>)}
    </div>
  );
}
