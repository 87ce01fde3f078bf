import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { Form, Link } from 'react-router';
import { useAct } from '../ui/useAct';
import styles from './case.module.css';
import type { CasePage } from './page';

/** Numbers of this vehicle that were looked up while it was worked; a lead keeps them as a profile, so that nobody asks again. */
export function Learnt({ page }: { page: CasePage }) {
  const act = useAct('numbers');
  return (
    <div className={styles.learnt}>
      <ul>
        {page.learnt.map((n) => (
          <li key={n.label}>
            {n.label}: <span className="mono">{n.words}</span>{' '}
            <span className="quiet">
              {n.source}, {n.by}
            </span>
          </li>
        ))}
      </ul>
      {page.kept ? (
        <p>
          Saved in <Link to={`/library/profiles/${page.kept.id}`}>{page.kept.title}</Link>.
        </p>
      ) : page.may.editLibrary ? (
        <Form className={styles.reopen} onSubmit={act.send('saveNumbers')} noValidate>
          <TextField
            name="title"
            label="Profile of the shop"
            size="small"
            defaultValue={page.record.vehicle}
            error={act.errors.title !== undefined || act.errors[''] !== undefined}
            helperText={act.errors.title ?? act.errors[''] ?? 'The next car of this kind starts with these numbers.'}
            slotProps={{ htmlInput: { maxLength: 120 } }}
          />
          <Button type="submit" variant="outlined" loading={act.busy}>
            Save them
          </Button>
        </Form>
      ) : (
        <p className="quiet">A lead can save them as a profile of the shop.</p>
      )}
    </div>
  );
}
