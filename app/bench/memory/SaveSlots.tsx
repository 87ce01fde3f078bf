import Button from '@mui/material/Button';
import { useRef, useState } from 'react';
import { Link } from 'react-router';
import { besideKeys, byteCount, type KeyInHand, type Layout, writeIntelHex, writeRaw } from '../../../core/memory';
import { Field } from '../../intake/parts';
import { ProblemSummary } from '../../ui/problems';
import { useAct } from '../../ui/useAct';
import styles from '../../memory/memory.module.css';
import type { Memory, OneRead } from './useMemory';

/** The case that a memory belongs to: its keys that are here, with the identities known of them, and whether this person may seal. */
export interface MemoryCase {
  id: number;
  number: string;
  keys: string[];
  inHand: KeyInHand[];
  maySeal: boolean;
}

/** The stored keys beside the keys in hand, saved to the case; and the file itself into its vault. */
export function SaveSlots({ to, layout, m }: { to: MemoryCase; layout: Layout; m: Memory }) {
  const act = useAct<{ said: string }>(`slots ${to.id}`);
  const [typed, setTyped] = useState<Record<string, string>>(Object.fromEntries(to.inHand.map((k) => [k.tag, k.keyId])));
  const { look, reads, wanted } = m;
  const latest = look?.diff ? reads.after : reads.first;
  if (!look?.slots || look.slots.slots.length === 0 || !latest) return null;
  const bare = (text = '') => text.replace(/\s+/g, '').toUpperCase();
  const inHand = to.keys.flatMap((tag): KeyInHand[] => (bare(typed[tag]) === '' ? [] : [{ tag, keyId: bare(typed[tag]) }]));
  const beside = besideKeys(look.slots.slots, inHand, look.proven);
  const hasIdentity = layout.fields.some((f) => f.kind === 'identity');
  const save = () =>
    act.sendJson(
      {
        intent: 'measure',
        kind: 'slots',
        case: to.id,
        layout: layout.id,
        simulated: latest.simulated,
        raw: {
          name: latest.name,
          bytes: byteCount(latest.image),
          sha256: look.slots!.digest,
          proven: look.proven,
          slots: look.slots!.slots.map(({ slot, state, keyId }) => ({ slot, state, keyId })),
          inHand,
          written: look.judged?.fine && wanted ? wanted.done : null,
        },
      },
      '/bench/memory',
    );
  return (
    <section className={styles.form} aria-label={`Keys of case ${to.number}`}>
      <h3>Stored keys and keys in hand</h3>
      {hasIdentity &&
        to.keys.map((tag) => {
          const stored = beside.keys.find((k) => k.tag === tag)?.slots;
          return (
            <Field
              key={tag}
              name={`raw.inHand.${tag}`}
              label={`Identity of tag ${tag}`}
              value={typed[tag] ?? ''}
              put={(text) => setTyped((all) => ({ ...all, [tag]: text }))}
              errors={{}}
              live
              max={128}
              help={
                stored ? (stored.length > 0 ? `Stored in slot ${stored.join(' and ')}.` : 'Not stored in this memory.') : 'As a key reader shows it.'
              }
              slotProps={{ htmlInput: { className: 'mono', spellCheck: false, autoComplete: 'off' } }}
            />
          );
        })}
      <p role="status">{beside.text}</p>
      <ProblemSummary errors={act.errors} />
      <div className={styles.tools}>
        <Button variant="outlined" loading={act.busy} onClick={save}>
          Save the slots to case {to.number}
        </Button>
        {act.said !== '' && (
          <span role="status">
            {act.said} <Link to={`/cases/${to.id}`}>Go to case {to.number}</Link>
          </span>
        )}
      </div>
      {to.maySeal && reads.first && !reads.first.simulated && <SealRead to={to} read={reads.first} />}
    </section>
  );
}

/** The read itself into the vault of the case, without a detour over a file chosen again. */
function SealRead({ to, read }: { to: MemoryCase; read: OneRead }) {
  const act = useAct<{ said: string }>(`seal ${to.id}`);
  const input = useRef<HTMLInputElement>(null);
  const [reason, setReason] = useState('');
  const send = act.send('seal', `/cases/${to.id}/vault`);
  return (
    <details>
      <summary>Seal the first read in the vault</summary>
      <form
        className={styles.form}
        encType="multipart/form-data"
        noValidate
        onSubmit={(event) => {
          const raw = writeRaw(read.image);
          const files = new DataTransfer();
          files.items.add(new File([(raw ?? writeIntelHex(read.image)) as BlobPart], read.name, { type: 'application/octet-stream' }));
          input.current!.files = files.files;
          send(event);
        }}
      >
        <input type="hidden" name="kind" value="memory" />
        <input type="hidden" name="name" value={read.name.slice(0, 80)} />
        <input type="hidden" name="fileName" value={read.name} />
        <input ref={input} type="file" name="file" className="hidden" tabIndex={-1} aria-hidden="true" />
        <Field name="reason" label="Why it is sealed" value={reason} put={setReason} errors={act.errors} max={300} help="What it is needed for." />
        <ProblemSummary errors={act.errors} />
        <div className={styles.tools}>
          <Button type="submit" variant="outlined" loading={act.busy}>
            Seal it
          </Button>
          {act.said !== '' && (
            <span role="status">
              {act.said} <Link to={`/cases/${to.id}/vault`}>Open the vault</Link>
            </span>
          )}
        </div>
      </form>
    </details>
  );
}
