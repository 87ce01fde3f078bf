import Button from '@mui/material/Button';
import { useState } from 'react';
import { Form } from 'react-router';
import type { Caution } from '../../core/library';
import { Cautions, useCautions } from '../ui/Cautions';
import { Choice } from '../ui/Choice';
import { useTimes } from '../ui/clock';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import type { viewLiveData } from '../../server/ledger/liveData';
import styles from './codes.module.css';

interface Props {
  live: ReturnType<typeof viewLiveData>;
  cautions: Readonly<Record<string, Caution>>;
}

/** The few values of a scan tool's live data that tell, each with the links it speaks of; what is not read is left alone. */
export function LiveData({ live: { values, keys }, cautions: known }: Props) {
  const act = useAct();
  const { hm } = useTimes();
  const [read, setRead] = useState<Record<string, string>>({});
  const [key, setKey] = useState(keys[0]);
  // What was saved is not chosen any more.
  const [answered, setAnswered] = useState(act.data);
  if (act.data !== answered) {
    setAnswered(act.data);
    if (act.data && 'said' in act.data) setRead({});
  }
  const chosen = values.filter((v) => (read[v.id] ?? '') !== '');
  const cautions = useCautions([...new Set(values.flatMap((v) => (read[v.id] ? v.cautions : [])))], known);
  return (
    <section aria-labelledby="live-data" className={styles.live}>
      <h2 id="live-data">Live data</h2>
      <p className="quiet">Choose what the scan tool shows. Each value goes into the record as a test of its own.</p>
      <Form className={styles.form} onSubmit={act.send('live')} noValidate>
        <ProblemSummary errors={act.errors} />
        {keys.length > 1 && (
          <fieldset className={styles.phase}>
            <legend>Key in the ignition</legend>
            {keys.map((tag) => (
              <Choice key={tag} type="radio" name="key" value={tag} checked={key === tag} onChange={() => setKey(tag)}>
                Tag {tag}
              </Choice>
            ))}
          </fieldset>
        )}
        {keys.length === 1 && <input type="hidden" name="key" value={keys[0]} />}
        {values.map((v) => (
          <fieldset key={v.id} className={styles.value} disabled={v.perKey && keys.length === 0}>
            <legend>{v.title}</legend>
            <p className="quiet">
              {v.do} Tells about: {v.links.join(', ')}.
              {v.last && ` Last: ${v.last.say}${v.last.key === null ? '' : `, tag ${v.last.key}`}, ${hm(v.last.at)}.`}
              {v.perKey && keys.length === 0 && ' No key is here.'}
            </p>
            <div className={styles.answers}>
              {[{ id: '', say: 'Not read' }, ...v.outcomes].map((o) => (
                <Choice
                  key={o.id}
                  type="radio"
                  name={`values.${v.id}`}
                  value={o.id}
                  checked={(read[v.id] ?? '') === o.id}
                  onChange={() => setRead({ ...read, [v.id]: o.id })}
                >
                  {o.say}
                </Choice>
              ))}
            </div>
          </fieldset>
        ))}
        <Cautions state={cautions} />
        <Button
          type="submit"
          variant="contained"
          loading={act.busy}
          disabled={chosen.length === 0 || !cautions.clear}
          sx={{ minHeight: 56, justifySelf: 'start' }}
        >
          Save the live data
        </Button>
        {act.said && <p role="status">{act.said}</p>}
      </Form>
    </section>
  );
}
