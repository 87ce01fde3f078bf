import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { Form, Link } from 'react-router';
import { authorityKinds, counterQuantity, counters } from '../../core/library';
import { quantityWords } from '../../core/units';
import { Photos } from '../photos/Photos';
import { useUnits } from '../ui/clock';
import { QuantityField } from '../ui/QuantityField';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import { Learnt } from './Learnt';
import type { CasePage } from './page';
import styles from './Record.module.css';

export type RowId = 'authority' | 'owner' | 'counters' | 'photos' | 'learnt' | 'replaced' | 'vault' | 'exports' | 'park';

/** What a row of the record holds when it is open: loaded then, since most visits to a case open none. */
export default function RecordRow({ id, page }: { id: RowId; page: CasePage }) {
  const { record } = page;
  switch (id) {
    case 'authority':
      return page.missing.some((m) => m === 'authority' || m === 'sender') ? (
        <AuthorityForm page={page} />
      ) : (
        <p className="quiet">See About this case, above.</p>
      );
    case 'owner':
      return (
        <p>
          <Link to={`/cases/${record.id}/intake`}>Add or change them in the intake</Link>
        </p>
      );
    case 'counters':
      return <Counters page={page} />;
    case 'photos':
      return <Photos caseId={record.id} photos={record.photos} closed={record.state !== 'open'} />;
    case 'learnt':
      return <Learnt page={page} />;
    case 'replaced':
      return (
        <ul>
          <li>
            <Link to={`/cases/${record.id}/replacement`}>Plan what a replaced part needs</Link>
          </li>
          <li>
            <Link to={`/cases/${record.id}/codes`}>Scans and trouble codes</Link>
          </li>
        </ul>
      );
    case 'vault':
      return (
        <p>
          <Link to={`/cases/${record.id}/vault`}>Sealed memory files, secrets and photos of labels</Link>
        </p>
      );
    case 'exports':
      return <Exports page={page} />;
    case 'park':
      return <Park />;
  }
}

type Counter = keyof typeof counters;

/** What a replaced module may lose: read before the work and after it. */
function Counters({ page }: { page: CasePage }) {
  const { record } = page;
  const act = useAct('counters');
  const { distance } = useUnits();
  const [counter, setCounter] = useState<Counter>('odometer');
  const [unit, setUnit] = useState<string | null>(null);
  // After a run or a repair it is the reading after the work that is wanted.
  const worked = record.runs.length > 0 || record.repairActions.some((d) => d.kind === 'repair' && d.result !== null);
  const latest = (name: string, phase: string) => record.counters.findLast((c) => c.counter === name && c.phase === phase);
  const units: readonly string[] = counters[counter].units;
  // As chosen here, else as this counter was read last, else the shop's.
  const shownUnit =
    [unit, record.counters.findLast((c) => c.counter === counter)?.unit, distance].find((u) => u !== null && u !== undefined && units.includes(u)) ??
    units[0]!;
  const read = (Object.keys(counters) as Counter[]).filter((c) => record.counters.some((r) => r.counter === c));
  return (
    <>
      {read.length > 0 && (
        <table className={styles.counters}>
          <thead>
            <tr>
              <th scope="col">Counter</th>
              <th scope="col">Before</th>
              <th scope="col">After</th>
            </tr>
          </thead>
          <tbody>
            {read.map((c) => (
              <tr key={c}>
                <th scope="row">{counters[c].say}</th>
                {['before', 'after'].map((phase) => {
                  const r = latest(c, phase);
                  return (
                    <td key={phase} className="mono">
                      {r ? quantityWords(r.value, r.unit) : 'not read'}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {record.state === 'open' && (
        <Form className={styles.line} onSubmit={act.send('counter')} key={`${record.counters.length} ${String(worked)}`} aria-label="Read a counter">
          <TextField name="counter" label="Counter" select size="small" value={counter} onChange={(e) => setCounter(e.target.value as Counter)}>
            {Object.entries(counters).map(([id, { say }]) => (
              <MenuItem key={id} value={id}>
                {say}
              </MenuItem>
            ))}
          </TextField>
          <TextField name="phase" label="When" select size="small" defaultValue={worked ? 'after' : 'before'}>
            <MenuItem value="before">before the work</MenuItem>
            <MenuItem value="after">after the work</MenuItem>
          </TextField>
          <QuantityField
            quantity={counterQuantity(shownUnit)}
            name="value"
            label="Reading"
            size="small"
            problem={act.errors.value}
            slotProps={{ htmlInput: { className: 'mono' } }}
          />
          <TextField name="unit" label="Unit" select size="small" value={shownUnit} onChange={(e) => setUnit(e.target.value)}>
            {units.map((u) => (
              <MenuItem key={u} value={u}>
                {u}
              </MenuItem>
            ))}
          </TextField>
          <Button type="submit" variant="outlined" loading={act.busy}>
            Save reading
          </Button>
        </Form>
      )}
    </>
  );
}

function AuthorityForm({ page }: { page: CasePage }) {
  const act = useAct('authority');
  // What is missing comes first; "other" is a lead's.
  const kinds = Object.entries(authorityKinds).filter(
    ([id]) => (id === 'sender' ? page.authorised.senderMissing === true : !page.authorised.authority) && (id !== 'other' || page.may.otherAuthority),
  );
  return (
    <Form className={styles.line} onSubmit={act.send('authority')} noValidate>
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

function Exports({ page }: { page: CasePage }) {
  const { record } = page;
  const act = useAct('whole');
  const [sure, setSure] = useState(false);
  return (
    <>
      <ProblemSummary errors={act.errors} />
      <div className={styles.line}>
        <Button component={Link} to={`/cases/${record.id}/labels`} variant="outlined" size="small">
          Print key labels
        </Button>
        <Button component="a" href={`/cases/${record.id}/export`} variant="outlined" size="small">
          Export the case
        </Button>
        {page.may.exportPersonal && (
          <Button component="a" href={`/cases/${record.id}/personal`} variant="outlined" size="small">
            Export the customer’s data
          </Button>
        )}
      </div>
      {record.state === 'closed' && page.may.erase && (record.customer?.erasedAt ?? null) === null && (
        <Form className={styles.line} onSubmit={act.send('erase', `/cases/${record.id}/personal`)}>
          <label className={styles.sure}>
            <input type="checkbox" checked={sure} onChange={(e) => setSure(e.target.checked)} /> Erase names, phone numbers, plate, VIN and photos for
            good. The case stays.
          </label>
          <Button type="submit" variant="outlined" color="error" disabled={!sure}>
            Erase personal data
          </Button>
        </Form>
      )}
    </>
  );
}

function Park() {
  const act = useAct('park');
  return (
    <>
      <ProblemSummary errors={act.errors} />
      <Form className={styles.line} onSubmit={act.send('park')} noValidate aria-label="Park the case">
        <TextField name="reason" label="Why it has to wait" size="small" slotProps={{ htmlInput: { maxLength: 500 } }} />
        <Button type="submit" variant="outlined" loading={act.busy}>
          Park it
        </Button>
      </Form>
    </>
  );
}
