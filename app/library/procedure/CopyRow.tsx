import { useSortable } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { Link } from 'react-router';
import type { EditLine, Lead, Procedure, Reworded } from '../../../core/procedure';
import type { StepNote } from '../../../server/runs/notes';
import { CopyFigures, CopyLeads } from './CopyFigures';
import styles from './procedure.module.css';

/** What each kind is called here. */
const kindWords: Readonly<Record<EditLine['kind'], string>> = {
  do: 'Do',
  confirm: 'Confirm first',
  value: 'Measure',
  wait: 'Wait, with a clock',
  observe: 'Look and answer',
  hold: 'Hold, with a clock',
  count: 'Count',
  message: 'A message that must come',
  twoEntry: 'Type twice',
  file: 'A file that is read',
  reading: 'Measured with an instrument',
  choice: 'Choose',
  commitment: 'Point of no return',
  repeat: 'Cycles: the steps below are repeated',
  each: 'For each further key: the steps below',
  use: 'Shared steps',
  case: 'Only then',
};

/** One line of a copy: its words, its figures, what can be answered and where that leads, what was noted there, and where it may go. */
export function CopyRow({
  line,
  n,
  notes,
  stops,
  reword,
  refigure,
  redirect,
  move,
  leaveOut,
  addAfter,
}: {
  line: EditLine;
  /** Its number among the steps; 0: the head of a loop or case. */
  n: number;
  notes: readonly StepNote[];
  stops: Procedure['stops'];
  reword: (to: Reworded) => void;
  refigure: (name: EditLine['figures'][number]['name'], value: string) => void;
  redirect: (to: Lead) => void;
  move: (by: -1 | 1) => void;
  leaveOut: () => void;
  addAfter: () => void;
}) {
  const { place } = line;
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: line.id, disabled: !place });
  const name = n > 0 ? `Step ${n}` : kindWords[line.kind];
  const indent = { marginLeft: `clamp(0px, ${line.depth} * 3vw, ${line.depth * 28}px)` };
  if (!place)
    return (
      <li style={indent} className={styles.case}>
        {kindWords.case}: <b>{line.words}</b>
      </li>
    );
  const who = n > 0 ? `step ${n}` : name;
  return (
    <li
      ref={setNodeRef}
      className={styles.row}
      style={{ ...indent, transform: CSS.Translate.toString(transform), ...(transition ? { transition } : {}) }}
      data-dragging={isDragging || undefined}
      aria-label={name}
    >
      <button type="button" className={styles.handle} {...attributes} {...listeners} aria-label={`Move ${who}`}>
        {n > 0 ? n : '↻'}
      </button>
      <div className={styles.body}>
        <p className="quiet">{kindWords[line.kind]}</p>
        {n > 0 && (
          <TextField
            label={`${name}, words`}
            size="small"
            multiline
            value={line.words}
            onChange={(e) => reword({ words: e.target.value })}
            error={line.words.trim() === ''}
            helperText={line.words.trim() === '' ? 'Write what is to be done.' : undefined}
            slotProps={{ htmlInput: { maxLength: 600 } }}
          />
        )}
        {line.hint !== null && (
          <TextField
            label={`${name}, hint`}
            size="small"
            multiline
            value={line.hint}
            onChange={(e) => reword({ hint: e.target.value })}
            slotProps={{ htmlInput: { maxLength: 600 } }}
          />
        )}
        {Object.keys(line.says).length > 0 && (
          <div className={styles.figures}>
            {Object.entries(line.says).map(([answer, say]) => (
              <TextField
                key={answer}
                label={`${name}, answer`}
                size="small"
                value={say}
                onChange={(e) => reword({ says: { [answer]: e.target.value } })}
                slotProps={{ htmlInput: { maxLength: 120 } }}
              />
            ))}
          </div>
        )}
        <CopyFigures line={line} name={n > 0 ? name : 'Cycles'} refigure={refigure} />
        <CopyLeads line={line} who={who} stops={stops} redirect={redirect} />
        <CopyNotes line={line} who={who} notes={notes} reword={reword} />
        <div className={styles.tools}>
          <Button variant="text" color="inherit" onClick={() => move(-1)} disabled={place.at === 0}>
            Up<span className="hidden">{who}</span>
          </Button>
          <Button variant="text" color="inherit" onClick={() => move(1)} disabled={place.at === place.of - 1}>
            Down<span className="hidden">{who}</span>
          </Button>
          <Button variant="text" color="inherit" onClick={leaveOut} disabled={place.of === 1}>
            Leave out<span className="hidden">{who}</span>
          </Button>
          <Button variant="text" color="inherit" onClick={addAfter}>
            Add a step after<span className="hidden">{who}</span>
          </Button>
        </div>
      </div>
    </li>
  );
}

/** What was noted at this step in runs, with a way into its hint. */
function CopyNotes({ line, who, notes, reword }: { line: EditLine; who: string; notes: readonly StepNote[]; reword: (to: Reworded) => void }) {
  return (
    <>
      {notes.map((note, i) => (
        <p key={i} className={styles.note}>
          “{note.note}”{' '}
          <span className="quiet">
            {note.by}, in <Link to={`/cases/${note.caseId}`}>a run</Link>
          </span>{' '}
          {line.hint !== null && (
            <Button
              size="small"
              variant="outlined"
              color="inherit"
              disabled={line.hint.includes(note.note)}
              onClick={() => reword({ hint: [line.hint, note.note].filter(Boolean).join(' ').slice(0, 600) })}
            >
              Add to the hint<span className="hidden"> of {who}</span>
            </Button>
          )}
        </p>
      ))}
    </>
  );
}
