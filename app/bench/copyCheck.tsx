import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { type Alphabet, alphabetWords, copyVerdict, readEntry, shortDigest } from '../../core/copycheck';
import { copiedOf } from '../../server/ledger/measurements/copied';
import { parseBenchQuery } from '../../server/cases/queries';
import { here } from '../../server/http/requestContext';
import { Differences } from '../copycheck/Differences';
import { EntryField } from '../copycheck/EntryField';
import { useTwoEntries } from '../copycheck/useTwoEntries';
import { Field } from '../intake/parts';
import { Choice } from '../ui/Choice';
import { useKeys } from '../ui/keys';
import type { Route } from './+types/copyCheck';
import { benchCase } from './benchCase.server';
import bench from './bench.module.css';
import { CasePick } from './CasePick';
import { Compared } from './Compared';
import styles from './copyCheck.module.css';

export const meta: Route.MetaFunction = () => [{ title: 'Copy check · Bloodstone' }];
export const handle = {
  place: ({ chosen }: Route.ComponentProps['loaderData']) => ({
    title: 'Copy check',
    detail: chosen ? `case ${chosen.number} · ${chosen.vehicle}` : 'two entries of one original',
  }),
};

/** Cases give what is copied on their vehicle, and its length; nothing of an entry ever comes here. */
export async function loader({ request, context }: Route.LoaderArgs) {
  const { services } = context.get(here);
  const { record, cases } = await benchCase(services, parseBenchQuery(new URL(request.url).searchParams).caseId);
  return {
    cases,
    chosen: record ? { id: record.id, number: record.number, vehicle: record.vehicle } : null,
    copied: record ? await copiedOf(services, record) : [],
  };
}

/** What every vehicle has. */
const identification = { name: 'identification', label: 'VIN', alphabet: 'identification', length: 17, known: true } as const;
/** No original of this kind is longer; more is another file. */
const mostBytes = 80_000;

/** The two entries with what they are made of, and a file that may take the place of the first. */
function useSheet() {
  const [alphabet, setAlphabet] = useState<Alphabet>('hex');
  const [lengthText, setLengthText] = useState('');
  const [fromFile, setFromFile] = useState('');
  const [problem, setProblem] = useState('');
  const length = /^\d{1,5}$/.test(lengthText) && Number(lengthText) > 0 ? Number(lengthText) : undefined;
  const e = useTwoEntries({ alphabet, ...(length === undefined ? {} : { length }) });
  const anew = () => {
    setFromFile('');
    setProblem('');
    e.anew();
  };
  const take = async (chosen: File) => {
    if (chosen.size > mostBytes) return setProblem(`${chosen.name} is too large for one entry. Choose the right file.`);
    const text = await chosen.text();
    if (readEntry(text, e.form).text === '') return setProblem(`${chosen.name} has no usable characters. Choose the right file.`);
    setProblem('');
    setFromFile(chosen.name);
    e.takeFirst(text);
  };
  return { ...e, anew, take, alphabet, setAlphabet, lengthText, setLengthText, length, fromFile, problem };
}
type Entries = ReturnType<typeof useSheet>;

/** What it is, made of what, and how long. */
function WhatIsCopied({ e, copied }: { e: Entries; copied: Route.ComponentProps['loaderData']['copied'] }) {
  const [what, setWhat] = useState('');
  const { alphabet, setAlphabet, lengthText, setLengthText, length } = e;
  return (
    <>
      <fieldset className={bench.row}>
        <legend>What it is</legend>
        {[...copied, identification].map((c) => (
          <Choice
            key={c.name}
            type="radio"
            name="what"
            value={c.name}
            checked={what === c.name}
            onChange={() => {
              setWhat(c.name);
              setAlphabet(c.alphabet);
              setLengthText(String(c.length));
            }}
          >
            {c.label}, {c.length}
            {c.known ? '' : ' (typical)'}
          </Choice>
        ))}
      </fieldset>
      <Field name="alphabet" label="Made of" value={alphabet} put={(a) => setAlphabet(a as Alphabet)} errors={{}} select>
        {Object.entries(alphabetWords).map(([id, say]) => (
          <MenuItem key={id} value={id}>
            {say}
          </MenuItem>
        ))}
      </Field>
      <Field
        name="length"
        label="Number of characters, if known"
        value={lengthText}
        put={setLengthText}
        live
        errors={lengthText !== '' && length === undefined ? { length: 'A whole number, such as 24.' } : {}}
        max={5}
        slotProps={{ htmlInput: { inputMode: 'numeric' } }}
      />
    </>
  );
}

