import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMemo, useState } from 'react';
import type { ParamValues } from '../../../core/library';
import { addedAfter, linesOf, moved, movedBy, type Procedure, redirected, refigured, reworded, type Step, without } from '../../../core/procedure';
import type { StepNote } from '../../../server/runs/notes';
import { Choice } from '../../ui/Choice';
import { ProblemSummary } from '../../ui/problems';
import type { useAct } from '../../ui/useAct';
import { useKept } from '../../ui/useKept';
import { CopyRow } from './CopyRow';
import { SortableList } from './SortableList';
import { TimeLine } from './TimeLine';
import styles from './procedure.module.css';

interface Sheet {
  title: string;
  source: string;
  steps: Step[];
}
/** What the browser kept of a sheet, if its steps still can be shown; the server reads them by the schema. */
const keptSheet = (kept: unknown): Sheet | undefined => {
  const sheet = kept as Partial<Sheet> | null;
  if (typeof sheet?.title !== 'string' || typeof sheet.source !== 'string' || !Array.isArray(sheet.steps)) return undefined;
  try {
    return linesOf(sheet.steps).every((l) => typeof l.id === 'string' && typeof l.words === 'string') ? (sheet as Sheet) : undefined;
  } catch {
    return undefined;
  }
};

/** As many changes can be taken back. */
const mostUndone = 50;

/** A shop's own copy, step by step: order, words, figures and where answers lead, what is left out and what is added; what a step records stays. */
export function CopyEditor({
  procedure,
  notes,
  values,
  cautions,
  act,
}: {
  procedure: Procedure;
  notes: readonly StepNote[];
  values: ParamValues;
  cautions: readonly { id: string }[];
  act: Pick<ReturnType<typeof useAct>, 'sendJson' | 'busy' | 'errors'>;
}) {
  const [start] = useState((): Sheet => ({ title: procedure.title, source: procedure.source, steps: procedure.steps }));
  const [sheet, setSheet] = useKept<Sheet>(`procedure.${procedure.id}.${procedure.version}`, start, keptSheet);
  const [past, setPast] = useState<Step[][]>([]);
  const [check, setCheck] = useState(false);
  const [last, setLast] = useState('');
  /** @param what typing on in one field is one change; what stands alone has no name */
  const put = (steps: Step[], what = '') => {
    if (what === '' || what !== last) setPast((p) => [...p, sheet.steps].slice(-mostUndone));
    setLast(what);
    setSheet({ ...sheet, steps });
  };
  const undo = () => {
    setLast('');
    setSheet({ ...sheet, steps: past.at(-1)! });
    setPast(past.slice(0, -1));
  };
  const lines = linesOf(sheet.steps);
  const built = useMemo(() => ({ ...procedure, steps: sheet.steps }), [procedure, sheet.steps]);
  const save = () =>
    act.sendJson({
      intent: 'steps',
      from: procedure.version,
      title: sheet.title,
      source: sheet.source,
      steps: sheet.steps,
      ...(check ? { check: 'on' } : {}),
    });
  /** Steps, without the heads of loops and cases, in their order. */
  const numbered = lines.filter((l) => l.place && l.words !== '').map((l) => l.id);
  return (
    <div className={styles.editor}>
      <ProblemSummary errors={act.errors} />
      <section className={styles.head} aria-label="About the procedure">
        <TextField
          label="Title"
          value={sheet.title}
          onChange={(e) => setSheet({ ...sheet, title: e.target.value })}
          error={'title' in act.errors}
          helperText={act.errors.title}
          slotProps={{ htmlInput: { maxLength: 120 } }}
        />
        <TextField
          label="Source"
          value={sheet.source}
          onChange={(e) => setSheet({ ...sheet, source: e.target.value })}
          error={'source' in act.errors}
          helperText={act.errors.source ?? 'Document and page, and who changed what'}
          multiline
          slotProps={{ htmlInput: { maxLength: 600 } }}
        />
      </section>
      <TimeLine procedure={built} values={values} cautions={cautions} />
      <section aria-label="Steps">
        <h2>Steps</h2>
        <p className="quiet">
          Move a step by its number or with the arrows, inside its cycle or case. What it records in a case stays. Names in braces and names after a
          dollar sign stand for the vehicle’s numbers.
        </p>
        <SortableList ids={lines.flatMap((l) => (l.place ? [l.id] : []))} onMove={(id, to) => put(moved(sheet.steps, id, to))}>
          <ol className={styles.steps}>
            {lines.map((line) => (
              <CopyRow
                key={line.id}
                line={line}
                n={numbered.indexOf(line.id) + 1}
                notes={notes.filter((note) => note.step === line.id)}
                stops={procedure.stops}
                refigure={(name, value) => put(refigured(sheet.steps, line.id, name, value), `${line.id} ${name}`)}
                redirect={(to) => put(redirected(sheet.steps, line.id, to))}
                reword={(to) => put(reworded(sheet.steps, line.id, to), `${line.id} ${Object.keys(to).join()}`)}
                move={(by) => put(movedBy(sheet.steps, line.id, by))}
                leaveOut={() => put(without(sheet.steps, line.id))}
                addAfter={() => put(addedAfter(sheet.steps, line.id, 'New step.'))}
              />
            ))}
          </ol>
        </SortableList>
      </section>
      <div className={styles.save}>
        <Button variant="outlined" color="inherit" disabled={past.length === 0} onClick={undo}>
          Undo the last change
        </Button>
        <Choice type="checkbox" checked={check} onChange={(e) => setCheck(e.target.checked)}>
          I compared every step with the source
        </Choice>
        <Button variant="contained" size="large" loading={act.busy} onClick={save}>
          Save the procedure
        </Button>
      </div>
    </div>
  );
}
