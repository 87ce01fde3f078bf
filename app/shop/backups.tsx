import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useEffect } from 'react';
import { Form } from 'react-router';
import { backupsOf, type BackupState } from '../../server/backup/backups';
import { parseBackupRule } from '../../server/backup/forms';
import { here } from '../../server/http/requestContext';
import { acting } from '../respond.server';
import { useRevalidate, useTimes } from '../ui/clock';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import type { Route } from './+types/backups';
import { ShopNav } from './ShopNav';
import styles from './shop.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Backups · Bloodstone' }];
export const handle = { place: () => ({ title: 'Backups', detail: 'copies of everything, in case the disk fails' }) };

export async function loader({ context }: Route.LoaderArgs) {
  const backups = await backupsOf(context.get(here).services);
  await backups.readRule();
  return backups.state();
}

export async function action(args: Route.ActionArgs) {
  const backups = await backupsOf(args.context.get(here).services);
  return acting('/shop/backups', args, {
    backUp: async ({ act }) => {
      await backups.begin(act());
      return { said: '' };
    },
    cancelBackup: async ({ act }) => {
      return {
        said: (await backups.cancel(act()))
          ? 'No backup is being made now. Nothing of a canceled one is left.'
          : 'The backup was finished before it could be canceled.',
      };
    },
    saveRule: async ({ form, act }) => {
      await backups.setRule(act(), parseBackupRule(form));
      return { said: 'Saved. It counts from the next backup on.' };
    },
  });
}

/** How often the page looks how far a backup is, ms. */
const lookMs = 1_000;

export default function Backups({ loaderData: state }: Route.ComponentProps) {
  const act = useAct<typeof action>();
  const revalidate = useRevalidate();
  const running = state.running !== null;
  useEffect(() => {
    if (!running) return;
    const timer = setInterval(revalidate, lookMs);
    return () => clearInterval(timer);
  }, [running, revalidate]);
  return (
    <div className={styles.page}>
      <h1 className="hidden">Backups</h1>
      <ShopNav />
      <ProblemSummary errors={act.errors} />
      {state.place ? <Now state={state} act={act} /> : <NoPlace />}
      <p role="status" className="quiet">
        {running ? 'The backup is being made. Other pages may answer more slowly until then.' : act.said}
      </p>
      {state.place && <Rule rule={state.rule} act={act} />}
      {state.place && <List backups={state.backups} />}
      {state.place && <Opening place={state.place} />}
    </div>
  );
}

type PageAct = ReturnType<typeof useAct<typeof action>>;

function NoPlace() {
  return (
    <section aria-labelledby="none">
      <h2 id="none">No backups are made yet</h2>
      <p>
        If this machine’s disk fails, everything is gone. Set <code className="mono">BLOODSTONE_BACKUP</code> to a folder on another disk, then start
        the server again: a backup is made every day from then on.
      </p>
    </section>
  );
}

function Now({ state, act }: { state: BackupState; act: PageAct }) {
  const { day, hm } = useTimes();
  const when = (at: number) => `${day(at)}, ${hm(at)}`;
  return (
    <section aria-labelledby="last">
      <h2 id="last">{state.lastAt === null ? 'No backup yet' : `Last backup: ${when(state.lastAt)}`}</h2>
      {state.overdue && (
        <p role="alert">
          {state.lastAt === null ? 'One should have been made by now.' : 'That is longer ago than it should be.'} One is due every{' '}
          {state.rule.everyHours} h.
        </p>
      )}
      {state.failed && (
        <p role="alert">
          The backup at {when(state.failed.at)} did not work out. {state.failed.why}
        </p>
      )}
      {state.running === null ? (
        <Form onSubmit={act.send('backUp')} style={{ marginTop: 12 }}>
          <Button type="submit" variant="contained" loading={act.busy}>
            Back up now
          </Button>
        </Form>
      ) : (
        <Form onSubmit={act.send('cancelBackup')} className={styles.row} style={{ marginTop: 12 }}>
          <span>
            Being made: <progress max={1} value={state.running} aria-label="How far the backup is" /> {Math.round(state.running * 100)} %
          </span>
          <Button type="submit" color="inherit" variant="outlined" disabled={act.busy}>
            Cancel
          </Button>
        </Form>
      )}
    </section>
  );
}

function Rule({ rule, act }: { rule: BackupState['rule']; act: PageAct }) {
  const field = (name: keyof BackupState['rule'], label: string) => (
    <TextField
      name={name}
      label={label}
      defaultValue={rule[name]}
      error={name in act.errors}
      helperText={act.errors[name]}
      slotProps={{ htmlInput: { inputMode: 'numeric', maxLength: 3 } }}
    />
  );
  return (
    <Form className={styles.section} aria-label="When and how many" noValidate onSubmit={act.send('saveRule')}>
      <h2>When and how many</h2>
      <div className={styles.fields}>
        {field('everyHours', 'Hours between backups')}
        {field('days', 'Daily backups kept')}
        {field('weeks', 'Weekly backups kept')}
        {field('months', 'Monthly backups kept')}
      </div>
      <Button type="submit" variant="outlined" loading={act.busy} sx={{ justifySelf: 'start' }}>
        Save
      </Button>
    </Form>
  );
}

function List({ backups }: Pick<BackupState, 'backups'>) {
  const { day, hm } = useTimes();
  return (
    <section aria-labelledby="all">
      <h2 id="all">Backups that are kept</h2>
      {backups === null ? (
        <p role="alert">The folder can’t be read. Connect its disk.</p>
      ) : backups.length === 0 ? (
        <p className="quiet">None yet.</p>
      ) : (
        <ul aria-label="Backups">
          {backups.map((b) => (
            <li key={b.file}>
              {day(b.at)}, {hm(b.at)}{' '}
              <span className="quiet">
                {(b.bytes / 1e6).toFixed(1)} MB, {b.file}
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function Opening({ place: { folder, opens, keyPath } }: { place: NonNullable<BackupState['place']> }) {
  return (
    <section aria-labelledby="opening">
      <h2 id="opening">What opens them</h2>
      <p>
        They lie in <code className="mono">{folder}</code>, encrypted.{' '}
        {opens === 'password' ? (
          'Your password opens them. Write it down and keep it apart from the backups.'
        ) : (
          <>
            The key file <code className="mono">{keyPath}</code> opens them. Keep a copy of it apart from this machine: without it nobody opens a
            backup.
          </>
        )}{' '}
        The vault’s master key is not in them: keep a copy of that too. What was destroyed in the vault after a backup was made can still be opened
        from that backup, with both keys, until it is deleted.
      </p>
      <p className="quiet">
        To try one out: <code className="mono">npm run -s bloodstone -- verify FILE</code>. To go back to one:{' '}
        <code className="mono">npm run -s bloodstone -- restore FILE --to FOLDER</code>.
      </p>
    </section>
  );
}
