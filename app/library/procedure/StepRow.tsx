import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { type DraftKind, draftKinds } from '../../../core/procedure';
import { Choice } from '../../ui/Choice';
import { QuantityField } from '../../ui/QuantityField';
import { type EditedStep, figuresOf, kindWords, written } from './figures';
import styles from './procedure.module.css';

/** One step: beside the sentence it came from, what kind it is, its words and figures; moved by its handle or its arrows. */
export function StepRow({
  step,
  n,
  earlier,
  put,
  move,
}: {
  step: EditedStep;
  n: number;
  /** Steps before it, that a repeat may begin with. */
  earlier: readonly { id: string; say: string }[];
  put: (change: Partial<EditedStep>) => void;
  move: (by: -1 | 1) => void;
}) {
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: step.id });
  const { problems } = written(step);
  const name = `Step ${n}`;
  const mended = step.text.trim() !== step.said.trim();
  return (
    <li
      ref={setNodeRef}
      className={styles.row}
      style={{ transform: CSS.Translate.toString(transform), ...(transition ? { transition } : {}) }}
      data-out={step.out || undefined}
      data-unsure={!step.sure || undefined}
      data-dragging={isDragging || undefined}
      aria-label={name}
    >
      <button type="button" className={styles.handle} {...attributes} {...listeners} aria-label={`Move step ${n}`}>
        {n}
      </button>
      <div className={styles.body}>
        {step.said !== '' && mended && (
          <p className="quiet">
            Line {step.line}: “{step.said}”
          </p>
        )}
        {step.doubt && !step.sure && <p className={styles.doubt}>Not all of it was understood. Check its figures.</p>}
        <TextField
          label={`${name}, words`}
          value={step.text}
          onChange={(e) => put({ text: e.target.value, sure: false })}
          multiline
          size="small"
          disabled={step.out}
          error={problems.text !== undefined}
          helperText={problems.text}
          slotProps={{ htmlInput: { maxLength: 600 } }}
        />
        <div className={styles.figures}>
          <TextField
            label="Kind"
            select
            size="small"
            value={step.kind}
            disabled={step.out}
            onChange={(e) => put({ kind: e.target.value as DraftKind, sure: false })}
          >
            {draftKinds.map((k) => (
              <MenuItem key={k} value={k}>
                {kindWords[k]}
              </MenuItem>
            ))}
          </TextField>
          {figuresOf[step.kind].map((f) => (
            <QuantityField
              key={f.name}
              label={f.label}
              size="small"
              disabled={step.out}
              quantity={f.quantity}
              value={step.figures[f.name] ?? ''}
              onText={(text) => put({ figures: { ...step.figures, [f.name]: text }, sure: false })}
              problem={problems[f.name]}
            />
          ))}
          {step.kind === 'repeat' && (
            <TextField
              label="From"
              select
              size="small"
              value={earlier.some((e) => e.id === step.from) ? step.from : ''}
              disabled={step.out}
              slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
              onChange={(e) => put({ from: e.target.value, sure: false })}
            >
              <MenuItem value="">after the last repeat</MenuItem>
              {earlier.map((e) => (
                <MenuItem key={e.id} value={e.id}>
                  {e.say}
                </MenuItem>
              ))}
            </TextField>
          )}
        </div>
        <div className={styles.tools}>
          <Choice type="checkbox" checked={step.sure} disabled={step.out} onChange={(e) => put({ sure: e.target.checked })}>
            Checked<span className="hidden">step {n}</span>
          </Choice>
          <Button variant="text" color="inherit" onClick={() => move(-1)} disabled={n === 1}>
            Up<span className="hidden">step {n}</span>
          </Button>
          <Button variant="text" color="inherit" onClick={() => move(1)}>
            Down<span className="hidden">step {n}</span>
          </Button>
          <Button variant="text" color="inherit" onClick={() => put({ out: !step.out })}>
            {step.out ? 'Put back' : 'Leave out'}
            <span className="hidden">step {n}</span>
          </Button>
        </div>
      </div>
    </li>
  );
}
