import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { Form, Link } from 'react-router';
import { counterQuantity, counters } from '../../core/library';
import { quantityWords } from '../../core/units';
import { Photos } from '../photos/Photos';
import { useUnits } from '../ui/clock';
import { QuantityField } from '../ui/QuantityField';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import type { action } from './case';
import type { CasePage } from './page';
import styles from './Papers.module.css';

/** Under the work: counters, photos, and what is done with the case as a whole. */
export function Papers({ page }: { page: CasePage }) {
  return (
    <div className={styles.papers}>
      <Counters page={page} />
      <section aria-labelledby="photos">
        <h2 id="photos">Photos</h2>
        <Photos caseId={page.record.id} photos={page.record.photos} closed={page.record.state !== 'open'} />
      </section>
      <Whole page={page} />
    </div>
  );
}

type Counter = keyof typeof counters;

/** What a replaced module may lose: read before the work and after it. */
function Counters({ page }: { page: CasePage }) {
  const { record } = page;
  const act = useAct<typeof action>('counters');
  const { distance } = useUnits();
  const [counter, setCounter] = useState<Counter>('odometer');
  const [unit, setUnit] = useState<string | null>(null);
  const latest = (name: string, phase: string) => record.counters.findLast((c) => c.counter === name && c.phase === phase);
  const units: readonly string[] = counters[counter].units;
  // As chosen here, else as this counter was read last, else the shop's.
  const shownUnit =
    [unit, record.counters.findLast((c) => c.counter === counter)?.unit, distance].find((u) => u !== null && u !== undefined && units.includes(u)) ??
    units[0]!;
  const read = (Object.keys(counters) as Counter[]).filter((c) => record.counters.some((r) => r.counter === c));
  return (
    <section aria-labelledby="counters">
      <h2 id="counters">Counters</h2>
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
        <Form className={styles.line} onSubmit={act.send('counter')} key={record.counters.length} aria-label="Read a counter">
          <TextField name="counter" label="Counter" select size="small" value={counter} onChange={(e) => setCounter(e.target.value as Counter)}>
            {Object.entries(counters).map(([id, { say }]) => (
              <MenuItem key={id} value={id}>
                {say}
              </MenuItem>
            ))}
          </TextField>
          <TextField name="phase" label="When" select size="small" defaultValue={record.runs.length > 0 ? 'after' : 'before'}>
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
    </section>
  );
}

function Whole({ page }: { page: CasePage }) {
  const { record } = page;
  const act = useAct<typeof action>('whole');
  const [sure, setSure] = useState(false);
  return (
    <section aria-labelledby="whole">
      <h2 id="whole">The case as a whole</h2>
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
      {record.state === 'open' && (
        <Form className={styles.line} onSubmit={act.send('park')} noValidate aria-label="Park the case">
          <TextField name="reason" label="Why it has to wait" size="small" slotProps={{ htmlInput: { maxLength: 500 } }} />
          <Button type="submit" variant="outlined">
            Park it
          </Button>
        </Form>
      )}
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
    </section>
  );
}
