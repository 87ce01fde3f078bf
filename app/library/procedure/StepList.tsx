import Button from '@mui/material/Button';
import { arrayMove } from '@dnd-kit/sortable';
import type { EditedStep } from './figures';
import type { Sheet } from './sheet';
import { SortableList } from './SortableList';
import { StepRow } from './StepRow';
import styles from './procedure.module.css';

/** The steps of a text in their order. */
export function StepList({ sheet, setSheet }: { sheet: Sheet; setSheet: (to: (s: Sheet) => Sheet) => void }) {
  const order = (from: number, to: number) =>
    setSheet((s) => ({ ...s, steps: to < 0 || to >= s.steps.length ? s.steps : arrayMove(s.steps, from, to) }));
  const at = (id: string) => sheet.steps.findIndex((s) => s.id === id);
  const change = (id: string, to: Partial<EditedStep>) => setSheet((s) => ({ ...s, steps: s.steps.map((x) => (x.id === id ? { ...x, ...to } : x)) }));
  const add = () => {
    setSheet((s) => {
      const next = 1 + Math.max(0, ...s.steps.map((x) => Number(/\d+$/.exec(x.id)?.[0] ?? 0)));
      return { ...s, steps: [...s.steps, { id: `s${next}`, kind: 'do', text: '', line: 1, figures: {}, sure: false, out: false, said: '' }] };
    });
  };
  return (
    <section aria-label="Steps">
      <h2>Steps</h2>
      <p className="quiet">Each beside its sentence. Move a step by its number, or with the arrows.</p>
      <SortableList ids={sheet.steps.map((s) => s.id)} onMove={(id, to) => order(at(id), at(to))}>
        <ol className={styles.steps}>
          {sheet.steps.map((step, i) => (
            <StepRow
              key={step.id}
              step={step}
              n={i + 1}
              earlier={sheet.steps.slice(0, i).flatMap((s, k) => (s.out ? [] : [{ id: s.id, say: `${k + 1}: ${s.text.slice(0, 50)}` }]))}
              put={(to) => change(step.id, to)}
              move={(by) => order(i, i + by)}
            />
          ))}
        </ol>
      </SortableList>
      <div className={styles.tools}>
        <Button variant="outlined" color="inherit" onClick={add}>
          Add a step
        </Button>
        <Button
          variant="outlined"
          color="inherit"
          onClick={() => setSheet((s) => ({ ...s, steps: s.steps.map((x) => (x.doubt ? x : { ...x, sure: true })) }))}
        >
          Those that are not marked are right
        </Button>
      </div>
    </section>
  );
}
