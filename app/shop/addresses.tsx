import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { Form } from 'react-router';
import { type AddressKind, listAddresses, openAddressFor, parseAddressId, parseNewAddress, revokeAddress } from '../../server/floor/addresses';
import { here } from '../../server/http/requestContext';
import { acting } from '../respond.server';
import { Asked } from '../ui/Asked';
import { Choice } from '../ui/Choice';
import { useTimes } from '../ui/clock';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import type { Route } from './+types/addresses';
import { ShopNav } from './ShopNav';
import styles from './shop.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Screens and calendars · Bloodstone' }];
export const handle = { place: () => ({ title: 'Screens and calendars', detail: 'what can be seen without signing in' }) };

const kindWords: Record<AddressKind, string> = { wall: 'Floor on a wall screen', calendar: 'Calendar of due times' };

export async function loader({ context, request }: Route.LoaderArgs) {
  const { services } = context.get(here);
  return { addresses: await listAddresses(services.database.db), origin: services.address ?? new URL(request.url).origin };
}

interface Done {
  said: string;
  /** Shown once. */
  made?: { kind: AddressKind; name: string; token: string };
}

export async function action(args: Route.ActionArgs) {
  const { db } = args.context.get(here).services.database;
  return acting('/shop/addresses', args, {
    open: async ({ form, act }): Promise<Done> => ({ said: '', made: await openAddressFor(db, act(), parseNewAddress(form)) }),
    revoke: async ({ form, act }): Promise<Done> => {
      await revokeAddress(db, act(), parseAddressId(form));
      return { said: 'The address is revoked. It shows nothing any more.' };
    },
  });
}

export default function Addresses({ loaderData: { addresses, origin } }: Route.ComponentProps) {
  const act = useAct<typeof action>();
  const { day } = useTimes();
  const { made } = (act.data ?? {}) as Partial<Done>;
  return (
    <div className={styles.page}>
      <h1 className="hidden">Screens and calendars</h1>
      <ShopNav />
      <ProblemSummary errors={act.errors} />
      <p role="status" className="quiet">
        {act.said}
      </p>
      {made && (
        <div role="status" className={styles.link}>
          <p>The address of “{made.name}” is shown only now. Whoever has it sees it without signing in:</p>
          <p className="mono">{made.kind === 'wall' ? `${origin}/wall/${made.token}` : `${origin}/calendar/${made.token}.ics`}</p>
        </div>
      )}
      <p>
        A secret address shows the Floor on a screen at the wall, or what is due in a calendar program, without anybody signed in. Neither shows names
        of people or customers; vehicles and plates only where you allow it.
      </p>
      {addresses.length === 0 ? (
        <p className="quiet">No address yet.</p>
      ) : (
        <ul className={styles.list}>
          {addresses.map((a) => (
            <li key={a.id}>
              <span>
                <b>{a.name}</b> · {kindWords[a.kind].toLowerCase()}, {a.vehicles ? 'with vehicles and plates' : 'without vehicles'}{' '}
                <span className="quiet">
                  since {day(a.at)}, {a.by}
                </span>
              </span>
              <Asked
                label="Revoke"
                aria-label={`Revoke ${a.name}`}
                ask={`Revoke “${a.name}”?`}
                lost="From now on the address shows nothing. A new one has to be set up on the screen or in the calendar program."
                yes="Revoke it"
                onYes={() => act.sendJson({ intent: 'revoke', id: a.id })}
              />
            </li>
          ))}
        </ul>
      )}
      {/* Begins anew for each address: what one may show is chosen for none after it. */}
      <Form key={made?.token} method="post" className={styles.section} onSubmit={act.send('open')} noValidate aria-labelledby="new-address">
        <h2 id="new-address">New address</h2>
        <TextField name="kind" select label="For" defaultValue="wall">
          {Object.entries(kindWords).map(([id, say]) => (
            <MenuItem key={id} value={id}>
              {say}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          name="name"
          label="Name"
          required
          error={act.errors.name !== undefined}
          helperText={act.errors.name ?? 'One that you will recognize: screen over bay 1.'}
        />
        <div>
          <Choice type="checkbox" name="vehicles">
            Show vehicles and plates
          </Choice>
        </div>
        <Button type="submit" variant="contained" loading={act.busy}>
          Make the address
        </Button>
      </Form>
    </div>
  );
}
