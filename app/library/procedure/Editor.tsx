import { closestCenter, DndContext, type DragEndEvent, KeyboardSensor, PointerSensor, useSensor, useSensors } from '@dnd-kit/core';
import { arrayMove, SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useMemo, useState } from 'react';
import { type Effect, gates, type ParamValues } from '../../../core/library';
import { compile, draftOf, lint, outline, type Procedure, procedureOf, repeatedFromLine, type Written } from '../../../core/procedure';
import { Sequence } from '../../run/Sequence';
import { Choice } from '../../ui/Choice';
import { ProblemSummary } from '../../ui/problems';
import type { useAct } from '../../ui/useAct';
import { useKept } from '../../ui/useKept';
import { type EditedStep, edited, written } from './figures';
import { StepRow } from './StepRow';
import styles from './procedure.module.css';

interface Sheet {
  text: string;
  title: string;
  family: string;
  source: string;
  effect: Effect;
  cautions: string[];
  noReturn: string;
  steps: EditedStep[];
}

interface Given {
  procedure: Procedure | null;
  head: { title: string; family: string; source: string; effect: Effect; cautions: string[] } | null;
  families: readonly { id: string; title: string }[];
  cautions: readonly { id: string; say: string }[];
  values: ParamValues;
  asked: string;
}

/** The sentences of a text by the name that each has as a step. */
const saidBy = (text: string): Record<string, string> => Object.fromEntries(draftOf(text).steps.map((s, i) => [`s${i + 1}`, s.text]));

function startOf({ procedure, head, families, asked }: Given): Sheet {
  const from = procedure?.written;
  const said = saidBy(from?.text ?? '');
  return {
    text: from?.text ?? '',
    title: head?.title ?? '',
    family: head?.family ?? (families.some((f) => f.id === asked) ? asked : ''),
    source: head?.source ?? '',
    effect: head?.effect ?? 'replacesKeys',
    cautions: head?.cautions ?? [],
    noReturn: from?.noReturn ?? '',
    steps: from?.steps.map((s) => edited(s, s.id, said[s.id] ?? '', true)) ?? [],
  };
}

/** What the browser kept of a sheet, if it still is one. */
const keptSheet = (kept: unknown): Sheet | undefined => {
  const sheet = kept as Partial<Sheet> | null;
  return typeof sheet?.text === 'string' &&
    Array.isArray(sheet.steps) &&
    sheet.steps.every((s) => typeof s?.id === 'string' && typeof s.figures === 'object')
    ? (sheet as Sheet)
    : undefined;
};

/** The procedure as it would be saved now; the server reads it again by its schema. */
function builtOf(sheet: Sheet): { procedure: Procedure; written: Written } {
  const steps = sheet.steps.filter((s) => !s.out).map((s) => written(s).step);
  const whole: Written = {
    text: sheet.text,
    steps,
    ...(sheet.noReturn && steps.some((s) => s.id === sheet.noReturn) ? { noReturn: sheet.noReturn } : {}),
  };
  const { title, family, source, effect, cautions } = sheet;
  return {
    procedure: procedureOf({ id: 'shop', version: 1, title, family, source, checked: null, effect, cautions }, whole) as Procedure,
    written: whole,
  };
}

