import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { randomUUID } from 'node:crypto';
import { Form, Link, redirect, useNavigation } from 'react-router';
import { closeCase, isVerified } from '../../server/cases';
import { fieldsOf, parseClosing } from '../../server/forms';
import { actOf, answering } from '../respond.server';
import { errorsByPath, ProblemSummary } from '../ui/problems';
import { caseId, caseOf } from './caseId.server';
import type { Route } from './+types/handOver';
import styles from './verify.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Hand over · Bloodstone' }];
export const handle = {
  place: ({ vehicle, number }: Route.ComponentProps['loaderData']) => ({ title: `Case ${number}, hand over`, detail: vehicle }),
};

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services } = context;
  const record = await caseOf(context, params.caseId);
  const family = await services.documents.family(record.family);
  return {
    commandId: randomUUID(),
    id: record.id,
    number: record.number,
    vehicle: record.vehicle,
    closed: record.state === 'closed',
    verified: isVerified(record),
    running: record.runs.find((r) => r.status === 'running')?.id ?? null,
    keys: record.keys.filter((k) => k.present).map((k) => k.tag),
    advice: family.text.advice,
  };
}

export async function action({ request, params, context }: Route.ActionArgs) {
  const id = caseId(params.caseId);
  const { commandId, ...form } = fieldsOf(await request.formData());
  const answer = await answering(async () => {
    await closeCase(context.services.database.db, await actOf(context, commandId), id, parseClosing(form));
    return { done: true };
  });
  if ('done' in answer.data) throw redirect(`/cases/${id}/report`);
  return answer;
}

export default function HandOver({ loaderData: d, actionData }: Route.ComponentProps) {
  const errors = errorsByPath(actionData && 'problems' in actionData ? actionData.problems : []);
  const busy = useNavigation().state !== 'idle';
  if (d.closed || d.running !== null) {
    return (
      <div className={styles.page}>
        <h1>{d.closed ? 'This case is closed.' : 'A run is still going on.'}</h1>
        <p>
          <Link to={d.closed ? `/cases/${d.id}/report` : `/cases/${d.id}/runs/${d.running}`}>{d.closed ? 'Open its report' : 'Go to the run'}</Link>
        </p>
      </div>
    );
  }
  return (
    <Form method="post" className={styles.page} noValidate>
      <input type="hidden" name="commandId" value={d.commandId} />
      <h1>Hand over and close.</h1>
      <ProblemSummary errors={errors} />
      {d.verified ? (
        <p className={styles.lead}>Every key that is here has been judged. Give back {d.keys.map((k) => `tag ${k}`).join(', ')}.</p>
      ) : (
        <p className={styles.lead}>
          Not every key has been judged since the last run. <Link to={`/cases/${d.id}/verify`}>Verify the keys</Link>, or close without proof, with a
          lead’s reason.
        </p>
      )}
      <ul>
        {d.advice.map((a) => (
          <li key={a}>Say to the customer: {a}</li>
        ))}
      </ul>
      <TextField
        name="outcome"
        label="What was found and done"
        required
        multiline
        minRows={2}
        error={'outcome' in errors}
        helperText={errors.outcome ?? 'One or two sentences for the report and the list.'}
        slotProps={{ htmlInput: { maxLength: 500 } }}
      />
      {!d.verified && (
        <TextField
          name="reason"
          label="Closed without proof, because"
          error={'reason' in errors}
          helperText={errors.reason ?? 'Only a lead. It stands in the report.'}
          slotProps={{ htmlInput: { maxLength: 500 } }}
        />
      )}
      <p>
        <Link to={`/cases/${d.id}/report`}>Look at the report first</Link>
      </p>
      <Button type="submit" variant="contained" size="large" loading={busy} sx={{ justifySelf: 'start' }}>
        Close the case
      </Button>
    </Form>
  );
}
