import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { Form } from 'react-router';
import { Choice } from '../ui/Choice';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import styles from './work.module.css';

interface Asked {
  id: string;
  say: string;
  /** What hangs on it. */
  more?: string;
  answer: { answer: string; by: string } | null;
}

/** A list of which each line wants one of the same few answers; those that were given stay, and can be given anew. */
export function Answers({
  intent,
  part,
  label,
  asked,
  answers,
}: {
  intent: 'saved' | 'causes';
  part: string;
  label: string;
  asked: readonly Asked[];
  answers: Readonly<Record<string, string>>;
}) {
  const act = useAct();
  const given = asked.filter((a) => a.answer).length;
  return (
    <Form className={styles.answers} onSubmit={act.send(intent)} noValidate aria-label={label}>
      <input type="hidden" name="part" value={part} />
      <ProblemSummary errors={act.errors} />
      {asked.map(({ id, say, more, answer }) => (
        <fieldset key={`${id} ${answer?.answer ?? ''}`}>
          <legend>
            {say}
            {more && <small>{more}</small>}
          </legend>
          {Object.entries(answers).map(([value, words]) => (
            <Choice key={value} type="radio" name={`answers.${id}`} value={value} defaultChecked={answer?.answer === value}>
              {words}
            </Choice>
          ))}
        </fieldset>
      ))}
      <TextField label="Note, without names" name="note" size="small" slotProps={{ htmlInput: { maxLength: 300 } }} />
      <div className={styles.save}>
        <Button type="submit" variant="contained" loading={act.busy} sx={{ minHeight: 56 }}>
          Save these answers
        </Button>
        <span role="status">{act.said || `${given} of ${asked.length} answered.`}</span>
      </div>
    </Form>
  );
}
