import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link, redirect } from 'react-router';
import { uncertainTypeOf, identifyAgain, seenOf, systemsOf } from '../../server/diagnosis/identification';
import { parseIdentification } from '../../server/cases/forms';
import { here } from '../../server/http/requestContext';
import { caseId, noCase } from '../cases/caseId.server';
import { acting } from '../respond.server';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import { unlessTimers } from '../ui/looks';
import type { Route } from './+types/again';
import { Identify } from './Identify';
import styles from './intake.module.css';
import { Field } from './parts';
import { systemOptions } from './systemOptions';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `Which system, case ${loaderData?.number ?? ''} · Bloodstone` }];
export const handle = {
  place: ({ number, vehicle }: Route.ComponentProps['loaderData']) => ({ title: `Case ${number}, which system`, detail: vehicle }),
};
export const shouldRevalidate = unlessTimers;

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const { library } = services;
  const record = (await services.cases.one(caseId(params.caseId))) ?? noCase(params.caseId);
  const { seen, kinds } = seenOf(record);
  const uncertain = uncertainTypeOf(library, record);
  // The key in the hand tells more than what was said of it at the counter.
  const held = uncertain?.key ? kinds.find((k) => k.tag === uncertain.key)?.kind : undefined;
  return {
    id: record.id,
    number: record.number,
    vehicle: record.vehicle,
    open: record.state === 'open',
    seen: held ? { ...seen, keyKind: held } : seen,
    system: record.profile ? `profile:${record.profile.id}` : `family:${record.family.id}`,
    worked: library.families.get(record.family.id)?.title ?? record.family.id,
    features: library.features,
    candidates: [...library.families.values()].map(({ id, title, features }) => ({ id, title, features })),
    systems: await systemsOf(services),
  };
}

export async function action(args: Route.ActionArgs) {
  const id = caseId(args.params.caseId);
  const answer = await acting('/cases/:caseId/identify', args, {
    identify: async ({ form, services, act }) => {
      await identifyAgain(services.database.db, services.library, services.documents, act(), id, parseIdentification(form));
      return { done: true };
    },
  });
  if ('done' in answer.data) throw redirect(`/cases/${id}`);
  return answer;
}

/** The identification once more, inside a case: what was seen stands, and can be answered otherwise. */
export default function IdentifyAgain({ loaderData: d }: Route.ComponentProps) {
  const [seen, setSeen] = useState(d.seen);
  const [system, setSystem] = useState(d.systems.some((s) => s.value === d.system) ? d.system : '');
  const act = useAct<typeof action>();
  if (!d.open)
    return (
      <div className={styles.form}>
        <h1>This case is not open.</h1>
        <p>
          Reopen it first. <Link to={`/cases/${d.id}`}>Back to the case</Link>
        </p>
      </div>
    );
  return (
    <form
      className={styles.form}
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        act.sendJson({ seen, system });
      }}
    >
      <h1>Which system is it?</h1>
      <p className="quiet">
        The vehicle is treated as “{d.worked}”. Answer the questions again by what you see; undo what was wrong. Everything recorded in the case
        stays. A light that was read still counts only where it means the same.
      </p>
      <ProblemSummary errors={act.errors} />
      <section className={styles.section} aria-label="What you see on the vehicle">
        <Identify features={d.features} families={d.candidates} seen={seen} put={setSeen} choose={(family) => setSystem(`family:${family}`)} open />
        <Field name="system" label="System type" value={system} put={setSystem} errors={act.errors} select>
          {systemOptions(d.systems)}
        </Field>
      </section>
      <div className={styles.act}>
        <Button type="submit" variant="contained" size="large" loading={act.busy}>
          Use this system type
        </Button>
        <Button component={Link} to={`/cases/${d.id}`} color="inherit">
          Cancel
        </Button>
      </div>
    </form>
  );
}
