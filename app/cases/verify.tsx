import Button from '@mui/material/Button';
import { randomUUID } from 'node:crypto';
import { type CSSProperties, useState } from 'react';
import { Form, Link, redirect, useNavigation } from 'react-router';
import { here } from '../../server/http/requestContext';
import { abilities, type Ability, abilityResults, type Family, keyRoles } from '../../core/library';
import { latestSeen } from '../../core/keys';
import { useTimes } from '../ui/clock';
import { type CaseRecord, entriesOf, isVerified, provenSince } from '../../server/record/cases';
import { parseVerification } from '../../server/cases/forms';
import { recordVerification } from '../../server/cases/verification';
import { acting } from '../respond.server';
import { Cautions, useCautions } from '../ui/Cautions';
import { Choice } from '../ui/Choice';
import { errorsByPath, ProblemSummary } from '../ui/problems';
import { unlessTimers } from '../ui/looks';
import { caseId, caseOf } from './caseId.server';
import type { Route } from './+types/verify';
import styles from './verify.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Verify the keys · Bloodstone' }];
export const handle = { place: ({ vehicle, number }: Route.ComponentProps['loaderData']) => ({ title: `Case ${number}, verify`, detail: vehicle }) };
export const shouldRevalidate = unlessTimers;

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const record = await caseOf(context, params.caseId);
  const family = await services.documents.family(record.family);
  const entries = entriesOf(record, family);
  const since = provenSince(record);
  return {
    commandId: randomUUID(),
    id: record.id,
    number: record.number,
    vehicle: record.vehicle,
    closed: record.state !== 'open',
    verified: isVerified(record, family),
    asked: family.verify,
    keys: record.keys
      .filter((k) => k.present)
      .map((k) => ({
        ...k,
        /** What was seen before, and when; since the last run it is the answer, before that only a reminder. */
        before: Object.fromEntries(
          (Object.keys(abilities) as Ability[]).flatMap((a) => {
            const seen = latestSeen(entries, k.tag, a);
            return seen ? [[a, { result: seen.result, at: seen.at, counts: seen.at >= since }]] : [];
          }),
        ),
      })),
    absent: record.keys.filter((k) => !k.present).map((k) => k.tag),
    cautions: Object.fromEntries(services.library.cautions),
  };
}

export async function action(args: Route.ActionArgs) {
  const id = caseId(args.params.caseId);
  const answer = await acting('/cases/:caseId/verify', args, {
    verify: async ({ form, services, act }) => {
      await recordVerification(services.database.db, act(), id, parseVerification(form).results);
      const record = await caseOf(args.context, args.params.caseId);
      return { said: leftWords(record, await services.documents.family(record.family)), recorded: act().id };
    },
  });
  if ('said' in answer.data && answer.data.said === null) throw redirect(`/cases/${id}`);
  return answer;
}

/** What is still open after a verification, in a sentence: what was not tried since the work, and what a key can't do. Null: nothing. */
function leftWords(record: CaseRecord, family: Family): string | null {
  const since = provenSince(record);
  const entries = entriesOf(record, family);
  const present = record.keys.filter((k) => k.present).map((k) => k.tag);
  const of = (tag: string, which: (seen: ReturnType<typeof latestSeen>) => boolean) =>
    family.verify.filter((a) => which(latestSeen(entries, tag, a))).map((a) => abilities[a]);
  const list = (which: (seen: ReturnType<typeof latestSeen>) => boolean) =>
    present.flatMap((tag) => (of(tag, which).length > 0 ? [`tag ${tag}: ${of(tag, which).join(', ')}`] : [])).join('; ');
  const open = list((seen) => seen === null || seen === undefined || seen.at < since);
  const fails = list((seen) => seen?.result === 'no' && seen.at >= since);
  if (open === '' && fails === '') return null;
  return ['Recorded.', open && `Not tried since the work: ${open}.`, fails && `It does not work: ${fails}. This key is not ready to be handed over.`]
    .filter(Boolean)
    .join(' ');
}

export default function Verify({ loaderData: d, actionData }: Route.ComponentProps) {
  const cautions = useCautions(['park', 'people', 'exhaust'], d.cautions);
  const busy = useNavigation().state !== 'idle';
  const times = useTimes();
  const problems = actionData && 'problems' in actionData ? actionData.problems : [];
  const said = actionData && 'said' in actionData ? actionData.said : null;
  // What was recorded is what stands there then, once it has been read again; what is only ticked stays whatever else changes.
  const recorded = actionData && 'recorded' in actionData ? actionData.recorded : null;
  const [filled, fill] = useState(recorded);
  if (!busy && filled !== recorded) fill(recorded);
  if (d.closed || d.keys.length === 0) {
    return (
      <div className={styles.page}>
        <h1>{d.closed ? 'This case is not open.' : 'No key is here.'}</h1>
        <p>
          {d.closed
            ? 'Its keys have been tried; the report shows the results.'
            : 'A key can only be tried when it is here. Ask for it, or let a lead close the case without proof.'}
        </p>
        <Link to={`/cases/${d.id}`}>Back to the case</Link>
      </div>
    );
  }
  return (
    <Form key={filled} method="post" className={styles.page}>
      <input type="hidden" name="commandId" value={d.commandId} />
      <h1>Try every key, one by one.</h1>
      <p className={styles.lead}>
        Each result proves just that one thing. Tap “not tested” where the vehicle doesn’t allow it, for example with the engine partly apart.
      </p>
      <ProblemSummary errors={errorsByPath(problems)} />
      {said && (
        <p className={styles.lead} role="status">
          <b>{said}</b> <Link to={`/cases/${d.id}`}>Back to the case</Link>
        </p>
      )}
      <Cautions state={cautions} />
      <div className={styles.keys} style={{ '--rows': d.asked.length + 1 } as CSSProperties}>
        {d.keys.map((key) => (
          <section key={key.tag} className={styles.key} aria-labelledby={`key-${key.tag}`}>
            <h2 id={`key-${key.tag}`}>
              <span className="mono">{key.tag}</span> <span className="quiet">{key.note || keyRoles[key.role as keyof typeof keyRoles]}</span>
            </h2>
            {(Object.keys(abilities) as Ability[])
              .filter((a) => d.asked.includes(a))
              .map((a) => (
                <fieldset key={a} className={styles.row} disabled={(a === 'cranks' || a === 'runs') && !cautions.clear}>
                  <legend>
                    {abilities[a]}
                    {key.before[a] && (
                      <span className="quiet">
                        {' '}
                        {key.before[a].counts ? 'seen' : 'before the work'}: {abilityResults[key.before[a].result]}, {times.hm(key.before[a].at)}
                      </span>
                    )}
                  </legend>
                  {Object.entries(abilityResults).map(([result, say]) => (
                    <Choice
                      key={result}
                      type="radio"
                      name={`results.${key.tag}.${a}`}
                      value={result}
                      defaultChecked={key.before[a]?.counts === true && key.before[a].result !== 'no' && key.before[a].result === result}
                    >
                      {say}
                    </Choice>
                  ))}
                </fieldset>
              ))}
          </section>
        ))}
      </div>
      {d.absent.length > 0 && <p className="quiet">Not here: {d.absent.map((t) => `tag ${t}`).join(', ')}. What was not tried is not known.</p>}
      <Button type="submit" variant="contained" size="large" loading={busy} sx={{ justifySelf: 'start' }}>
        Record what you saw
      </Button>
    </Form>
  );
}
