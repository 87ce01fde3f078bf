import MenuItem from '@mui/material/MenuItem';
import { type ReactNode, useEffect, useEffectEvent } from 'react';
import type { Layout } from '../../../core/memory';
import { type MemoryCase, SaveSlots } from '../../bench/memory/SaveSlots';
import { Slots } from '../../bench/memory/Slots';
import { useMemory } from '../../bench/memory/useMemory';
import { WriteSlot } from '../../bench/memory/WriteSlot';
import { Field } from '../../intake/parts';
import styles from './instruments.module.css';

/** The memory of a file step: one read, a second one that is equal, or the read back after a write beside the first one. */
export interface MemoryFiles {
  first: File;
  second?: File;
  after?: File;
}

/** The layout by which the memory is read, by its id. */
interface Chosen {
  chosen: string;
  choose: (id: string) => void;
}
interface Shown {
  /** The case of the run. */
  to: MemoryCase;
  files: MemoryFiles;
  /** The answers of the step; they can't be pressed before the slots are told, so that nothing moves under a finger and nothing is answered unread. */
  answers: (reading: boolean) => ReactNode;
}

/** The slots of what was read, by a layout that is chosen once for the run: which is proven empty, the new file, and what the write changed. */
export default function RunMemory({ to, chosen, choose, layouts, files, answers }: Shown & Chosen & { layouts: readonly Layout[] }) {
  const layout = layouts.find((l) => l.id === chosen);
  return (
    <section className={styles.part} aria-label="Slots of the memory">
      <Field name="layout" label="Layout of the memory" value={layout?.id ?? ''} put={choose} errors={{}} select>
        <MenuItem value="">None: only compare the bytes</MenuItem>
        {layouts.map((l) => (
          <MenuItem key={l.id} value={l.id}>
            {l.title}
          </MenuItem>
        ))}
      </Field>
      {layout ? <Read key={`${layout.id} ${Object.values(files).length}`} to={to} layout={layout} files={files} answers={answers} /> : answers(false)}
    </section>
  );
}

function Read({ to, layout, files, answers }: Shown & { layout: Layout }) {
  const m = useMemory(layout);
  const take = useEffectEvent(() => {
    for (const role of ['first', 'second', 'after'] as const) if (files[role]) m.take(role, files[role]);
  });
  useEffect(() => take(), [files.first, files.second, files.after]);
  const { look } = m;
  const problems = [...Object.values(m.problems), ...(look?.slots?.problems ?? []).map((p) => [p.path, p.message].filter(Boolean).join(': '))];
  return (
    <>
      {look?.judged && (
        <>
          <p role="status">{look.judged.text}</p>
          {look.judged.unexpected.length > 0 && (
            <ul className={styles.list} aria-label="What is wrong">
              {look.judged.unexpected.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ul>
          )}
        </>
      )}
      {look?.diff && <Changed layout={layout} look={look.diff} />}
      {problems.length > 0 && (
        <ul className={styles.list} aria-label="Problems in the memory">
          {problems.map((p) => (
            <li key={p}>{p}</li>
          ))}
        </ul>
      )}
      {look && <Slots layout={layout} look={look} marked={m.wanted?.slot ?? look.nextSlot} digest={false} inHand={false} />}
      {look?.proven && look.nextSlot !== null && (
        <p>
          Next slot: <b>{look.nextSlot}</b>, empty in every byte of both reads.
        </p>
      )}
      {look?.proven && !files.after && (
        <details className={styles.elsewhere}>
          <summary>Make the new file here</summary>
          <WriteSlot layout={layout} m={m} sim={null} />
        </details>
      )}
      {m.settled && (look?.proven || look?.diff) && (
        <details className={styles.elsewhere}>
          <summary>Save the slots to the case</summary>
          <SaveSlots to={to} layout={layout} m={m} />
        </details>
      )}
      {!m.settled && (
        <p className="quiet" role="status">
          Reading the slots …
        </p>
      )}
      {answers(!m.settled)}
    </>
  );
}

/** What the write changed, in the slots and outside of them. */
function Changed({ layout, look }: { layout: Layout; look: NonNullable<NonNullable<ReturnType<typeof useMemory>['look']>['diff']> }) {
  const title = (id: string | null) => [...layout.fields, ...layout.checksums].find((f) => f.id === id)?.title ?? 'bytes without a name';
  const slots = [...new Set(look.changes.map((c) => c.slot))];
  return (
    <>
      {slots.length !== 1 && <p role="status">{slots.length === 0 ? 'No slot changed.' : `Slots ${slots.join(', ')} changed.`}</p>}
      <ul className={styles.list} aria-label="What changed">
        {look.changes.map((c) => (
          <li key={`${c.slot} ${c.field}`}>
            Slot {c.slot}, {title(c.field)}: {c.before} before, {c.after} now
          </li>
        ))}
        {look.outsideSlots.map((o) => (
          <li key={o.at}>
            {o.title || 'Bytes without a name'}: {o.expected ? 'follows from it' : 'should not have changed'}
          </li>
        ))}
      </ul>
    </>
  );
}
