import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import { type Layout, type LayoutField, type MemoryImage, writeIntelHex, writeRaw, writeSlot, writeSRecord } from '../../../core/memory';
import { Field } from '../../intake/parts';
import { stateWords } from '../../memory/MemoryMap';
import { Choice } from '../../ui/Choice';
import type { Memory, SimulatedReader } from './useMemory';
import bench from '../bench.module.css';
import styles from '../../memory/memory.module.css';

/** What a person writes of a key: all but its state and what the module counts by itself. */
const written = ({ kind }: LayoutField) => kind !== 'state' && kind !== 'counter';
/** Typed twice: one wrong digit makes a key that is dead for good. */
const twice = ({ values, kind }: LayoutField) => !values && (kind === 'identity' || kind === 'secret');

/** At least so many characters say why a slot that isn't empty is changed. */
const leastReason = 5;

/** A new file: a key in an empty slot; for a written reason, in the place of another, or a lost key disabled. Looked at, saved, and written with the reader. */
export function WriteSlot({ layout, m, sim }: { layout: Layout; m: Memory; sim: SimulatedReader | null }) {
  const { look, reads, wanted } = m;
  const slots = look?.slots?.slots ?? [];
  const state = layout.fields.find((f) => f.kind === 'state');
  const mayDisable = state?.values !== undefined && Object.hasOwn(state.values, 'disabled');
  const [disables, setDisables] = useState(false);
  const [chosen, setChosen] = useState<number | null>(null);
  const [reason, setReason] = useState('');
  const [values, setValues] = useState<Record<string, string>>({});
  const [again, setAgain] = useState<Record<string, string>>({});
  const [errors, setErrors] = useState<Record<string, string>>({});
  if (wanted) return <NewFile m={m} sim={sim} wanted={wanted} />;
  if (!reads.first) return null;
  // The next empty slot, or one that a person picks: no used one is ever proposed.
  const offered = slots.filter((s) => (disables ? s.state === 'used' : s.state !== 'unclear'));
  const picked = offered.find((s) => s.slot === chosen) ?? (disables ? undefined : offered.find((s) => s.slot === look?.nextSlot));
  const over = picked !== undefined && picked.state !== 'empty';
  const make = () => {
    const found: [string, string][] = [];
    if (!picked)
      found.push([
        'slot',
        disables ? 'Choose the slot of the lost key.' : 'Choose a slot. None is empty, so decide with the customer which key it was.',
      ]);
    if (over && reason.trim().length < leastReason) found.push(['reason', 'Say in a few words why. It goes into the record.']);
    if (!disables)
      for (const f of layout.fields.filter(twice))
        if (bare(values[f.id]) !== bare(again[f.id])) found.push([`${f.id} again`, 'The two entries differ. Type both again from the key.']);
    const given = disables ? { [state!.id]: 'disabled' } : Object.fromEntries(Object.entries(values).filter(([, text]) => text.trim() !== ''));
    // A key in the place of another is used from then on, whatever the other one was.
    const whole = over && !disables && state ? { [state.id]: 'used', ...given } : given;
    const made = picked && writeSlot(reads.first!.image, layout, picked.slot, whole, over && reason.trim().length >= leastReason);
    if (made && !made.ok) found.push(...made.problems.filter((q) => q.code !== 'notEmpty').map((q): [string, string] => [q.path, q.message]));
    const missing = over && !disables ? layout.fields.filter((f) => f.kind === 'identity' && bare(values[f.id]) === '') : [];
    found.push(...missing.map((f): [string, string] => [f.id, `${f.title} is missing. Write it as the key was read.`]));
    setErrors(Object.fromEntries(found));
    if (!picked || !made?.ok || found.length > 0) return;
    const { slot } = picked;
    m.setWanted({ ...made.value, slot, done: !over ? { slot, how: 'new' } : { slot, how: disables ? 'disabled' : 'over', reason: reason.trim() } });
  };
  return (
    <form
      className={styles.form}
      aria-label="Prepare a slot"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        make();
      }}
    >
      {mayDisable && (
        <fieldset className={styles.tools}>
          <legend className="hidden">What to do</legend>
          <Choice type="radio" checked={!disables} onChange={() => setDisables(false)}>
            Write a key
          </Choice>
          <Choice type="radio" checked={disables} onChange={() => setDisables(true)}>
            Disable a lost key
          </Choice>
        </fieldset>
      )}
      {!disables && look?.nextSlot === null && <p>No slot is empty. Decide with the customer which lost key to replace.</p>}
      <Field name="slot" label="Slot" value={picked ? String(picked.slot) : ''} put={(n) => setChosen(Number(n))} errors={errors} select>
        {offered.map((s) => (
          <MenuItem key={s.slot} value={String(s.slot)}>
            {s.slot}, {s.state === 'empty' ? 'proven empty' : `${stateWords[s.state]}${s.keyId ? `, key ${s.keyId}` : ''}`}
          </MenuItem>
        ))}
      </Field>
      {over && (
        <Field
          name="reason"
          label={disables ? 'Why this key is disabled' : 'Why this slot is written over'}
          value={reason}
          put={setReason}
          errors={errors}
          max={500}
          help={
            disables
              ? 'Such as: lost, the customer wants it locked out.'
              : 'The key that is in it no longer starts the car. Which key was it, and who decided?'
          }
        />
      )}
      {!disables && layout.fields.filter(written).map((f) => <KeyField key={f.id} field={f} {...{ values, setValues, again, setAgain, errors }} />)}
      <Button type="submit" variant="contained">
        Make the new file
      </Button>
    </form>
  );
}