/** From a pasted text to a procedure: its steps beside their sentences, the time line and what the lint says, at each change. */
export function Editor({ d, act }: { d: Given; act: Pick<ReturnType<typeof useAct>, 'sendJson' | 'busy' | 'errors'> }) {
  const [start] = useState(() => startOf(d));
  const [sheet, setSheet] = useKept<Sheet>(`procedure.${d.procedure ? `${d.procedure.id}.${d.procedure.version}` : 'new'}`, start, keptSheet);
  const put = (change: Partial<Sheet>) => setSheet((s) => ({ ...s, ...change }));
  const [check, setCheck] = useState(false);
  const [unread, setUnread] = useState(false);
  const read = () => {
    const draft = draftOf(sheet.text);
    if (draft.steps.length === 0) return setUnread(true);
    setUnread(false);
    const unsure = new Set(draft.unsure);
    // "Repeat steps 2 to 4" names where it begins.
    const begins = (said: string) => {
      const line = repeatedFromLine(sheet.text, said);
      const at = line === undefined ? -1 : draft.steps.findIndex((s) => s.line === line);
      return at < 0 ? {} : { from: `s${at + 1}` };
    };
    put({
      steps: draft.steps.map((s, i) => ({
        ...edited({ ...s, ...(s.kind === 'repeat' ? begins(s.text) : {}) }, `s${i + 1}`, s.text, false),
        doubt: unsure.has(s.line),
      })),
      noReturn: '',
      ...(sheet.title === '' && draft.title ? { title: draft.title } : {}),
    });
  };
  const open = sheet.steps.filter((s) => !s.out && !s.sure);
  const save = () => {
    const { written: whole } = builtOf(sheet);
    const { title, family, source, effect, cautions } = sheet;
    act.sendJson({
      intent: 'save',
      from: d.procedure?.version ?? 0,
      title,
      family,
      source,
      effect,
      cautions,
      written: whole,
      ...(check ? { check: 'on' } : {}),
    });
  };
  return (
    <div className={styles.editor}>
      <ProblemSummary errors={act.errors} />
      <section className={styles.text} aria-label="Text">
        <TextField
          label="Text of the service information"
          multiline
          minRows={sheet.steps.length === 0 ? 10 : 3}
          maxRows={14}
          value={sheet.text}
          onChange={(e) => put({ text: e.target.value })}
          error={unread}
          helperText={
            unread
              ? 'There is no sentence in it. Paste the text of the procedure.'
              : 'As it is written: numbered, prose or a table; seconds, minutes, half an hour.'
          }
          slotProps={{ htmlInput: { maxLength: 20_000 } }}
        />
        <Button variant={sheet.steps.length === 0 ? 'contained' : 'outlined'} color={sheet.steps.length === 0 ? 'primary' : 'inherit'} onClick={read}>
          {sheet.steps.length === 0 ? 'Read the text' : 'Read it again: starts the steps over'}
        </Button>
      </section>
      {sheet.steps.length > 0 && (
        <>
          <Head sheet={sheet} put={put} d={d} errors={act.errors} />
          <TimeLine sheet={sheet} values={d.values} cautions={d.cautions} />
          <StepList sheet={sheet} setSheet={setSheet} />
          <div className={styles.save}>
            {open.length > 0 && (
              <p role="status">
                {open.length === 1 ? 'One step is' : `${open.length} steps are`} not checked yet:{' '}
                {open
                  .slice(0, 6)
                  .map((s) => sheet.steps.indexOf(s) + 1)
                  .join(', ')}
                {open.length > 6 && ' …'}.
              </p>
            )}
            <Choice type="checkbox" checked={check} onChange={(e) => setCheck(e.target.checked)}>
              I compared every step with the source
            </Choice>
            <Button variant="contained" size="large" disabled={open.length > 0} loading={act.busy} onClick={save}>
              Save the procedure
            </Button>
          </div>
        </>
      )}
    </div>
  );
}

