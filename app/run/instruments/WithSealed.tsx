import Button from '@mui/material/Button';
import { useEffect, useState } from 'react';
import type { Problem } from '../../../core/units';
import { Choice } from '../../ui/Choice';
import { newCommandId } from '../../ui/commandId';
import styles from './instruments.module.css';

interface Secret {
  id: string;
  name: string;
}

/** The sealed secrets of the case; null until they are known, empty where nobody answers: then two equal entries must do. */
export function useSealed(caseId: number | undefined, wanted: boolean): Secret[] | null {
  const [secrets, setSecrets] = useState<Secret[] | null>(null);
  useEffect(() => {
    if (!wanted || caseId === undefined) return;
    let gone = false;
    fetch(`/cases/${caseId}/vault/secrets`, { headers: { Accept: 'application/json' } })
      .then(async (answer) => (answer.ok ? ((await answer.json()) as { secrets: Secret[] }).secrets : []))
      .catch(() => [])
      .then((found) => {
        if (!gone) setSecrets(found);
      });
    return () => {
      gone = true;
    };
  }, [caseId, wanted]);
  return wanted ? secrets : [];
}

async function compare(caseId: number, item: string, text: string): Promise<{ equal: boolean } | { problem: string }> {
  try {
    const answer = await fetch(`/cases/${caseId}/vault/secrets`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', Accept: 'application/json' },
      body: JSON.stringify({ intent: 'compare', item, text, commandId: newCommandId() }),
    });
    const body = (await answer.json()) as { equal?: boolean; problems?: Problem[] };
    return body.equal === undefined ? { problem: body.problems?.[0]?.message ?? 'The server refused this. Try again.' } : { equal: body.equal };
  } catch {
    return { problem: 'No answer from the server. Try again.' };
  }
}

/** Two equal entries, held against the sealed original before the run goes on: two people may misread the same digit. */
export function WithSealed({
  caseId,
  secrets,
  text,
  busy,
  go,
}: {
  caseId: number;
  secrets: readonly Secret[];
  text: string;
  busy: boolean;
  go: (sealed?: string) => void;
}) {
  const [chosen, setChosen] = useState(secrets[0]!.id);
  const [said, setSaid] = useState('');
  const [asking, setAsking] = useState(false);
  const ask = async () => {
    setAsking(true);
    setSaid('');
    const answer = await compare(caseId, chosen, text);
    setAsking(false);
    if ('problem' in answer) return setSaid(answer.problem);
    if (answer.equal) return go(secrets.find((s) => s.id === chosen)!.name);
    setSaid('Both entries are equal, but they differ from the sealed one. Don’t use them: type both again from the original.');
  };
  return (
    <>
      <fieldset className={styles.row}>
        <legend>Compare with the sealed</legend>
        {secrets.map((s) => (
          <Choice key={s.id} type="radio" name="sealed" value={s.id} checked={chosen === s.id} onChange={() => setChosen(s.id)}>
            {s.name}
          </Choice>
        ))}
      </fieldset>
      {said !== '' && (
        <p role="alert" className={styles.problem}>
          {said}
        </p>
      )}
      <Button variant="contained" size="large" loading={busy || asking} onClick={() => void ask()}>
        Compare and go on
      </Button>
    </>
  );
}