const bare = (text = '') => text.replace(/\s+/g, '').toUpperCase();
type Texts = Record<string, string>;
type PutTexts = (change: (before: Texts) => Texts) => void;

function KeyField(p: { field: LayoutField; values: Texts; setValues: PutTexts; again: Texts; setAgain: PutTexts; errors: Texts }) {
  const { field, values, errors } = p;
  const put = (set: PutTexts) => (text: string) => set((all) => ({ ...all, [field.id]: text }));
  if (field.values)
    return (
      <Field name={field.id} label={field.title} value={values[field.id] ?? ''} put={put(p.setValues)} errors={errors} select>
        <MenuItem value="">Leave empty</MenuItem>
        {Object.keys(field.values).map((name) => (
          <MenuItem key={name} value={name}>
            {name}
          </MenuItem>
        ))}
      </Field>
    );
  const input = {
    max: 200,
    autoComplete: 'off',
    type: field.kind === 'secret' ? 'password' : 'text',
    slotProps: { htmlInput: { className: 'mono', spellCheck: false } },
  };
  return (
    <>
      <Field
        {...input}
        name={field.id}
        label={field.title}
        value={values[field.id] ?? ''}
        put={put(p.setValues)}
        errors={errors}
        help={`${2 * field.bytes} hexadecimal digits`}
      />
      {twice(field) && (
        <Field
          {...input}
          name={`${field.id} again`}
          label={`${field.title}, again`}
          value={p.again[field.id] ?? ''}
          put={put(p.setAgain)}
          errors={errors}
        />
      )}
    </>
  );
}

/** Every changed byte before it is written, and the file in all three forms. */
function NewFile({ m, sim, wanted }: { m: Memory; sim: SimulatedReader | null; wanted: NonNullable<Memory['wanted']> }) {
  const save = (name: string, body: Uint8Array | string) => {
    const url = URL.createObjectURL(new Blob([body as BlobPart], { type: 'application/octet-stream' }));
    const link = Object.assign(document.createElement('a'), { href: url, download: name });
    link.click();
    URL.revokeObjectURL(url);
  };
  const raw = writeRaw(wanted.image);
  return (
    <section className={styles.form} aria-label="The new file">
      <p>
        {wanted.done.how === 'disabled'
          ? `In the new file the key in slot ${wanted.slot} is disabled.`
          : wanted.done.how === 'over'
            ? `The new file puts the key into slot ${wanted.slot}, in the place of another one.`
            : `The new file puts the key into slot ${wanted.slot}.`}{' '}
        The file you read stays as it is.
      </p>
      <div className={styles.wide} tabIndex={0} role="group" aria-label="Changed bytes, scrollable">
        <table className={styles.changes} aria-label="Changed bytes">
          <thead>
            <tr>
              <th scope="col">At</th>
              <th scope="col">What</th>
              <th scope="col">Before and after</th>
            </tr>
          </thead>
          <tbody>
            {wanted.changes.map((c) => (
              <tr key={c.at}>
                <th scope="row" className="mono">
                  {c.at.toString(16).toUpperCase().padStart(4, '0')}
                </th>
                <td>{c.what}</td>
                <td className="mono">
                  {c.before}
                  <br />
                  {c.after}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className={bench.said}>
        Write only with steady power. Don’t touch box or wires until it is done; a write that is interrupted can ruin the box.
      </p>
      <div className={styles.tools}>
        {raw && (
          <Button variant="outlined" onClick={() => save(`slot-${wanted.slot}.bin`, raw)}>
            Save .bin
          </Button>
        )}
        <Button variant="outlined" onClick={() => save(`slot-${wanted.slot}.hex`, writeIntelHex(wanted.image))}>
          Save .hex
        </Button>
        <Button variant="outlined" onClick={() => save(`slot-${wanted.slot}.s19`, writeSRecord(wanted.image))}>
          Save .s19
        </Button>
      </div>
      <div className={styles.tools}>
        {sim && isSimulated(m.reads.first) && (
          <Button
            variant="contained"
            onClick={() => {
              sim.write(wanted.image);
              m.remove('after');
            }}
          >
            Write it to the simulated box
          </Button>
        )}
        <Button color="inherit" onClick={() => m.setWanted(null)}>
          Discard the new file
        </Button>
      </div>
      <p className="quiet">Then read the box back: only slot {wanted.slot} may differ.</p>
    </section>
  );
}

const isSimulated = (read: { simulated: boolean; image: MemoryImage } | undefined) => read?.simulated === true;
