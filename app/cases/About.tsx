import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { Link, useFetcher } from 'react-router';
import { authorityKinds } from '../../core/library';
import type { CasePage } from '../../server/caseView';
import { useTimes } from '../ui/clock';
import { newCommandId } from '../ui/commandId';
import styles from './About.module.css';
import type { action } from './case';

/** Vehicle, system, authority and runs: what the case stands on. */
export function About({ page }: { page: CasePage }) {
  const { record, system } = page;
  const { hm } = useTimes();
  return (
    <section className={styles.about} aria-label="About this case">
      <dl>
        <dt>Vehicle</dt>
        <dd>
          {record.vehicle}
          {record.year ? `, ${record.year}` : ''}
          {record.identification && <span className={`mono ${styles.vin}`}>{record.identification}</span>}
        </dd>
        <dt>System</dt>
        <dd>
          <Link to="/library">{system.title}</Link>
          {page.typical > 0 && (
            <span className="quiet">
              {' '}
              (<span className="typical">{page.typical} typical</span>)
            </span>
          )}
        </dd>
        <dt>Runs</dt>
        <dd>
          {record.runs.length === 0
            ? 'none'
            : record.runs.map((r) => (
                <Link key={r.id} to={`/cases/${record.id}/runs/${r.id}`} className={styles.run}>
                  {hm(r.startedAt)} {r.status}
                </Link>
              ))}
        </dd>
        <dt id="authority">Authority</dt>
        <dd>
          {record.authority.map((a) => (
            <p key={a.at}>
              {authorityKinds[a.kind as keyof typeof authorityKinds]}{' '}
              <span className="quiet">
                seen by {a.by}, {hm(a.at)}
                {a.note ? `: ${a.note}` : ''}
              </span>
            </p>
          ))}
          {record.authority.length === 0 && <AuthorityForm page={page} />}
        </dd>
      </dl>
      <p className={styles.links}>
        <Link to={`/cases/${record.id}/report`}>Report</Link>
        {record.state === 'open' && <Link to={`/cases/${record.id}/verify`}>Verify the keys</Link>}
        {record.state === 'open' && <Link to={`/cases/${record.id}/hand-over`}>Hand over</Link>}
      </p>
    </section>
  );
}

function AuthorityForm({ page }: { page: CasePage }) {
  const fetcher = useFetcher<typeof action>({ key: 'authority' });
  if (page.record.state === 'closed') return <span>none seen</span>;
  return (
    <form
      className={styles.form}
      onSubmit={(event) => {
        event.preventDefault();
        const data = new FormData(event.currentTarget);
        data.set('intent', 'authority');
        data.set('commandId', newCommandId());
        void fetcher.submit(data, { method: 'post', action: `/cases/${page.record.id}` });
      }}
    >
      <TextField name="kind" label="What was seen" select size="small" defaultValue="registration">
        {Object.entries(authorityKinds).map(([id, say]) => (
          <MenuItem key={id} value={id}>
            {say}
          </MenuItem>
        ))}
      </TextField>
      <TextField name="note" label="Note" size="small" slotProps={{ htmlInput: { maxLength: 300 } }} />
      <Button type="submit" variant="outlined" loading={fetcher.state !== 'idle'}>
        Record it
      </Button>
    </form>
  );
}
