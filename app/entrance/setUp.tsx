import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { Form, redirect, useNavigation } from 'react-router';
import { parseSetUp } from '../../server/accounts/forms';
import { needsSetUp } from '../../server/accounts/people';
import { setUpShop } from '../../server/accounts/setUp';
import { sessionCookie } from '../../server/http/cookie';
import { here } from '../../server/http/requestContext';
import { acting } from '../respond.server';
import { usUnits } from '../../core/units';
import { UnitFields } from '../shop/UnitFields';
import { errorsByPath, ProblemSummary } from '../ui/problems';
import type { Route } from './+types/setUp';
import styles from './entrance.module.css';
import { NewPassword } from './NewPassword';

export const meta: Route.MetaFunction = () => [{ title: 'Set up · Bloodstone' }];

export async function loader({ context }: Route.LoaderArgs) {
  if (!(await needsSetUp(context.get(here).services.database.db))) throw redirect('/sign-in');
  return null;
}

export async function action(args: Route.ActionArgs) {
  const answer = await acting('/set-up', args, {
    setUp: async ({ form, services, browser, secure }) => {
      const token = await setUpShop(services.database.db, parseSetUp(form), browser, services.clock.now(), services.secretCost);
      return { cookie: await sessionCookie(token, false, secure) };
    },
  });
  if ('cookie' in answer.data) throw redirect('/shop', { headers: { 'Set-Cookie': answer.data.cookie } });
  return answer;
}

export default function SetUp({ actionData }: Route.ComponentProps) {
  const errors = errorsByPath(actionData && 'problems' in actionData ? actionData.problems : []);
  const busy = useNavigation().state !== 'idle';
  const field = (name: string, help?: string) => ({ name, required: true, error: name in errors, helperText: errors[name] ?? help });
  return (
    <Form method="post" className={styles.form} noValidate>
      <h1>Set up this shop</h1>
      <p>This page is shown once. Whoever fills it in becomes the owner and invites the others.</p>
      <ProblemSummary errors={errors} />
      <TextField {...field('shop')} label="Name of the shop" autoFocus slotProps={{ htmlInput: { maxLength: 80 } }} />
      <TextField
        {...field('currency', 'As written with a price, such as $.')}
        label="Currency"
        defaultValue="$"
        slotProps={{ htmlInput: { maxLength: 8 } }}
      />
      <UnitFields units={usUnits} />
      <TextField
        {...field('bays', 'They can be renamed and added to later.')}
        label="How many bays"
        defaultValue="2"
        slotProps={{ htmlInput: { inputMode: 'numeric', maxLength: 2 } }}
      />
      <TextField
        {...field('name', 'You sign in with this name, and it is shown on what you record.')}
        label="Your name"
        autoComplete="username"
        slotProps={{ htmlInput: { maxLength: 80 } }}
      />
      <NewPassword errors={errors} />
      <Button type="submit" variant="contained" size="large" loading={busy}>
        Set up
      </Button>
    </Form>
  );
}