/** One entry, typed or from a file. */
function EntryPart({ e }: { e: Entries }) {
  const { stage, fromFile, first, form, entry, length, problem, anew, take } = e;
  const file = useRef<HTMLInputElement>(null);
  return (
    <div className={styles.entry}>
      <h2>{stage === 'first' ? 'First entry' : 'Second entry, from the original again'}</h2>
      {stage === 'second' && (
        <p className="quiet">
          {fromFile ? `The first is the file ${fromFile}.` : 'The first is hidden.'} It has {readEntry(first, form).text.length} characters.
        </p>
      )}
      <EntryField
        e={e}
        label={stage === 'first' ? 'First entry' : 'Second entry'}
        count={`${entry.text.length}${length === undefined ? '' : ` of ${length}`} ${entry.text.length === 1 && length === undefined ? 'character' : 'characters'}`}
        focus
      >
        {stage === 'first' ? (
          <Button variant="text" color="inherit" onClick={() => file.current?.click()}>
            Use a file as the first entry
          </Button>
        ) : (
          <Button variant="text" color="inherit" onClick={anew}>
            Start over
          </Button>
        )}
      </EntryField>
      {problem && (
        <p role="alert" className={bench.problem}>
          {problem}
        </p>
      )}
      <input
        ref={file}
        type="file"
        className="hidden"
        tabIndex={-1}
        aria-label="File as the first entry"
        onChange={(event) => {
          const chosen = event.currentTarget.files?.[0];
          if (chosen) void take(chosen);
          event.currentTarget.value = '';
        }}
      />
    </div>
  );
}

/** What differs, and what two people may compare instead. */
function Result({ e, found }: { e: Entries; found: NonNullable<Entries['found']> }) {
  const { form, first, reveal, setReveal, anew, again } = e;
  const said = copyVerdict(found);
  return (
    <>
      <h2>{said.head}</h2>
      <p className={bench.said}>{said.text}</p>
      <Differences found={found} reveal={reveal} />
      {found.equal && (
        <p>
          Digest <span className={`mono ${styles.digest}`}>{shortDigest(readEntry(first, form).text)}</span>
          <br />
          <small className="quiet">
            Two people or two devices can compare this instead of the value. A short value can be guessed from it, so don’t write it down.
          </small>
        </p>
      )}
      <div className={bench.foot}>
        <Choice type="checkbox" name="reveal" checked={reveal} onChange={(event) => setReveal(event.target.checked)}>
          Show the characters
        </Choice>
        <Button variant={found.equal ? 'outlined' : 'contained'} onClick={again}>
          Type the second entry again
        </Button>
        <Button variant="outlined" color="inherit" onClick={anew}>
          Start over
        </Button>
      </div>
    </>
  );
}

/**
 * Two independent entries of one original, compared. What is typed stays in this page: it goes neither to the server nor into the browser's storage, and is gone when
 * the page is left.
 */
export default function CopyCheck({ loaderData: d }: Route.ComponentProps) {
  const navigate = useNavigate();
  const e = useSheet();
  const { stage, reveal, setReveal, found, first, form } = e;
  useKeys(
    stage === 'compared'
      ? [{ keys: 'r', shown: 'r', say: reveal ? 'hide the characters' : 'show the characters', act: () => setReveal(!reveal) }]
      : [],
  );
  return (
    <div className={bench.sheet}>
      <h1 className="hidden">Copy check</h1>
      <section className={bench.input} aria-label="What you are copying">
        <CasePick cases={d.cases} chosen={d.chosen?.id ?? null} onPick={(id) => void navigate(id === '' ? '?' : `?case=${id}`, { replace: true })} />
        <WhatIsCopied e={e} copied={d.copied} />
        <p className="quiet">
          For a secret, label digits or a VIN. Type it twice from the original; the first entry is hidden while you type the second. One person may do
          both.
        </p>
        <p className="quiet">Nothing is saved or sent. It is gone when you leave this page.</p>
      </section>
      <section className={bench.first} aria-label="Entries">
        {found === null ? (
          <EntryPart e={e} />
        ) : (
          <Compared first={readEntry(first, form).text} reveal={reveal} equal={found.equal} differences={found.differences} />
        )}
      </section>
      <section className={bench.verdict} aria-label="Result" aria-live="polite">
        {found ? (
          <Result e={e} found={found} />
        ) : (
          <>
            <h2>Not compared yet</h2>
            <p className="quiet">Finds missing, extra and swapped characters, and ones that look or sound alike (8 and B, 0 and D).</p>
          </>
        )}
      </section>
    </div>
  );
}
