import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link } from 'react-router';
import { ProblemSummary } from '../ui/problems';
import { useAct } from '../ui/useAct';
import bench from './bench.module.css';

/**
 * Sends what an instrument read to a case, once: what was sent rests until something else was read.
 * @param name of the instrument
 * @param state everything that was read, as text
 * @param say what it is in words, where it may arrive later
 */
export function useAddToCase(name: string, state: string, say?: string) {
  const act = useAct<{ said: string }>(name);
  const [sent, setSent] = useState('');
  const done = sent === state && !act.busy && act.said !== '';
  return {
    ...act,
    done,
    add: (body: Record<string, unknown>) => {
      if (done) return;
      setSent(state);
      act.sendJson({ intent: 'measure', ...body }, undefined, say === undefined ? undefined : { say });
    },
  };
}

/** What was wrong, where it went, and the button; or that no case is chosen yet. */
export function AddToCase({
  adding,
  chosen,
  ready,
  onAdd,
  note,
}: {
  adding: ReturnType<typeof useAddToCase>;
  chosen: { id: number; number: string } | null;
  /** Something was read that a case can take. */
  ready: boolean;
  onAdd: () => void;
  /** What to know before it is added. */
  note?: string | false;
}) {
  return (
    <>
      <ProblemSummary errors={adding.errors} />
      <div className={bench.foot}>
        {note && <p className="quiet">{note}</p>}
        {chosen ? (
          <>
            {adding.done && (
              <p role="status">
                {adding.said} <Link to={`/cases/${chosen.id}`}>Go to case {chosen.number}</Link>
              </p>
            )}
            <Button variant="contained" size="large" loading={adding.busy} disabled={!ready || adding.done} onClick={onAdd}>
              Add to case {chosen.number}
            </Button>
          </>
        ) : (
          <p className="quiet">Choose the case to add this to.</p>
        )}
      </div>
    </>
  );
}
