import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useEffect, useEffectEvent, useState } from 'react';
import { effectNames, effects } from '../../core/library';
import type { ShownOption } from '../../core/options';
import { amountText, type Decimals } from '../../core/quote';
import { Choice } from '../ui/Choice';
import type { useAct } from '../ui/useAct';
import styles from './options.module.css';

type Name = 'title' | 'what' | 'minutes' | 'parts' | 'daysLow' | 'daysHigh' | 'warranty' | 'unproven' | 'reason';
const labels: Readonly<Record<Name, string>> = {
  title: 'Title',
  what: 'What is done',
  minutes: 'Work, min',
  parts: 'Parts, without tax',
  daysLow: 'Days, at least',
  daysHigh: 'Days, at most',
  warranty: 'Warranty',
  unproven: 'Stays unproven',
  reason: 'Why, without names',
};
const numbers: readonly Name[] = ['minutes', 'parts', 'daysLow', 'daysHigh'];

/** Writes over an option, or adds one of the shop's own; only what is changed is sent. */
export function OptionForm({
  act,
  option,
  decimals = 2,
  done,
}: {
  act: ReturnType<typeof useAct>;
  option?: ShownOption;
  decimals?: number;
  done: () => void;
}) {
  const before: Readonly<Record<Name, string>> = {
    title: option?.title ?? '',
    what: option?.what ?? '',
    minutes: option ? String(Math.round(option.minutes.low)) : '',
    parts: option
      ? amountText(
          option.entries.reduce((n, e) => n + (e.kind === 'priced' ? e.amount : 0), 0),
          decimals as Decimals,
        )
      : '',
    daysLow: option ? String(option.days.low) : '',
    daysHigh: option ? String(option.days.high) : '',
    warranty: option?.warranty ?? '',
    unproven: option?.unproven ?? '',
    reason: '',
  };
  const [fields, setFields] = useState(before);
  const [effect, setEffect] = useState<string[]>([]);
  const [sent, setSent] = useState(false);
  const close = useEffectEvent(done);
  const { said, busy } = act;
  useEffect(() => {
    if (sent && !busy && said !== '') close();
  }, [sent, busy, said]);
  const field = (name: Name) => (
    <TextField
      key={name}
      name={name}
      label={labels[name]}
      value={fields[name]}
      required={name === 'reason' || (name === 'title' && !option)}
      onChange={(event) => setFields((f) => ({ ...f, [name]: event.target.value }))}
      error={name in act.errors}
      helperText={act.errors[name]}
      size="small"
      slotProps={{ htmlInput: { maxLength: name === 'what' ? 400 : 300, ...(numbers.includes(name) ? { inputMode: 'decimal' as const } : {}) } }}
    />
  );
  return (
    <form
      className={styles.form}
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        const changed = Object.fromEntries(
          Object.entries(fields).filter(([name, value]) => name === 'reason' || !option || value !== before[name as Name]),
        );
        setSent(true);
        act.sendJson(option ? { intent: 'change', option: option.id, ...changed } : { intent: 'add', ...changed, effects: effect });
      }}
    >
      {field('title')}
      {field('what')}
      <div className={styles.four}>{numbers.map(field)}</div>
      <div className={styles.two}>
        {field('warranty')}
        {field('unproven')}
      </div>
      {!option && (
        <fieldset className={styles.effects}>
          <legend>What it does to keys and modules</legend>
          {effects
            .filter((e) => e !== 'none')
            .map((e) => (
              <Choice
                key={e}
                type="checkbox"
                checked={effect.includes(e)}
                onChange={(event) => setEffect((all) => (event.target.checked ? [...all, e] : all.filter((x) => x !== e)))}
              >
                {effectNames[e]}
              </Choice>
            ))}
        </fieldset>
      )}
      {field('reason')}
      <div className={styles.row}>
        <Button type="submit" variant="contained" loading={busy}>
          {option ? 'Save the change' : 'Add it'}
        </Button>
        <Button color="inherit" onClick={done}>
          Leave it
        </Button>
      </div>
    </form>
  );
}
