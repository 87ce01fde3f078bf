import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { randomUUID } from 'node:crypto';
import { useState } from 'react';
import { Form, Link, redirect, useNavigation } from 'react-router';
import { here } from '../../server/requestContext';
import { heldTags } from '../../core/keys';
import { isVerified } from '../../server/cases';
import { closeCase, closeNotDone } from '../../server/closing';
import { parseClosing, parseNotDone } from '../../server/intake';
import { acting } from '../respond.server';
import { Choice } from '../ui/Choice';
import { errorsByPath, ProblemSummary } from '../ui/problems';
import { caseId, caseOf } from './caseId.server';
import type { Route } from './+types/handOver';
import styles from './verify.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Hand over · Bloodstone' }];
export const handle = {
  place: ({ vehicle, number }: Route.ComponentProps['loaderData']) => ({ title: `Case ${number}, hand over`, detail: vehicle }),
};

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const record = await caseOf(context, params.caseId);
  const family = await services.documents.family(record.family);
  return {
    commandId: randomUUID(),
    id: record.id,
    number: record.number,
    vehicle: record.vehicle,
    closed: record.state !== 'open',
    verified: record.kind === 'parts' || isVerified(record, family),
    parts: record.kind === 'parts',
    held: heldTags(record.custody),
    running: record.runs.find((r) => r.status === 'running')?.id ?? null,
    advice: family.text.advice,
  };
}

export async function action(args: Route.ActionArgs) {
  const id = caseId(args.params.caseId);
  const { services } = args.context.get(here);
  const { db } = services.database;
  const answer = await acting('/cases/:caseId/hand-over', args, {
    close: async ({ form, act }) => {
      await closeCase(db, services.documents, act(), id, parseClosing(form));
      return { done: true };
    },
    closeNotDone: async ({ form, act }) => {
      await closeNotDone(db, act(), id, parseNotDone(form));
      return { done: true };
    },
  });
  if ('done' in answer.data) throw redirect(`/cases/${id}/report`);
  return answer;
}

export default function HandOver({ loaderData: d, actionData }: Route.ComponentProps) {
  const errors = errorsByPath(actionData && 'problems' in actionData ? actionData.problems : []);
  const [notDone, setNotDone] = useState(false);
  const busy = useNavigation().state !== 'idle';
  if (d.closed || d.running !== null) {
    return (
      <div className={styles.page}>
        <h1>{d.closed ? 'This case is not in work.' : 'A run is still going on.'}</h1>
        <p>
          <Link to={d.closed ? `/cases/${d.id}/report` : `/cases/${d.id}/runs/${d.running}`}>{d.closed ? 'Open its report' : 'Go to the run'}</Link>
        </p>
      </div>
    );
  }
  return (
    <Form method="post" className={styles.page} noValidate>
      <input type="hidden" name="commandId" value={d.commandId} />
      <input type="hidden" name="intent" value={notDone ? 'closeNotDone' : 'close'} />
      <h1>Hand over and close.</h1>
      <ProblemSummary errors={errors} />
      <div role="radiogroup" aria-label="How it ends" className={styles.ends}>
        <Choice type="radio" checked={!notDone} onChange={() => setNotDone(false)}>
          The work is done
        </Choice>
        <Choice type="radio" checked={notDone} onChange={() => setNotDone(true)}>
          It was not done
        </Choice>
      </div>
      {!notDone && !d.verified && (
        <p className={styles.lead}>
          Not every key has been judged since the last run. <Link to={`/cases/${d.id}/verify`}>Verify the keys</Link>, or close without proof, with a
          lead’s reason.
        </p>
      )}
      {!notDone && d.verified && !d.parts && <p className={styles.lead}>Every key that is here has been judged.</p>}
      {d.held.length > 0 && (
        <fieldset className={styles.ends}>
          <legend>Given back now</legend>
          {d.held.map((tag) => (
            <Choice key={tag} type="checkbox" name="returned" value={tag} defaultChecked>
              tag {tag}
            </Choice>
          ))}
        </fieldset>
      )}
      {!notDone && (
        <ul>
          {d.advice.map((a) => (
            <li key={a}>Say to the customer: {a}</li>
          ))}
        </ul>
      )}
      {!notDone && (
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
      )}
      {(notDone || !d.verified) && (
        <TextField
          name="reason"
          label={notDone ? 'Not done, because' : 'Closed without proof, because'}
          required={notDone}
          error={'reason' in errors}
          helperText={errors.reason ?? (notDone ? 'It stands in the list and the report.' : 'Only a lead. It stands in the report.')}
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
