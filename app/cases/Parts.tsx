import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { Form, Link } from 'react-router';
import { partKinds } from '../../core/library';
import { freeTag } from '../intake/fields';
import { useTimes } from '../ui/clock';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import styles from './Parts.module.css';
import type { CasePage } from './page';

/** The headline of a case without a vehicle: what came, who has it, and what is still missing before anything may be read or written. */
export default function Parts({ page }: { page: CasePage }) {
  const { record, held, authorised } = page;
  const act = useAct('parts');
  const { hm } = useTimes();
  const missing = [!authorised.authority && 'the right to the vehicle', authorised.senderMissing && 'the sender’s identity'].filter(Boolean);
  return (
    <section className={styles.parts} aria-labelledby="parts">
      <p className="label">Parts without a vehicle</p>
      <h2 id="parts">{record.words}</h2>
      {missing.length > 0 && (
        <p className={styles.shut}>
          Not on record yet: {missing.join(' and ')}. Until both are on record, nothing may be read, written or learned.{' '}
          <a href="#authority">Record it</a>
        </p>
      )}
      <ul>
        {record.parts.map((p) => {
          const lines = record.custody.filter((c) => c.tag === p.tag);
          const here = held.includes(p.tag);
          return (
            <li key={p.tag}>
              <span className={`mono ${styles.tag}`}>{p.tag}</span>
              <span>
                <b>{partKinds[p.what as keyof typeof partKinds]}</b> <span className="mono">{p.label}</span> {p.note}
                <br />
                <span className="quiet">
                  {lines
                    .map((c) => `${c.act} ${hm(c.at)}${c.person ? ` ${c.act === 'received' ? 'from' : 'to'} ${c.person}` : ''}, by ${c.by}`)
                    .join('; ')}
                </span>
              </span>
              {record.state === 'open' && (
                <Form className={styles.give} onSubmit={act.send('custody')}>
                  <input type="hidden" name="tag" value={p.tag} />
                  <input type="hidden" name="act" value={here ? 'returned' : 'received'} />
                  <TextField
                    key={lines.length}
                    name="person"
                    label={here ? 'Returned to' : 'Received from'}
                    size="small"
                    placeholder={record.customer?.name ?? ''}
                    slotProps={{ htmlInput: { maxLength: 80 } }}
                  />
                  <Button type="submit" variant="outlined" aria-label={`${here ? 'Return' : 'Receive'} ${p.tag}`}>
                    {here ? 'Return' : 'Receive'}
                  </Button>
                </Form>
              )}
            </li>
          );
        })}
      </ul>
      <ProblemSummary errors={act.errors} />
      {record.state === 'open' && (
        <Form className={styles.add} onSubmit={act.send('part')} key={record.parts.length} aria-label="Another part">
          <TextField
            name="tag"
            label="Tag"
            size="small"
            defaultValue={freeTag(
              [...record.keys, ...record.parts].map((k) => k.tag),
              'part',
            )}
            slotProps={{ htmlInput: { maxLength: 3, className: 'mono' } }}
          />
          <TextField name="what" label="What it is" select size="small" defaultValue="module">
            {Object.entries(partKinds).map(([id, say]) => (
              <MenuItem key={id} value={id}>
                {say}
              </MenuItem>
            ))}
          </TextField>
          <TextField name="label" label="Numbers on its label" size="small" slotProps={{ htmlInput: { maxLength: 120 } }} />
          <Button type="submit" variant="outlined">
            Another part
          </Button>
        </Form>
      )}
      {record.state === 'open' && (
        <p>
          When everything has been returned, <Link to={`/cases/${record.id}/hand-over`}>hand over and close</Link>.
        </p>
      )}
    </section>
  );
}
