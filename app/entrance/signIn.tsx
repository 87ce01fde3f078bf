import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useEffect } from 'react';
import { Form, redirect, useNavigation } from 'react-router';
import { parseSignIn } from '../../server/accounts/forms';
import { needsSetUp } from '../../server/accounts/people';
import { signIn } from '../../server/accounts/signIn';
import { sessionCookie } from '../../server/http/cookie';
import { demoPeople, isDemoData } from '../../server/demo/demoPeople';
import { here } from '../../server/http/requestContext';
import { safeTarget } from '../guard.server';
import { acting } from '../respond.server';
import { errorsByPath, ProblemSummary } from '../ui/problems';
import type { Route } from './+types/signIn';
import styles from './entrance.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Sign in · Bloodstone' }];

export async function loader({ request, context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const { db } = services.database;
  const to = safeTarget(new URL(request.url).searchParams.get('to'));
  if (await needsSetUp(db)) throw redirect('/set-up');
  if (session) throw redirect(session.locked ? `/unlock?to=${encodeURIComponent(to)}` : to);
  const demo = services.demo && (await isDemoData(db));
  return { to, demo: demo ? demoPeople.map(({ name, role, password, pin }) => ({ name, role, password, pin })) : [] };
}

export async function action(args: Route.ActionArgs) {
  const answer = await acting('/sign-in', args, {
    signIn: async ({ form, services, browser, token, secure }) => {
      const { to, ...given } = parseSignIn(form);
      const done = await signIn(services.database.db, given, browser, services.clock.now(), token, services.secretCost);
      return { cookie: await sessionCookie(done.token, given.atBay, secure), to: given.atBay && !done.hasPin ? '/shop/me' : safeTarget(to) };
    },
  });
  if ('cookie' in answer.data) throw redirect(answer.data.to, { headers: { 'Set-Cookie': answer.data.cookie } });
  return answer;
}

export default function SignIn({ loaderData: { to, demo }, actionData }: Route.ComponentProps) {
  const errors = errorsByPath(actionData && 'problems' in actionData ? actionData.problems : []);
  const busy = useNavigation().state !== 'idle';
  // Whoever signed out leaves nothing to see in this browser.
  useEffect(() => void import('../offline/kept').then(({ forgetPages }) => forgetPages()).catch(() => {}), []);
  return (
    <>
      <Form method="post" className={styles.form} noValidate>
        <h1>Sign in</h1>
        <ProblemSummary errors={errors} />
        <input type="hidden" name="to" value={to} />
        <TextField
          name="name"
          label="Name"
          autoComplete="username"
          required
          autoFocus
          error={'name' in errors}
          helperText={errors.name}
          slotProps={{ htmlInput: { maxLength: 80 } }}
        />
        <TextField
          name="password"
          label="Password"
          type="password"
          autoComplete="current-password"
          required
          slotProps={{ htmlInput: { maxLength: 200 } }}
        />
        <label className={styles.check}>
          <input type="checkbox" name="atBay" /> This device stays at a bay: lock it with my PIN instead of signing out
        </label>
        <Button type="submit" variant="contained" size="large" loading={busy}>
          Sign in
        </Button>
      </Form>
      {demo.length > 0 && (
        <section className={styles.demo} aria-labelledby="demo-people">
          <h2 id="demo-people">Demo users</h2>
          <p className="quiet">Everything here is made up. Sign in as one of them:</p>
          <ul>
            {demo.map((p) => (
              <li key={p.name}>
                <span>
                  {p.name}, {p.role}
                  <br />
                  <span className="quiet">
                    {p.password} · PIN <span className="mono">{p.pin}</span>
                  </span>
                </span>
                <Form method="post">
                  <input type="hidden" name="to" value={to} />
                  <input type="hidden" name="name" value={p.name} />
                  <input type="hidden" name="password" value={p.password} />
                  <Button type="submit" variant="outlined" disabled={busy} aria-label={`Sign in as ${p.name}`}>
                    Sign in
                  </Button>
                </Form>
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
}
