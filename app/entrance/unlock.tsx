import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { Form, redirect, useNavigation } from 'react-router';
import { parseUnlock } from '../../server/accounts/forms';
import { unlockSession } from '../../server/accounts/sessions';
import { refused } from '../../server/base/expected';
import { stripClocks } from '../../server/runs/strip';
import { here } from '../../server/http/requestContext';
import { keptShop } from '../../server/shop/shop';
import { safeTarget } from '../guard.server';
import { acting } from '../respond.server';
import { ClockProvider } from '../ui/clock';
import { errorsByPath, ProblemSummary } from '../ui/problems';
import type { Route } from './+types/unlock';
import { LockedWaits } from './LockedWaits';
import styles from './entrance.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Locked · Bloodstone' }];

export async function loader({ request, context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const to = safeTarget(new URL(request.url).searchParams.get('to'));
  if (!session) throw redirect(`/sign-in?to=${encodeURIComponent(to)}`);
  if (!session.locked) throw redirect(to);
  return {
    to,
    name: session.person.name,
    clock: services.clock.read(),
    units: (await keptShop(services)).units,
    timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone,
    // A wait must not be missed because the device is locked; whose vehicle it is stays hidden.
    waits: (await stripClocks(services)).flatMap((c) => (c.wait ? [{ id: c.id, bay: c.bay, until: c.wait.until }] : [])),
  };
}

export async function action(args: Route.ActionArgs) {
  const answer = await acting('/unlock', args, {
    unlock: async ({ form, services, session }) => {
      const { pin, to } = parseUnlock(form);
      if (!session) throw refused(401, 'signedOut', 'This device was signed out. Sign in with the password.');
      await unlockSession(services.database.db, session, pin, services.clock.now());
      return { to: safeTarget(to) };
    },
  });
  if ('to' in answer.data) throw redirect(answer.data.to);
  if (answer.data.problems.some((p) => p.code === 'pinUsedUp' || p.code === 'signedOut')) throw redirect('/sign-in');
  return answer;
}

export default function Unlock({ loaderData: { to, name, waits, clock, timeZone, units }, actionData }: Route.ComponentProps) {
  const errors = errorsByPath(actionData && 'problems' in actionData ? actionData.problems : []);
  const busy = useNavigation().state !== 'idle';
  return (
    <ClockProvider reading={clock} timeZone={timeZone} units={units}>
      <Form method="post" className={styles.form} noValidate>
        <h1>Locked</h1>
        <p>{name} is signed in on this device.</p>
        <ProblemSummary errors={errors} />
        <input type="hidden" name="to" value={to} />
        <TextField
          name="pin"
          label="PIN, six digits"
          type="password"
          autoComplete="off"
          autoFocus
          required
          error={'pin' in errors}
          slotProps={{ htmlInput: { inputMode: 'numeric', maxLength: 6, className: 'mono' } }}
        />
        <Button type="submit" variant="contained" size="large" loading={busy}>
          Unlock
        </Button>
      </Form>
      <LockedWaits waits={waits} />
      <Form method="post" action="/session">
        <input type="hidden" name="intent" value="signOut" />
        <Button type="submit" variant="outlined">
          Sign in as somebody else
        </Button>
      </Form>
    </ClockProvider>
  );
}
