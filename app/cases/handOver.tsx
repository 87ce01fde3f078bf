import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { randomUUID } from 'node:crypto';
import { useState } from 'react';
import { Form, Link, redirect, useNavigation } from 'react-router';
import { here } from '../../server/http/requestContext';
import { heldTags } from '../../core/keys';
import { formatChance } from '../../core/units';
import { isVerified } from '../../server/record/cases';
import { closeCase, closeNotDone, strangeKeys } from '../../server/cases/closing';
import { undecided } from '../../server/vault/items';
import type { Conclusion } from '../../server/db/schema';
import { causesOf } from '../../server/diagnosis/diagnosis';
import { parseClosing, parseNotDone } from '../../server/cases/forms';
import { acting } from '../respond.server';
import { Choice } from '../ui/Choice';
import { errorsByPath, ProblemSummary } from '../ui/problems';
import { unlessTimers } from '../ui/looks';
import { caseId, caseOf } from './caseId.server';
import type { Route } from './+types/handOver';
import styles from './verify.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Hand over · Bloodstone' }];
export const handle = {
  place: ({ vehicle, number }: Route.ComponentProps['loaderData']) => ({ title: `Case ${number}, hand over`, detail: vehicle }),
};
export const shouldRevalidate = unlessTimers;

export async function loader({ params, request, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const asUnknown = new URL(request.url).searchParams.get('as') === 'unknown';
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
    // Keys that are stored or said to exist, and were not here to be tried.
    away:
      record.kind === 'vehicle' ? record.keys.filter((k) => !k.present && k.toFit === null).map((k) => ({ tag: k.tag, note: k.note || k.role })) : [],
    // Counted in the immobilizer, and nobody told of them.
    strange: strangeKeys(record),
    /** Items in the vault of which nobody has said what becomes of them. */
    sealed: await undecided(services.database.db, record.id),
    running: record.runs.find((r) => r.status === 'running')?.id ?? null,
    advice: family.text.advice,
    cause: record.kind === 'vehicle' ? await causesOf(services, record) : null,
    asUnknown,
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

/** What the ledger would bear out, for whoever has to say it. */
const conclusionHint = (bears: Conclusion): string =>
  bears === 'proven'
    ? 'Choose one. The record proves it: repaired, tried with every key, and everything else this fix asks for.'
    : bears === 'likely'
      ? 'Choose one. The record supports a likely cause; it is not proven yet.'
      : 'Choose one. The record doesn’t point to one cause clearly enough.';
const conclusionSays: Record<Conclusion, string> = { proven: 'Proven', likely: 'Likely', unknown: 'Unknown' };

export default function HandOver({ loaderData: d, actionData }: Route.ComponentProps) {
  const errors = errorsByPath(actionData && 'problems' in actionData ? actionData.problems : []);
  const [notDone, setNotDone] = useState(false);
  const busy = useNavigation().state !== 'idle';
  if (d.closed || d.running !== null) {
    return (
      <div className={styles.page}>
        <h1>{d.closed ? 'This case is not open.' : 'A run is still in progress.'}</h1>
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
          Not every key has been tried since the work. <Link to={`/cases/${d.id}/verify`}>Verify the keys</Link>, or close without proof, with a
          lead’s reason.
        </p>
      )}
      {!notDone && d.verified && !d.parts && (
        <p className={styles.lead}>
          Every key that is here has been tried
          {d.away.length > 0
            ? `; ${d.away.length === 1 ? 'one key is' : `${d.away.length} keys are`} not here.`
            : d.strange > 0
              ? '; more keys are stored.'
              : '.'}
        </p>
      )}
      {!notDone && (d.away.length > 0 || d.strange > 0) && <AbsentKeys d={d} wrong={errors.absentTold} />}
      {!notDone && d.cause && <WhatItWas cause={d.cause} asUnknown={d.asUnknown} errors={errors} />}
      {d.sealed > 0 && (
        <p className={styles.lead}>
          {d.sealed === 1 ? 'One item is' : `${d.sealed} items are`} in the vault.{' '}
          <Link to={`/cases/${d.id}/vault`}>Keep, give or destroy {d.sealed === 1 ? 'it' : 'them'}</Link> before you close.
        </p>
      )}
      {d.held.length > 0 && (
        <fieldset className={styles.ends}>
          <legend>Returned now</legend>
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
            <li key={a}>Tell the customer: {a}</li>
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
          helperText={errors.reason ?? (notDone ? 'Shown in the list and in the report.' : 'Only a lead. It goes into the report.')}
          slotProps={{ htmlInput: { maxLength: 500 } }}
        />
      )}
      <p>
        <Link to={`/cases/${d.id}/papers`}>Papers for customer and file</Link> · <Link to={`/cases/${d.id}/report`}>Look at the report first</Link>
      </p>
      <Button type="submit" variant="contained" size="large" loading={busy} sx={{ justifySelf: 'start' }}>
        Close the case
      </Button>
    </Form>
  );
}

type Data = Route.ComponentProps['loaderData'];

/** Keys that may start the car and were not here to be tried: the customer is told. */
function AbsentKeys({ d, wrong }: { d: Data; wrong: string | undefined }) {
  const [told, setTold] = useState(false);
  return (
    <div className={styles.cause} role="group" aria-label="Keys that are not here">
      {d.away.length > 0 && (
        <p>
          <b>Not tried: {d.away.map((k) => `tag ${k.tag}${k.note ? ` (${k.note})` : ''}`).join(', ')}.</b> A key that was not here during the relearn
          may no longer start the car. Have it brought in before the car leaves, or tell the customer.
        </p>
      )}
      {d.strange > 0 && (
        <p>
          <b>{d.strange === 1 ? 'One more key is' : `${d.strange} more keys are`} stored than this case lists.</b> A lost key may still start the car.
          Ask who has {d.strange === 1 ? 'it' : 'them'}, and tell the customer.
        </p>
      )}
      <div className={styles.ends}>
        <Choice type="checkbox" name="absentTold" value="on" checked={told} onChange={() => setTold((t) => !t)}>
          The customer knows
        </Choice>
      </div>
      {wrong && <p className={styles.wrong}>{wrong}</p>}
    </div>
  );
}

/** How well the cause is known, and which it was. Nothing that counts in the shop's estimates is chosen for anybody. */
function WhatItWas({ cause, asUnknown, errors }: { cause: NonNullable<Data['cause']>; asUnknown: boolean; errors: Record<string, string> }) {
  const [conclusion, setConclusion] = useState<Conclusion | null>(asUnknown ? 'unknown' : null);
  return (
    <fieldset className={styles.cause}>
      <legend>What the cause was</legend>
      <div role="radiogroup" aria-label="How well the cause is known" className={styles.ends}>
        {(Object.entries(conclusionSays) as [Conclusion, string][]).map(([id, say]) => (
          <Choice key={id} type="radio" name="conclusion" value={id} checked={conclusion === id} onChange={() => setConclusion(id)}>
            {say}
          </Choice>
        ))}
      </div>
      {errors.conclusion && <p className={styles.wrong}>{errors.conclusion}</p>}
      {conclusion === null ? (
        <p className="quiet">{conclusionHint(cause.proposed.conclusion)}</p>
      ) : conclusion === 'unknown' ? (
        <p className="quiet">Unknown is a finding too. The report says what was seen and what was ruled out.</p>
      ) : (
        <Causes
          causes={cause.causes}
          proposed={cause.proposed.fault}
          wrong={errors.fault}
          help={conclusion === 'proven' ? 'A proven cause will improve this shop’s next estimates.' : 'A likely one is noted and does not count.'}
        />
      )}
      {cause.open.length > 0 && <p>Still needed to prove it: {cause.open.join(' ')}</p>}
      {cause.together && (
        <p className={styles.wrong}>
          Two changes were made with no try in between: {cause.together.join(' and ')}. Nobody can tell which one helped.
        </p>
      )}
    </fieldset>
  );
}

/** How many causes stand in sight; the rest is folded. */
const inSight = 3;

/** Which cause it was: the likeliest few with bars to compare, the rest behind a touch. */
function Causes({
  causes,
  proposed,
  wrong,
  help,
}: {
  causes: readonly { id: string; title: string; p: number }[];
  proposed: string;
  wrong: string | undefined;
  help: string;
}) {
  const [fault, setFault] = useState(proposed);
  const first = [...causes.filter((c) => c.id === proposed), ...causes.filter((c) => c.id !== proposed)].slice(0, inSight);
  const rest = causes.filter((c) => !first.includes(c));
  const line = (c: (typeof causes)[number]) => (
    <Choice key={c.id} type="radio" name="fault" value={c.id} checked={fault === c.id} onChange={() => setFault(c.id)}>
      {c.title} <span className="quiet">{formatChance(c.p)}</span>
    </Choice>
  );
  return (
    <div role="radiogroup" aria-label="Cause" className={styles.causes}>
      {first.map(line)}
      {rest.length > 0 && (
        <details open={rest.some((c) => c.id === fault) || undefined}>
          <summary>{rest.length === 1 ? 'One more cause' : `${rest.length} more causes`}</summary>
          <div className={styles.causes}>{rest.map(line)}</div>
        </details>
      )}
      <p className={wrong ? styles.wrong : 'quiet'}>{wrong ?? help}</p>
    </div>
  );
}
