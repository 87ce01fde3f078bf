import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link, redirect } from 'react-router';
import { changeIntake, readIntake } from '../../server/cases/changeIntake';
import { parseIntake } from '../../server/cases/forms';
import { here } from '../../server/http/requestContext';
import { baysInUse } from '../../server/shop/shop';
import { caseId, noCase } from '../cases/caseId.server';
import { acting } from '../respond.server';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import { useUnits } from '../ui/clock';
import { unlessTimers } from '../ui/looks';
import type { Route } from './+types/change';
import { ComplaintPart } from './ComplaintPart';
import { type Intake, intakeForm, restoreIntake } from './fields';
import styles from './intake.module.css';
import { Field } from './parts';
import { ConditionPart, VehiclePart } from './VehiclePart';

export const meta: Route.MetaFunction = ({ loaderData }) => [{ title: `Intake ${loaderData?.number ?? ''} · Bloodstone` }];
export const handle = {
  place: ({ number, fields }: Route.ComponentProps['loaderData']) => ({ title: `Case ${number}, intake`, detail: fields.vehicle }),
};
export const shouldRevalidate = unlessTimers;

export async function loader({ params, context }: Route.LoaderArgs) {
  const { db } = context.get(here).services.database;
  const found = (await readIntake(db, caseId(params.caseId))) ?? noCase(params.caseId);
  return { ...found, bays: await baysInUse(db) };
}

export async function action(args: Route.ActionArgs) {
  const id = caseId(args.params.caseId);
  const answer = await acting('/cases/:caseId/intake', args, {
    change: async ({ form, services, act }) => {
      await changeIntake(services.database.db, act(), id, parseIntake(form));
      return { done: true };
    },
  });
  if ('done' in answer.data) throw redirect(`/cases/${id}`);
  return answer;
}

export default function ChangeIntake({ loaderData: d }: Route.ComponentProps) {
  const { distance } = useUnits();
  const [f, setF] = useState<Intake>(() => ({ ...restoreIntake(asText(d.fields), distance), kind: d.kind }));
  const act = useAct<typeof action>();
  const put = <K extends keyof Intake>(name: K, value: Intake[K]) => setF((before) => ({ ...before, [name]: value }));
  const section = { value: f, put, errors: act.errors };
  if (!d.open)
    return (
      <div className={styles.form}>
        <h1>This case is not open.</h1>
        <p>
          Reopen it to change its intake. <Link to={`/cases/${d.id}`}>Back to the case</Link>
        </p>
      </div>
    );
  return (
    <form
      className={styles.form}
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        const {
          kind: _kind,
          system: _system,
          keys: _keys,
          parts: _parts,
          counters: _counters,
          authority: _authority,
          seen: _seen,
          call: _call,
          ...fields
        } = intakeForm(f);
        act.sendJson({ intent: 'change', ...fields });
      }}
    >
      <h1 className="hidden">Intake of case {d.number}</h1>
      <ProblemSummary errors={act.errors} />
      <section className={styles.section} aria-labelledby="complaint">
        <h2 id="complaint">What the customer says</h2>
        <Field
          name="words"
          label="Customer concern"
          value={f.words}
          put={(v) => put('words', v)}
          errors={act.errors}
          multiline
          minRows={2}
          required
          max={2000}
        />
        {d.kind === 'vehicle' && <ComplaintPart {...section} />}
      </section>
      <section className={styles.section} aria-labelledby="vehicle">
        <h2 id="vehicle">Vehicle</h2>
        <VehiclePart {...section} bays={d.bays} systems={null} but={d.id} />
      </section>
      {d.kind === 'vehicle' && (
        <section className={styles.section} aria-labelledby="condition">
          <h2 id="condition">Condition on arrival</h2>
          <ConditionPart {...section} />
        </section>
      )}
      <div className={styles.act}>
        <Button type="submit" variant="contained" size="large" loading={act.busy}>
          Save the intake
        </Button>
        <Button component={Link} to={`/cases/${d.id}`} variant="outlined">
          Back without saving
        </Button>
      </div>
    </form>
  );
}

/** Numbers as they are typed. */
function asText(fields: Route.ComponentProps['loaderData']['fields']): unknown {
  const text = (value: unknown): unknown =>
    typeof value === 'number'
      ? String(value)
      : Array.isArray(value)
        ? value.map(text)
        : typeof value === 'object' && value !== null
          ? Object.fromEntries(Object.entries(value).map(([k, v]) => [k, text(v)]))
          : value;
  return text(fields);
}
