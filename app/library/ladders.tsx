import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { Form, Link, redirect } from 'react-router';
import { formatOhms } from '../../core/ladder';
import { parseYamlSent } from '../../server/forms';
import { importLadder, listLadders } from '../../server/ladders';
import { here } from '../../server/requestContext';
import { may } from '../../server/rights';
import { acting } from '../respond.server';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import type { Route } from './+types/ladders';
import styles from './library.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Ladders · Bloodstone' }];
export const handle = { place: () => ({ title: 'Library', detail: 'ladders of resistor keys' }) };

export async function loader({ context }: Route.LoaderArgs) {
  const { services, session } = context.get(here);
  const ladders = await listLadders(services.database.db, services.library);
  return {
    ladders: ladders.map(({ ladder: l, origin }) => ({
      id: l.id,
      title: l.title,
      origin,
      pellets: l.pellets,
      checked: l.checked,
      low: l.steps[0]!.low,
      high: l.steps.at(-1)!.high,
      steps: l.steps.length,
    })),
    mayEdit: may(session!.person, 'editLibrary'),
  };
}

export async function action(args: Route.ActionArgs) {
  const { services } = args.context.get(here);
  const answer = await acting('/library/ladders', args, {
    importLadder: async ({ form, act }) => importLadder(services.database.db, services.library, act(), parseYamlSent(form)),
  });
  if ('id' in answer.data) throw redirect(`/library/ladders/${answer.data.id}`);
  return answer;
}

/** The ladders that keys are compared with: shipped ones, and the shop's own. */
export default function Ladders({ loaderData: { ladders, mayEdit } }: Route.ComponentProps) {
  const act = useAct<typeof action>('ladders');
  return (
    <div className={styles.page}>
      <h1>Ladders of resistor keys</h1>
      <p>A guard takes a value inside a window for the step of that window. Between the windows are gaps: a value there is no step.</p>
      <ul className={styles.ladders}>
        {ladders.map((l) => (
          <li key={l.id}>
            <Link to={`/library/ladders/${l.id}`}>{l.title}</Link>
            <span className="quiet">
              {l.steps} {l.steps === 1 ? 'step' : 'steps'} from {formatOhms(l.low)} to {formatOhms(l.high)}
              {l.pellets === 2 ? ', two pellets in a key' : ''} · {l.origin === 'shop' ? 'of this shop' : 'shipped'} ·{' '}
              {l.checked ? `checked by ${l.checked.by}` : 'checked by nobody'}
            </span>
          </li>
        ))}
      </ul>
      {mayEdit && (
        <>
          <Button component={Link} to="/library/ladders/new" variant="contained" sx={{ justifySelf: 'start' }}>
            Add a ladder
          </Button>
          <ProblemSummary errors={act.errors} />
          <Form
            method="post"
            encType="multipart/form-data"
            className={styles.import}
            aria-label="Import a ladder"
            onSubmit={act.send('importLadder')}
          >
            <h2>Take in a ladder as YAML</h2>
            <label>
              File <input type="file" name="file" accept=".yaml,.yml" />
            </label>
            <TextField
              name="text"
              label="Or paste it"
              multiline
              minRows={3}
              maxRows={12}
              slotProps={{ htmlInput: { maxLength: 100_000, spellCheck: false } }}
            />
            <Button type="submit" variant="outlined" loading={act.busy} sx={{ justifySelf: 'start' }}>
              Take it in
            </Button>
          </Form>
        </>
      )}
    </div>
  );
}
