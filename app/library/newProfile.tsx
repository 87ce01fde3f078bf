import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { Form, Link, redirect } from 'react-router';
import { parseNewProfile } from '../../server/library/forms';
import { createProfile, keptProfiles } from '../../server/library/profiles';
import { here } from '../../server/http/requestContext';
import { acting } from '../respond.server';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import type { Route } from './+types/newProfile';
import styles from './library.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'A profile of this shop · Bloodstone' }];
export const handle = { place: () => ({ title: 'A profile of this shop', detail: 'for a vehicle you work on' }) };

export async function loader({ request, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  return {
    from: new URL(request.url).searchParams.get('from') ?? '',
    families: [...services.library.families.values()].map((f) => ({ value: `family:${f.id}`, title: f.title })),
    profiles: (await keptProfiles(services)).filter((p) => !p.retired).map((p) => ({ value: `profile:${p.pin.id}`, title: p.profile.title })),
  };
}

export async function action(args: Route.ActionArgs) {
  const { services } = args.context.get(here);
  const answer = await acting('/library/profiles/new', args, {
    create: async ({ form, act }) => createProfile(services.database.db, services.library, act(), parseNewProfile(form)),
  });
  if ('id' in answer.data) throw redirect(`/library/profiles/${answer.data.id}`);
  return answer;
}

/** A family or a profile is copied; its numbers are filled in on the next page. */
export default function NewProfile({ loaderData: { from, families, profiles } }: Route.ComponentProps) {
  const act = useAct<typeof action>();
  const known = [...profiles, ...families].some((o) => o.value === from);
  return (
    <div className={styles.page}>
      <p>
        <Link to="/library">Library</Link>
      </p>
      <h1>A profile of this shop</h1>
      <p className="quiet">Name the vehicle and choose what to copy from. The numbers come next, each with its source.</p>
      <Form method="post" className={styles.form} noValidate onSubmit={act.send('create')} aria-label="New profile">
        <ProblemSummary errors={act.errors} names={{ title: 'Vehicle', from: 'Copied from' }} />
        <TextField
          name="title"
          label="Vehicle"
          autoFocus
          error={'title' in act.errors}
          helperText={act.errors.title ?? 'So you can find it again: maker, model, years, engine.'}
          slotProps={{ htmlInput: { maxLength: 120 } }}
        />
        <TextField
          name="from"
          label="Copied from"
          select
          defaultValue={known ? from : families[0]?.value}
          error={'from' in act.errors}
          helperText={act.errors.from}
          slotProps={{ select: { native: true }, inputLabel: { shrink: true } }}
        >
          <optgroup label="System types: all numbers typical">
            {families.map((o) => (
              <option key={o.value} value={o.value}>
                {o.title}
              </option>
            ))}
          </optgroup>
          <optgroup label="Vehicles: with the numbers looked up for them">
            {profiles.map((o) => (
              <option key={o.value} value={o.value}>
                {o.title}
              </option>
            ))}
          </optgroup>
        </TextField>
        <Button type="submit" variant="contained" size="large" loading={act.busy} sx={{ justifySelf: 'start' }}>
          Make the profile
        </Button>
      </Form>
    </div>
  );
}
