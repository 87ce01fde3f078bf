import { useState } from 'react';
import { type Layout, type MemoryLook, regionsOf, type Slot } from '../../../core/memory';
import { Field } from '../../intake/parts';
import { MemoryMap, stateWords } from '../../memory/MemoryMap';
import styles from '../../memory/memory.module.css';

/** The slots of the latest read, as a map and as a table. */
export function Slots({
  layout,
  look,
  marked,
  digest = true,
  inHand = true,
}: {
  layout: Layout;
  look: MemoryLook;
  marked: number | null;
  digest?: boolean;
  /** Asks for the identity of one key in hand; a page that knows the case's keys asks for theirs. */
  inHand?: boolean;
}) {
  const { slots, proven } = look;
  if (!slots) return null;
  const shown = layout.fields.filter((f) => f.kind !== 'state');
  return (
    <>
      <MemoryMap regions={regionsOf(layout)} base={layout.base} slots={slots.slots} marked={marked} />
      {slots.slots.length > 0 && (
        <div className={styles.wide} tabIndex={0} role="group" aria-label="Slots, scrollable">
          <table className={styles.slots} aria-label="Slots">
            <thead>
              <tr>
                <th scope="col">Slot</th>
                <th scope="col">State</th>
                {shown.map((f) => (
                  <th key={f.id} scope="col">
                    {f.title}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {slots.slots.map((s) => (
                <tr key={s.slot}>
                  <th scope="row">{s.slot}</th>
                  <td>{s.state === 'empty' && proven ? 'proven empty' : stateWords[s.state]}</td>
                  {shown.map((f) => (
                    <td key={f.id} className="mono">
                      {s.fields[f.id] ?? ''}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {inHand && layout.fields.some((f) => f.kind === 'identity') && slots.slots.length > 0 && <KeyInHand slots={slots.slots} />}
      {digest && <p className="quiet mono">SHA-256 {slots.digest.slice(0, 16)}…</p>}
    </>
  );
}

/** Whether a key somebody holds is stored, and where. */
function KeyInHand({ slots }: { slots: readonly Slot[] }) {
  const [text, setText] = useState('');
  const bare = text.replace(/\s+/g, '').toUpperCase();
  const found = slots.filter((s) => s.keyId === bare);
  const stored = slots.filter((s) => s.keyId !== null);
  return (
    <div className={styles.form}>
      <Field
        name="inHand"
        label="Identity of a key in hand"
        value={text}
        put={setText}
        errors={{}}
        live
        max={40}
        help="As a key reader shows it."
        slotProps={{ htmlInput: { className: 'mono', spellCheck: false, autoComplete: 'off' } }}
      />
      <p role="status">
        {bare === ''
          ? ''
          : found.length > 0
            ? `Stored in slot ${found.map((s) => `${s.slot}, ${stateWords[s.state]}`).join(' and slot ')}.`
            : `Not stored: none of the ${stored.length} keys in this memory has this identity.`}
      </p>
    </div>
  );
}
