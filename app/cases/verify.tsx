import Button from '@mui/material/Button';
import { randomUUID } from 'node:crypto';
import { Form, Link, redirect, useNavigation } from 'react-router';
import { here } from '../../server/requestContext';
import { abilities, type Ability, abilityResults } from '../../core/library';
import { latestSeen } from '../../core/keys';
import { entriesOf, isVerified } from '../../server/cases';
import { parseVerification } from '../../server/forms';
import { recordVerification } from '../../server/verification';
import { acting } from '../respond.server';
import { Cautions, useCautions } from '../ui/Cautions';
import { Choice } from '../ui/Choice';
import { errorsByPath, ProblemSummary } from '../ui/problems';
import { caseId, caseOf } from './caseId.server';
import type { Route } from './+types/verify';
import styles from './verify.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Verify the keys · Bloodstone' }];
export const handle = { place: ({ vehicle, number }: Route.ComponentProps['loaderData']) => ({ title: `Case ${number}, verify`, detail: vehicle }) };

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const record = await caseOf(context, params.caseId);
  const family = await services.documents.family(record.family);
  const entries = entriesOf(record, family);
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
        results: Object.fromEntries((Object.keys(abilities) as Ability[]).map((a) => [a, latestSeen(entries, k.tag, a)?.result ?? ''])),
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
      return { done: true };
    },
  });
  if ('done' in answer.data) throw redirect(`/cases/${id}`);
  return answer;
}

export default function Verify({ loaderData: d, actionData }: Route.ComponentProps) {
  const cautions = useCautions(['park', 'people', 'exhaust'], d.cautions);
  const busy = useNavigation().state !== 'idle';
  const problems = actionData && 'problems' in actionData ? actionData.problems : [];
  if (d.closed || d.keys.length === 0) {
    return (
      <div className={styles.page}>
        <h1>{d.closed ? 'This case is not in work.' : 'No key is here.'}</h1>
        <p>
          {d.closed
            ? 'Its keys were judged before; the report shows how.'
            : 'Each key is judged with the key in hand. Ask for it, or close the case without proof, with a lead’s reason.'}
        </p>
        <Link to={`/cases/${d.id}`}>Back to the case</Link>
      </div>
    );
  }
  return (
    <Form method="post" className={styles.page}>
      <input type="hidden" name="commandId" value={d.commandId} />
      <h1>Try every key, one by one.</h1>
      <p className={styles.lead}>
        Each ability proves only itself. Say “cannot be judged” where the vehicle does not allow it, for example with the engine partly apart.
      </p>
      <ProblemSummary errors={errorsByPath(problems)} />
      <Cautions state={cautions} />
      {d.keys.map((key) => (
        <section key={key.tag} className={styles.key} aria-labelledby={`key-${key.tag}`}>
          <h2 id={`key-${key.tag}`}>
            <span className="mono">{key.tag}</span> <span className="quiet">{key.note || key.role}</span>
          </h2>
          {(Object.keys(abilities) as Ability[])
            .filter((a) => d.asked.includes(a))
            .map((a) => (
              <fieldset key={a} className={styles.row} disabled={(a === 'cranks' || a === 'runs') && !cautions.clear}>
                <legend>{abilities[a]}</legend>
                {Object.entries(abilityResults).map(([result, say]) => (
                  <Choice key={result} type="radio" name={`results.${key.tag}.${a}`} value={result} defaultChecked={key.results[a] === result}>
                    {say}
                  </Choice>
                ))}
              </fieldset>
            ))}
        </section>
      ))}
      {d.absent.length > 0 && <p className="quiet">Not here: {d.absent.map((t) => `tag ${t}`).join(', ')}. What was not tried is not known.</p>}
      <Button type="submit" variant="contained" size="large" loading={busy} sx={{ justifySelf: 'start' }}>
        Record what you saw
      </Button>
    </Form>
  );
}
