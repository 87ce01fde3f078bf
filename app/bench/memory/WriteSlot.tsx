import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import { useState } from 'react';
import { type Layout, type LayoutField, type MemoryImage, writeIntelHex, writeRaw, writeSlot, writeSRecord } from '../../../core/memory';
import { Field } from '../../intake/parts';
import type { Memory, SimulatedReader } from './useMemory';
import bench from '../bench.module.css';
import styles from '../../memory/memory.module.css';

/** What a person writes of a key: all but its state and what the module counts by itself. */
const written = ({ kind }: LayoutField) => kind !== 'state' && kind !== 'counter';
/** Typed twice: one wrong digit makes a key that is dead for good. */
const twice = ({ values, kind }: LayoutField) => !values && (kind === 'identity' || kind === 'secret');

/** A new file with the key in the next empty slot: looked at, saved, and written with the reader. */
export function WriteSlot({ layout, m, sim }: { layout: Layout; m: Memory; sim: SimulatedReader | null }) {
  const { look, reads, wanted } = m;
  const empty = look?.slots?.slots.filter((s) => s.state === 'empty') ?? [];
  const [chosen, setChosen] = useState<number | null>(null);
  const [values, setValues] = useState<Record<string, string>>({});
  const [again, setAgain] = useState<Record<string, string>>({});
  const [errors, setErrors] = useState<Record<string, string>>({});
  const slot = empty.find((s) => s.slot === chosen)?.slot ?? look?.nextSlot ?? null;
  if (wanted) return <NewFile m={m} sim={sim} wanted={wanted} />;
  if (slot === null || !reads.first) return <p>No slot is empty. Don’t overwrite one: decide with the customer which lost key to delete.</p>;
  const make = () => {
    const typed = layout.fields.filter(twice);
    const differ = typed
      .filter((f) => bare(values[f.id]) !== bare(again[f.id]))
      .map((f): [string, string] => [`${f.id} again`, 'The two entries differ. Type both again from the key.']);
    const given = Object.fromEntries(Object.entries(values).filter(([, text]) => text.trim() !== ''));
    const made = writeSlot(reads.first!.image, layout, slot, given);
    const problems = made.ok ? [] : made.problems.map((p): [string, string] => [p.path, p.message]);
    setErrors(Object.fromEntries([...differ, ...problems]));
    if (made.ok && differ.length === 0) m.setWanted({ ...made.value, slot });
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
      <Field name="slot" label="Slot" value={String(slot)} put={(n) => setChosen(Number(n))} errors={errors} select>
        {empty.map((s) => (
          <MenuItem key={s.slot} value={String(s.slot)}>
            {s.slot}, proven empty
          </MenuItem>
        ))}
      </Field>
      {layout.fields.filter(written).map((f) => (
        <KeyField key={f.id} field={f} {...{ values, setValues, again, setAgain, errors }} />
      ))}
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
      <p>The new file puts the key into slot {wanted.slot}. The file you read stays as it is.</p>
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
