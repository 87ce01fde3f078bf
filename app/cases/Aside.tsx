import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { Form } from 'react-router';
import { useTimes } from '../ui/clock';
import { useAct } from '../ui/useAct';
import styles from './case.module.css';
import type { CasePage } from './page';

/** Over a case that is not open: why, and the way back. */
export default function Aside({ page }: { page: CasePage }) {
  const { record } = page;
  const { day, hm } = useTimes();
  const act = useAct('reopen');
  const last = record.states.at(-1);
  return (
    <section className={styles.aside} aria-label="State of the case">
      <p>
        <b>{record.state === 'parked' ? 'Parked' : record.closing === 'notDone' ? 'Closed, not done' : 'Closed'}</b>
        {last && ` on ${day(last.at)}, ${hm(last.at)}, by ${last.by}. `}
        {record.outcome ?? last?.reason}
      </p>
      <Form className={styles.reopen} onSubmit={act.send('reopen')} noValidate>
        <TextField
          name="reason"
          label="Why it is reopened"
          size="small"
          error={'reason' in act.errors}
          helperText={act.errors.reason}
          slotProps={{ htmlInput: { maxLength: 500 } }}
        />
        <Button type="submit" variant="outlined" loading={act.busy}>
          Reopen it
        </Button>
      </Form>
    </section>
  );
}
