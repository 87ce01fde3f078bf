import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { Form, Link } from 'react-router';
import { authorityKinds } from '../../core/library';
import type { CasePage } from './page';
import { useTimes } from '../ui/clock';
import { useAct } from '../ui/useAct';
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
        {page.condition.length > 0 && (
          <>
            <dt>How it came in</dt>
            <dd>{page.condition.join(', ')}</dd>
          </>
        )}
        <dt>Customer</dt>
        <dd>
          {record.customer === null
            ? 'not noted'
            : record.customer.erasedAt !== null
              ? `personal data erased at ${hm(record.customer.erasedAt)}`
              : [record.customer.name, record.customer.phone].filter(Boolean).join(', ')}
        </dd>
        <dt>System</dt>
        <dd>
          <Link to={`/library/${record.family.id}`}>{system.title}</Link>
          {page.typical > 0 && (
            <span className="quiet">
              {' '}
              (<span className="typical">{page.typical} typical</span>)
            </span>
          )}
          {record.state === 'open' && record.kind === 'vehicle' && (
            <Link to={`/cases/${record.id}/identify`} className={styles.again}>
              identify again
            </Link>
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
          {record.state === 'open' && (!page.authorised.authority || page.authorised.senderMissing) && <AuthorityForm page={page} />}
          {record.state !== 'open' && record.authority.length === 0 && 'none seen'}
        </dd>
      </dl>
      <p className={styles.links}>
        <Link to={`/cases/${record.id}/report`}>Report</Link>
        <Link to={`/cases/${record.id}/intake`}>Intake</Link>
        {record.state === 'open' && record.kind === 'vehicle' && <Link to={`/cases/${record.id}/verify`}>Verify the keys</Link>}
        {record.state === 'open' && <Link to={`/cases/${record.id}/hand-over`}>Hand over</Link>}
      </p>
    </section>
  );
}

function AuthorityForm({ page }: { page: CasePage }) {
  const act = useAct<typeof action>('authority');
  // What is missing comes first; "other" is a lead's.
  const kinds = Object.entries(authorityKinds).filter(
    ([id]) => (id === 'sender' ? page.authorised.senderMissing === true : !page.authorised.authority) && (id !== 'other' || page.may.otherAuthority),
  );
  return (
    <Form className={styles.form} onSubmit={act.send('authority')} noValidate>
      <TextField
        key={kinds.map(([id]) => id).join()}
        name="kind"
        label="What was seen"
        select
        size="small"
        defaultValue=""
        error={'kind' in act.errors}
        helperText={'kind' in act.errors ? 'Choose what you saw.' : undefined}
        slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
      >
        <MenuItem value="" disabled>
          Choose what you saw
        </MenuItem>
        {kinds.map(([id, say]) => (
          <MenuItem key={id} value={id}>
            {say}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        name="note"
        label="Note, without names"
        size="small"
        error={'note' in act.errors}
        helperText={act.errors.note}
        slotProps={{ htmlInput: { maxLength: 300 } }}
      />
      <Button type="submit" variant="outlined" loading={act.busy}>
        Record it
      </Button>
    </Form>
  );
}
