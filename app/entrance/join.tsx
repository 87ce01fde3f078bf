import Button from '@mui/material/Button';
import { Form, redirect, useNavigation } from 'react-router';
import { parseJoin } from '../../server/accounts/forms';
import { findInvitation, join } from '../../server/accounts/people';
import { beginSession } from '../../server/accounts/sessions';
import { sessionCookie } from '../../server/http/cookie';
import { here } from '../../server/http/requestContext';
import { acting, notThere } from '../respond.server';
import { errorsByPath, ProblemSummary } from '../ui/problems';
import type { Route } from './+types/join';
import styles from './entrance.module.css';
import { NewPassword } from './NewPassword';

export const meta: Route.MetaFunction = () => [{ title: 'Welcome · Bloodstone' }];

export async function loader({ params, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const found = await findInvitation(services.database.db, params.token, services.clock.now());
  if (!found)
    notThere('This link no longer works', 'It was used before, is older than three days, or was not copied whole. Ask the owner for a new one.');
  return { name: found.name };
}

export async function action(args: Route.ActionArgs) {
  const answer = await acting('/join/:token', args, {
    join: async ({ form, services, browser, token, secure }) => {
      const { db } = services.database;
      const now = services.clock.now();
      const personId = await join(db, args.params.token, parseJoin(form).password, now, services.secretCost);
      const session = await db.transaction((tx) => beginSession(tx, personId, browser, false, now, token));
      return { cookie: await sessionCookie(session, false, secure) };
    },
  });
  if ('cookie' in answer.data) throw redirect('/', { headers: { 'Set-Cookie': answer.data.cookie } });
  return answer;
}

export default function Join({ loaderData: { name }, actionData }: Route.ComponentProps) {
  const errors = errorsByPath(actionData && 'problems' in actionData ? actionData.problems : []);
  const busy = useNavigation().state !== 'idle';
  return (
    <Form method="post" className={styles.form} noValidate>
      <h1>Welcome, {name}</h1>
      <p>Choose your password. This link works only once.</p>
      <ProblemSummary errors={errors} />
      <NewPassword errors={errors} />
      <Button type="submit" variant="contained" size="large" loading={busy}>
        Set the password and sign in
      </Button>
    </Form>
  );
}
