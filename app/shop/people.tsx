import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { Form } from 'react-router';
import { trainingsOf } from '../../core/library';
import { parseInvitation, parsePersonId, parseRole, parseTraining } from '../../server/accounts/forms';
import { type Account, changeRole, invite, listPeople, lockPerson, resetPerson, setTraining, unlockPerson } from '../../server/accounts/people';
import { here } from '../../server/http/requestContext';
import { acting } from '../respond.server';
import { Choice } from '../ui/Choice';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import type { Route } from './+types/people';
import { ShopNav } from './ShopNav';
import styles from './shop.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'People · Bloodstone' }];
export const handle = { place: () => ({ title: 'People', detail: 'who works here, and what each may do' }) };

const roleWords = {
  technician: 'technician: cases, bench, runs',
  lead: 'lead: also waivers, other authority, shop data, audit log',
  owner: 'owner: also people, devices, erasing personal data',
};
const stateWords: Record<string, string> = { invited: 'has not used the link yet', active: '', locked: 'locked: can’t sign in' };

export async function loader({ context, request }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  return {
    me: session!.person.id,
    people: await listPeople(services.database.db),
    trainings: trainingsOf(services.library.cautions),
    origin: services.address ?? new URL(request.url).origin,
  };
}

interface Done {
  said: string;
  /** A one-time link, shown once. */
  link?: { name: string; token: string };
}

export async function action(args: Route.ActionArgs) {
  const { database, library } = args.context.get(here).services;
  const { db } = database;
  const trainings = trainingsOf(library.cautions);
  return acting('/shop/people', args, {
    invite: async ({ form, act }): Promise<Done> => ({ said: '', link: await invite(db, act(), parseInvitation(form)) }),
    reset: async ({ form, act }): Promise<Done> => ({ said: '', link: await resetPerson(db, act(), parsePersonId(form)) }),
    role: async ({ form, act }): Promise<Done> => {
      await changeRole(db, act(), parseRole(form));
      return { said: 'The role is changed.' };
    },
    training: async ({ form, act }): Promise<Done> => {
      await setTraining(db, act(), parseTraining(form, trainings), Object.keys(trainings));
      return { said: 'The training is saved. The Floor plans by it.' };
    },
    lock: async ({ form, act }): Promise<Done> => {
      await lockPerson(db, act(), parsePersonId(form));
      return { said: 'The account is locked, and its devices are signed out.' };
    },
    unlock: async ({ form, act }): Promise<Done> => {
      await unlockPerson(db, act(), parsePersonId(form));
      return { said: 'The account is open again.' };
    },
  });
}

/** Only the role is shown of what the list says; the label stands over it from the start, which a list of its own words does not know. */
const shortRole = { select: { renderValue: (v: unknown) => String(v) }, inputLabel: { shrink: true } };

export default function People({ loaderData: { people, me, trainings, origin } }: Route.ComponentProps) {
  const act = useAct<typeof action>();
  const link = act.data && 'link' in act.data ? act.data.link : undefined;
  return (
    <div className={styles.page}>
      <h1 className="hidden">People</h1>
      <ShopNav />
      <ProblemSummary errors={act.errors} />
      <p role="status" className="quiet">
        {act.said}
      </p>
      {link && (
        <div className={styles.link} role="status">
          <p>Give this link to {link.name}. It works once, for three days, and is shown only now:</p>
          <p className="mono">
            {origin}/join/{link.token}
          </p>
        </div>
      )}
      <ul className={styles.list}>
        {people.map((p) => (
          <li key={p.id}>
            <span>
              <b>{p.name}</b>
              {p.id === me && ' (you)'}
              <br />
              <span className="quiet">{[p.role, stateWords[p.state], p.hasPin && 'has a PIN'].filter(Boolean).join(', ')}</span>
            </span>
            <Form method="post" className={styles.acts} onSubmit={act.send('role')} aria-label={`Role of ${p.name}`}>
              <input type="hidden" name="person" value={p.id} />
              <TextField key={p.role} name="role" label="Role" select size="small" defaultValue={p.role} sx={{ width: 150 }} slotProps={shortRole}>
                {Object.entries(roleWords).map(([id, say]) => (
                  <MenuItem key={id} value={id}>
                    {say}
                  </MenuItem>
                ))}
              </TextField>
              <Button type="submit" variant="outlined">
                Change
              </Button>
            </Form>
            <div className={styles.acts}>
              <Form method="post" onSubmit={act.send('reset')}>
                <input type="hidden" name="person" value={p.id} />
                <Button type="submit" variant="outlined" aria-label={`New link for ${p.name}`}>
                  New link
                </Button>
              </Form>
              <Form method="post" onSubmit={act.send(p.state === 'locked' ? 'unlock' : 'lock')}>
                <input type="hidden" name="person" value={p.id} />
                <Button
                  type="submit"
                  variant="outlined"
                  color={p.state === 'locked' ? 'primary' : 'error'}
                  aria-label={`${p.state === 'locked' ? 'Unlock' : 'Lock'} ${p.name}`}
                >
                  {p.state === 'locked' ? 'Unlock' : 'Lock'}
                </Button>
              </Form>
            </div>
            <Training person={p} trainings={trainings} send={act.send('training')} />
          </li>
        ))}
      </ul>
      <p className="quiet">
        A new link cancels the person’s password, PIN and devices at once: for someone who forgot the password or lost a device.
      </p>
      <section className={styles.section} aria-labelledby="invite">
        <h2 id="invite">Invite somebody</h2>
        <Form method="post" className={styles.row} onSubmit={act.send('invite')} noValidate>
          <TextField
            key={people.length}
            name="name"
            label="Name"
            error={'name' in act.errors}
            helperText={act.errors.name}
            slotProps={{ htmlInput: { maxLength: 80 } }}
          />
          <TextField name="role" label="Role" select defaultValue="technician" sx={{ width: 200 }} slotProps={shortRole}>
            {Object.entries(roleWords).map(([id, say]) => (
              <MenuItem key={id} value={id}>
                {say}
              </MenuItem>
            ))}
          </TextField>
          <Button type="submit" variant="contained" size="large" loading={act.busy}>
            Make a link
          </Button>
        </Form>
      </section>
    </div>
  );
}

/** What somebody is trained for: who is trained for everything needs nothing said. */
function Training({
  person: p,
  trainings,
  send,
}: {
  person: Account;
  trainings: Record<string, string>;
  send: ReturnType<ReturnType<typeof useAct>['send']>;
}) {
  const lacks = p.untrained.flatMap((id) => trainings[id] ?? []);
  return (
    <details className={styles.training}>
      <summary>{lacks.length === 0 ? 'trained for everything' : `not trained for ${lacks.join(', ')}`}</summary>
      <Form method="post" onSubmit={send} key={p.untrained.join()} aria-label={`Training of ${p.name}`}>
        <input type="hidden" name="person" value={p.id} />
        <fieldset>
          <legend>Trained for</legend>
          {Object.entries(trainings).map(([id, say]) => (
            <Choice key={id} type="checkbox" name="trained" value={id} defaultChecked={!p.untrained.includes(id)}>
              {say}
            </Choice>
          ))}
        </fieldset>
        <Button type="submit" variant="outlined" aria-label={`Save the training of ${p.name}`}>
          Save
        </Button>
      </Form>
    </details>
  );
}