/** What it is of, where it is from, what it does to keys, and where there is no way back. */
function Head({ sheet, put, d, errors }: { sheet: Sheet; put: (c: Partial<Sheet>) => void; d: Given; errors: Record<string, string> }) {
  const steps = sheet.steps.filter((s) => !s.out);
  return (
    <section className={styles.head} aria-label="About the procedure">
      <TextField
        label="Title"
        value={sheet.title}
        onChange={(e) => put({ title: e.target.value })}
        error={'title' in errors}
        helperText={errors.title ?? 'What it does, on which vehicle'}
        slotProps={{ htmlInput: { maxLength: 120 } }}
      />
      <TextField
        label="System type"
        select
        value={sheet.family}
        onChange={(e) => put({ family: e.target.value })}
        error={'family' in errors}
        helperText={errors.family}
        slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
      >
        <MenuItem value="" disabled>
          Choose
        </MenuItem>
        {d.families.map((f) => (
          <MenuItem key={f.id} value={f.id}>
            {f.title}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        label="Source"
        value={sheet.source}
        onChange={(e) => put({ source: e.target.value })}
        error={'source' in errors}
        helperText={errors.source ?? 'Document and page'}
        slotProps={{ htmlInput: { maxLength: 600 } }}
      />
      <TextField
        label="What it does to the vehicle"
        select
        value={sheet.effect}
        onChange={(e) => put({ effect: e.target.value as Effect })}
        helperText={gates[sheet.effect].says}
      >
        {Object.keys(gates).map((e) => (
          <MenuItem key={e} value={e}>
            {effectWords[e as Effect]}
          </MenuItem>
        ))}
      </TextField>
      {gates[sheet.effect].authority && (
        <TextField
          label="Point of no return, before"
          select
          value={steps.some((s) => s.id === sheet.noReturn) ? sheet.noReturn : ''}
          onChange={(e) => put({ noReturn: e.target.value })}
          helperText="From there on keys or modules are changed"
          slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
        >
          <MenuItem value="" disabled>
            Choose a step
          </MenuItem>
          {steps.map((s) => (
            <MenuItem key={s.id} value={s.id}>
              {sheet.steps.indexOf(s) + 1}: {s.text.slice(0, 60)}
            </MenuItem>
          ))}
        </TextField>
      )}
      <TextField
        label="Further cautions"
        select
        value={sheet.cautions}
        onChange={(e) => put({ cautions: e.target.value as unknown as string[] })}
        helperText="Those that the words of a step ask for stand there by themselves"
        slotProps={{ select: { multiple: true } }}
      >
        {d.cautions.map((c) => (
          <MenuItem key={c.id} value={c.id}>
            {c.say}
          </MenuItem>
        ))}
      </TextField>
    </section>
  );
}

const effectWords: Readonly<Record<Effect, string>> = {
  none: 'Nothing is changed',
  lockout: 'It may start a lockout',
  alarm: 'It may sound the alarm',
  replacesKeys: 'Stored keys are replaced',
  addsKey: 'A key is added',
  writes: 'A module is written',
  reveals: 'A secret is read',
  standsIn: 'Something stands in for the key',
  bypass: 'A protection is bypassed',
};

/** The run as it would be, and what is wrong with it. */
function TimeLine({ sheet, values, cautions }: { sheet: Sheet; values: ParamValues; cautions: Given['cautions'] }) {
  const found = useMemo(() => {
    try {
      const { procedure } = builtOf(sheet);
      const report = lint(procedure, values, { cautions: new Set(cautions.map((c) => c.id)) });
      return { report, marks: outline(compile(procedure), values, ['A', 'B']) };
    } catch {
      // A step that points at one which is gone: said beside it.
      return null;
    }
  }, [sheet, values, cautions]);
  if (!found) return null;
  const errors = found.report.problems.filter((p) => p.severity === 'error');
  return (
    <section className={styles.line} aria-label="Time line">
      <Sequence marks={found.marks} wait={undefined} now={0} />
      {errors.length === 0 ? (
        <p role="status">
          About {Math.round(found.report.expectedMinutes)} min with two keys, {Math.round(found.report.minMinutes)} min of it waiting.
        </p>
      ) : (
        <div className={styles.problems} role="status">
          <ul>
            {errors.slice(0, 5).map((p) => (
              <li key={p.path + p.code}>{p.code === 'noCommitment' ? 'Choose the point of no return above.' : p.message}</li>
            ))}
          </ul>
        </div>
      )}
    </section>
  );
}

function StepList({ sheet, setSheet }: { sheet: Sheet; setSheet: (to: (s: Sheet) => Sheet) => void }) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const order = (from: number, to: number) =>
    setSheet((s) => ({ ...s, steps: to < 0 || to >= s.steps.length ? s.steps : arrayMove(s.steps, from, to) }));
  const dropped = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return;
    const at = (id: unknown) => sheet.steps.findIndex((s) => s.id === id);
    order(at(active.id), at(over.id));
  };
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
      <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={dropped}>
        <SortableContext items={sheet.steps.map((s) => s.id)} strategy={verticalListSortingStrategy}>
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
        </SortableContext>
      </DndContext>
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
