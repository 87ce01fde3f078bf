import { useState } from 'react';
import { Link } from 'react-router';
import { formatAmount } from '../../core/quote';
import { addOption, agree, changeOption, decline, hideOption, showOption } from '../../server/offers/acts';
import { parseAgreeForm, parseChangeForm, parseDeclineForm, parseHideForm, parseOwnForm, parseShowForm } from '../../server/offers/forms';
import { readOffers } from '../../server/offers/view';
import { here } from '../../server/http/requestContext';
import { caseId, caseOf } from '../cases/caseId.server';
import { notChecked } from '../library/notChecked';
import { acting } from '../respond.server';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import { unlessTimers } from '../ui/looks';
import type { Route } from './+types/options';
import { Agreements } from './Agreements';
import { Agree } from './Agree';
import { OptionForm } from './OptionForm';
import { OptionRows } from './OptionRows';
import styles from './options.module.css';
import { useTyped } from './typed';
import { WayCosts } from './WayCosts';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `Options${loaderData ? `, case ${loaderData.number}` : ''} · Bloodstone` }];
export const handle = {
  place: ({ number, vehicle }: Route.ComponentProps['loaderData']) => ({ title: `Case ${number}, options`, detail: vehicle }),
};
export const shouldRevalidate = unlessTimers;

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const record = await caseOf(context, params.caseId);
  const { settled, book, currency, work, diagnosisBill, bill, spent, askAgain, ways, family, outcomes } = await readOffers(services, record);
  return {
    id: record.id,
    number: record.number,
    vehicle: record.vehicle,
    family: family.title,
    checked: family.checked !== null,
    customer: record.customer?.name ?? '',
    open: record.state === 'open',
    decimals: book.book.decimals,
    currency,
    hasBook: book.version > 0,
    rate: book.book.rate,
    options: settled.options,
    said: settled.said,
    ways,
    diagnosis: work.filter((w) => w.part === 'diagnosis'),
    diagnosisTotal: diagnosisBill.total,
    billedMinutes: diagnosisBill.lines.reduce((n, l) => n + (l.minutes ?? 0), 0),
    billTotal: bill.total,
    spent,
    askAgain,
    outcomes,
    now: services.clock.now(),
  };
}

export async function action(args: Route.ActionArgs) {
  const id = caseId(args.params.caseId);
  const { services } = args.context.get(here);
  const { db } = services.database;
  const offered = async () => {
    const { settled, book } = await readOffers(services, await caseOf(args.context, args.params.caseId));
    return { options: settled.options, book };
  };
  const saved = async (work: Promise<void>, said: string) => {
    await work;
    return { said };
  };
  return acting('/cases/:caseId/options', args, {
    change: ({ form, act }) => saved(changeOption(db, act(), id, parseChangeForm(form)), 'Changed.'),
    add: ({ form, act }) => saved(addOption(db, act(), id, parseOwnForm(form)), 'Added.'),
    hide: ({ form, act }) => saved(hideOption(db, act(), id, parseHideForm(form)), 'Hidden.'),
    show: ({ form, act }) => saved(showOption(db, act(), id, parseShowForm(form)), 'Shown again.'),
    agree: async ({ form, act }) => saved(agree(db, act(), id, parseAgreeForm(form), await offered()), 'The agreement is saved to the case.'),
    decline: async ({ form, act }) =>
      saved(decline(db, act(), id, parseDeclineForm(form), (await offered()).options), 'Saved to the case: nothing more is wanted.'),
  });
}

/** What can be done, side by side with price, days and risk; and what the customer said to it. */
export default function Options({ loaderData: d }: Route.ComponentProps) {
  const act = useAct<typeof action>('options');
  const typed = useTyped(d.id);
  const [adding, setAdding] = useState(false);
  const money = (amount: number) => formatAmount(amount, d.decimals, d.currency);
  const shown = d.options.filter((o) => o.hidden === null);
  const hidden = d.options.filter((o) => o.hidden !== null);
  const minutes = d.diagnosis.reduce((n, w) => n + w.minutes, 0);
  return (
    <div className={styles.page}>
      <p>
        <Link to={`/cases/${d.id}`}>Back to the case</Link>
      </p>
      <h1>Options for the customer</h1>
      <p className="quiet">
        {d.family}. {!d.checked && notChecked} Prices by {d.hasBook ? 'the price book in effect' : 'the labor rate alone; there is no price book yet'}
        , with tax; parts are estimates until somebody changes them.
      </p>
      {d.askAgain && (
        <p className={styles.ask} role="note">
          {d.askAgain}
        </p>
      )}
      <ProblemSummary errors={act.errors} />
      <p role="status" className="quiet">
        {act.said}
      </p>
      <details className={styles.soFar}>
        <summary>
          Diagnosis so far: {Math.round(minutes)} min{d.billedMinutes > minutes && `, billed as ${d.billedMinutes} min`}, {money(d.diagnosisTotal)}.
          It is on the bill whatever is chosen.
        </summary>
        {d.diagnosis.length === 0 ? (
          <p>No test is recorded yet.</p>
        ) : (
          <ul>
            {d.diagnosis.map((w, i) => (
              <li key={i}>
                {w.title}: {w.minutes} min <span className="quiet">{w.counted ? 'counted' : 'as it usually takes'}</span>
              </li>
            ))}
          </ul>
        )}
      </details>
      {d.ways && <WayCosts ways={d.ways} money={money} />}
      {shown.length === 0 ? (
        <p>No option follows from what is known yet. Make the first tests, or add an option of your own.</p>
      ) : (
        <OptionRows
          options={shown}
          open={d.open}
          act={act}
          money={money}
          decimals={d.decimals}
          chosen={typed.value.chosen}
          choose={typed.choose}
          outcomes={d.outcomes}
        />
      )}
      {hidden.length > 0 && (
        <details className={styles.hidden}>
          <summary>{hidden.length === 1 ? 'One hidden option' : `${hidden.length} hidden options`}</summary>
          <ul>
            {hidden.map((o) => (
              <li key={o.id}>
                {o.title}{' '}
                <span className="quiet">
                  Hidden by {o.hidden!.by}: {o.hidden!.reason}
                </span>{' '}
                {d.open && (
                  <button type="button" className={styles.plain} onClick={() => act.sendJson({ intent: 'show', option: o.id })}>
                    Show it again
                  </button>
                )}
              </li>
            ))}
          </ul>
        </details>
      )}
      {d.open && (
        <details className={styles.hidden} open={adding} onToggle={(e) => setAdding(e.currentTarget.open)}>
          <summary>Add an option of your own</summary>
          {adding && <OptionForm act={act} done={() => setAdding(false)} />}
        </details>
      )}
      {d.open && shown.length > 0 && <Agree d={d} shown={shown} typed={typed} act={act} money={money} />}
      <Agreements said={d.said} money={money} />
    </div>
  );
}
