import Button from '@mui/material/Button';
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { lazy, Suspense, useRef, useState } from 'react';
import { useRouteLoaderData } from 'react-router';
import { type BytesCompared, compareBytes } from '../../../core/copycheck';
import type { Layout } from '../../../core/memory';
import type { Instrument, ShownAnswer, StepResult } from '../../../core/procedure';
import type { MemoryCase } from '../../bench/memory/SaveSlots';
import { useKept } from '../../ui/useKept';
import type { OnResult } from './onResult';
import type { MemoryFiles } from './RunMemory';
import styles from './instruments.module.css';

const RunMemory = lazy(() => import('./RunMemory'));

interface Picked {
  file: File;
  result: Extract<StepResult, { kind: 'file' }>;
  bytes: Uint8Array;
}
/** No memory of a module is larger; more is another file. */
const mostBytes = 64 * 1024 * 1024;

async function read(file: File): Promise<Picked> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  return { file, bytes, result: { kind: 'file', name: file.name.slice(0, 200), size: bytes.length, sha256: bytesToHex(sha256(bytes)) } };
}
const number = new Intl.NumberFormat('en-US');

/**
 * A memory file: its name, size and digest go into the run, its bytes stay on this device. A second reading is held against the first by the digest; where
 * something may differ, or does, the first file is picked again and shown byte for byte against it.
 */
export default function FilePart({
  instrument,
  answers,
  busy,
  onResult,
}: {
  instrument: Extract<Instrument, { kind: 'file' }>;
  answers: readonly ShownAnswer[];
  busy: boolean;
  onResult: OnResult;
}) {
  const { sameAs, compares, except } = instrument;
  const [picked, setPicked] = useState<Picked | null>(null);
  const [compared, setCompared] = useState<BytesCompared | null>(null);
  /** The first reading, picked again beside the one after a write. */
  const [before, setBefore] = useState<File | null>(null);
  const data = useRouteLoaderData<{ run: { id: number }; layouts: Layout[]; memory: MemoryCase }>('run/run');
  const [layout, setLayout] = useKept(`layout.${data?.run.id}`, '', (kept) => (typeof kept === 'string' ? kept : undefined));
  const [problem, setProblem] = useState('');
  const take = async (file: File, as: 'this' | 'first') => {
    setProblem('');
    if (file.size === 0 || file.size > mostBytes)
      return setProblem(
        file.size === 0 ? `${file.name} is empty. Read the memory again.` : `${file.name} is larger than 64 MB. Pick the memory file.`,
      );
    try {
      const found = await read(file);
      if (as === 'this') {
        setPicked(found);
        setCompared(null);
        setBefore(null);
      } else if (found.result.sha256 !== sameAs!.sha256) setProblem(`${file.name} is not the first reading, ${sameAs!.name}. Pick that one.`);
      else {
        setCompared(compareBytes(found.bytes, picked!.bytes));
        setBefore(file);
      }
    } catch {
      setProblem(`${file.name} can’t be read. Pick it again.`);
    }
  };
  const equal = picked !== null && sameAs !== null && picked.result.sha256 === sameAs.sha256;
  const say = (id: string) => answers.find((a) => a.id === id)?.say ?? id;
  const answer = (id: string) => picked && onResult(id, { result: picked.result });
  const row = (reading: boolean) => (
    <div className={styles.row}>
      {!compares && (
        <Button variant="contained" size="large" loading={busy} disabled={reading} onClick={() => answer('ticked')}>
          {say('ticked')}
        </Button>
      )}
      {compares && (except ? !equal : equal || !sameAs) && (
        <Button
          variant="contained"
          size="large"
          loading={busy}
          disabled={reading || (except !== null && sameAs !== null && !compared)}
          onClick={() => answer('same')}
        >
          {say('same')}
        </Button>
      )}
      {compares && !(equal && !except) && (
        <Button
          variant={except ? 'outlined' : 'contained'}
          size="large"
          loading={busy}
          disabled={reading}
          onClick={() => answer(equal ? 'same' : 'different')}
        >
          {equal ? 'Equal: nothing was written' : say('different')}
        </Button>
      )}
    </div>
  );
  return (
    <div className={styles.part}>
      <PickButton label={picked ? 'Pick another file' : 'Pick the file'} first={!picked} take={(f) => void take(f, 'this')} />
      {picked && (
        <p role="status">
          <b>{picked.result.name}</b>, {number.format(picked.result.size)} bytes
          <br />
          <small className="mono">SHA-256 {picked.result.sha256.slice(0, 16)}…</small>
        </p>
      )}
      {picked && compares && sameAs && (
        <p>
          {equal
            ? `Equal to ${sameAs.name}, byte for byte.`
            : `Not equal to ${sameAs.name}, ${number.format(sameAs.size)} bytes.${except ? ` Only ${except} may differ.` : ''}`}
        </p>
      )}
      {picked && compares && sameAs && !equal && !compared && (
        <PickButton label={`Pick ${sameAs.name} again to see where`} first={false} take={(f) => void take(f, 'first')} />
      )}
      {compared && <Where compared={compared} />}
      {problem && (
        <p role="alert" className={styles.problem}>
          {problem}
        </p>
      )}
      {picked &&
        (data && data.layouts.length > 0 ? (
          <Suspense fallback={<p className="quiet">Loading …</p>}>
            <RunMemory
              to={data.memory}
              chosen={layout}
              choose={setLayout}
              layouts={data.layouts}
              files={filesOf(picked.file, equal && except === null, before)}
              answers={row}
            />
          </Suspense>
        ) : (
          row(false)
        ))}
      <p className="quiet">The file stays on this device. Its name, size and digest go into the report.</p>
    </div>
  );
}

/** What is told of the slots: of one read, of two that are equal, or of the one before and the one after a write. */
function filesOf(picked: File, equal: boolean, before: File | null): MemoryFiles {
  if (before) return { first: before, after: picked };
  return equal ? { first: picked, second: picked } : { first: picked };
}

/** Stretches of bytes that differ, by their addresses. */
function Where({ compared }: { compared: BytesCompared }) {
  const hex = (n: number) => n.toString(16).toUpperCase().padStart(4, '0');
  return (
    <div>
      <p>{compared.differing === 1 ? '1 byte differs:' : `${number.format(compared.differing)} bytes differ:`}</p>
      <ul className={styles.list} aria-label="Where they differ">
        {compared.ranges.map((r) => (
          <li key={r.at} className="mono">
            {hex(r.at)}
            {r.length > 1 && ` to ${hex(r.at + r.length - 1)}`}
          </li>
        ))}
        {compared.more && <li>and further on</li>}
      </ul>
    </div>
  );
}

function PickButton({ label, first, take }: { label: string; first: boolean; take: (file: File) => void }) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <div>
      <Button variant={first ? 'contained' : 'outlined'} color={first ? 'primary' : 'inherit'} onClick={() => input.current?.click()}>
        {label}
      </Button>
      <input
        ref={input}
        type="file"
        className="hidden"
        tabIndex={-1}
        aria-label={label}
        onChange={(event) => {
          const file = event.currentTarget.files?.[0];
          if (file) take(file);
          event.currentTarget.value = '';
        }}
      />
    </div>
  );
}
