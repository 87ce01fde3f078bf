import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { Form, redirect } from 'react-router';
import { parsePassword, parsePin, parseSessionId } from '../../server/accounts/forms';
import { changePassword, listPeople, setPin } from '../../server/accounts/people';
import { beginSession, endSession, listDevices } from '../../server/accounts/sessions';
import { sessionCookie } from '../../server/http/cookie';
import { refused } from '../../server/base/expected';
import { here } from '../../server/http/requestContext';
import { NewPassword } from '../entrance/NewPassword';
import { acting } from '../respond.server';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import type { Route } from './+types/me';
import { DeviceList } from './DeviceList';
import { ShopNav } from './ShopNav';
import styles from './shop.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'My account · Bloodstone' }];
export const handle = { place: ({ name }: Route.ComponentProps['loaderData']) => ({ title: 'My account', detail: name }) };

export async function loader({ context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const { db } = services.database;
  const { id, name, role } = session!.person;
  const own = (await listPeople(db)).find((p) => p.id === id)!;
  return { name, role, hasPin: own.hasPin, atBay: session!.atBay, here: session!.id, devices: await listDevices(db, services.clock.now(), id) };
}

export async function action(args: Route.ActionArgs) {
  const { services, session, browser, secure } = args.context.get(here);
  const { db } = services.database;
  const answer = await acting('/shop/me', args, {
    password: async ({ form, act }): Promise<{ said: string; cookie?: string }> => {
      const by = act();
      await changePassword(db, by, parsePassword(form), services.secretCost);
      // All browsers ended with the old password; this one begins anew.
      const token = await db.transaction((tx) => beginSession(tx, by.actor.id, browser, session!.atBay, by.now));
      return { said: 'The password is changed. Every other device was signed out.', cookie: await sessionCookie(token, session!.atBay, secure) };
    },
    pin: async ({ form, act }) => {
      await setPin(db, act(), parsePin(form), services.secretCost);
      return { said: 'The PIN is set. It unlocks devices at which you stay signed in.' };
    },
    endSession: async ({ form, act }) => {
      const by = act();
      const id = parseSessionId(form);
      if (!(await listDevices(db, by.now, by.actor.id)).some((d) => d.id === id))
        throw refused(404, 'noDevice', 'This device is signed out already. Check the list again.');
      await endSession(db, id, by.now);
      return { said: 'The device is signed out.' };
    },
  });
  if ('cookie' in answer.data && answer.data.cookie) {
    const { cookie } = answer.data;
    throw redirect('/shop/me', { headers: { 'Set-Cookie': cookie } });
  }
  return answer;
}

export default function Me({ loaderData: d }: Route.ComponentProps) {
  const act = useAct<typeof action>();
  return (
    <div className={styles.page}>
      <h1 className="hidden">My account</h1>
      <ShopNav />
      <ProblemSummary errors={act.errors} />
      <p role="status" className="quiet">
        {act.said}
      </p>
      <section className={styles.section} aria-labelledby="pin">
        <h2 id="pin">{d.hasPin ? 'PIN for devices at a bay' : 'Set a PIN for devices at a bay'}</h2>
        {d.atBay && !d.hasPin && <p>This device stays signed in. Set a PIN now: without one it signs out when it would lock.</p>}
        <Form method="post" className={styles.section} onSubmit={act.send('pin')} noValidate>
          <TextField
            name="present"
            label="Current password"
            type="password"
            autoComplete="current-password"
            error={'present' in act.errors}
            helperText={act.errors.present}
          />
          <TextField
            name="pin"
            label="New PIN, six digits"
            type="password"
            autoComplete="off"
            error={'pin' in act.errors}
            helperText={act.errors.pin}
            slotProps={{ htmlInput: { inputMode: 'numeric', maxLength: 6, className: 'mono' } }}
          />
          <Button type="submit" variant="outlined" loading={act.busy} sx={{ justifySelf: 'start' }}>
            Set the PIN
          </Button>
        </Form>
      </section>
      <section className={styles.section} aria-labelledby="password">
        <h2 id="password">Change the password</h2>
        <Form method="post" className={styles.section} onSubmit={act.send('password')} noValidate>
          <TextField
            name="present"
            label="Current password"
            type="password"
            autoComplete="current-password"
            error={'present' in act.errors}
            helperText={act.errors.present}
          />
          <NewPassword errors={act.errors} />
          <Button type="submit" variant="outlined" loading={act.busy} sx={{ justifySelf: 'start' }}>
            Change it
          </Button>
        </Form>
      </section>
      <section className={styles.section} aria-labelledby="devices">
        <h2 id="devices">Where I am signed in</h2>
        <DeviceList devices={d.devices} here={d.here} send={act.send('endSession')} />
      </section>
    </div>
  );
}
