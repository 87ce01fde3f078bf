import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMemo, useState } from 'react';
import { draftOf, repeatedFromLine } from '../../../core/procedure';
import { Choice } from '../../ui/Choice';
import { ProblemSummary } from '../../ui/problems';
import type { useAct } from '../../ui/useAct';
import { useKept } from '../../ui/useKept';
import { edited } from './figures';
import { Head } from './Head';
import { builtOf, type Given, keptSheet, type Sheet, startOf } from './sheet';
import { StepList } from './StepList';
import { TimeLine } from './TimeLine';
import styles from './procedure.module.css';

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
  const built = useMemo(() => {
    try {
      return builtOf(sheet).procedure;
    } catch {
      // A step points at one that is gone.
      return null;
    }
  }, [sheet]);
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
              ? 'No sentence found. Paste the text of the procedure.'
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
          <TimeLine procedure={built} values={d.values} cautions={d.cautions} />
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
