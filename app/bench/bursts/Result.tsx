import Button from '@mui/material/Button';
import { useRef, useState } from 'react';
import { Link } from 'react-router';
import { type BurstFeatures, type BurstSetup, type BurstVerdict, conditionName, conditionWords, mostPacked } from '../../../core/burst';
import { formatChance } from '../../../core/units';
import { Field } from '../../intake/parts';
import { ProblemSummary } from '../../ui/problems';
import { useAct } from '../../ui/useAct';
import { AddToCase, useAddToCase } from '../AddToCase';
import type { BurstsPage } from './page.server';
import styles from './bursts.module.css';
import type { Taken } from './useCapture';
import { stemOf } from './save';
import type { OneCapture } from './useCapture';

/** A case takes no more of one capture. */
const mostBursts = 2000;
const bursts = (count: number) => `${count} ${count === 1 ? 'burst' : 'bursts'}`;
const nameOf = ({ condition, key }: Taken): string =>
  condition === 'asked' ? `asked: ${key === null ? 'a key' : `tag ${key}`}` : conditionWords(conditionName({ condition, key }));

/** What the capture comes to, and what the case keeps of it. */
export function Result({
  d,
  one,
  taken,
  setup,
  simulated,
  features,
  repeats,
  verdict,
  onMore,
}: {
  d: BurstsPage;
  one: OneCapture;
  taken: Taken;
  setup: BurstSetup;
  simulated: boolean;
  features: BurstFeatures | null;
  repeats: BurstFeatures[];
  verdict: BurstVerdict | null;
  onMore: () => void;
}) {
  const held = one.held;
  const adding = useAddToCase('bursts', JSON.stringify([taken, setup, repeats, held?.name, held?.samples, held?.bursts[0]?.startS, simulated]));
  return (
    <>
      <div aria-live="polite">
        {!held ? (
          <p className="quiet">{repeats.length > 0 ? `${repeats.length} taken. Read the next one.` : 'No capture yet. Read a file of the scope.'}</p>
        ) : !features ? (
          <>
            <h2>Not measurable</h2>
            <p>Something is there, too near to the noise to be counted. Hold the probe closer to the antenna coil and capture again.</p>
          </>
        ) : verdict ? (
          <Verdict verdict={verdict} known={d.captures.length > 0} />
        ) : (
          <>
            <h2>{bursts(features.count)}</h2>
            <p>Baseline: {nameOf(taken)}. Add it to the case; what is asked later is compared with it.</p>
          </>
        )}
        {simulated && held && (
          <p>
            <b>Simulated.</b> It is kept as such, compared with simulated captures only, and is no evidence.
          </p>
        )}
      </div>
      {verdict !== null && verdict.more !== null && verdict.more > 0 && (
        <Button variant="outlined" onClick={onMore}>
          Take one more
        </Button>
      )}
      {repeats.length > 0 && (
        <p className="quiet">Counted together with {repeats.length === 1 ? 'the one before' : `the ${repeats.length} before`}.</p>
      )}
      <AddToCase
        adding={adding}
        chosen={d.chosen}
        ready={held !== null && features !== null && held.bursts.length <= mostBursts}
        note={
          taken.condition === 'asked' &&
          d.chosen !== null &&
          !d.hasTest &&
          'Its system type has no test of bursts: the capture is saved, and answers none.'
        }
        onAdd={() =>
          adding.add({
            kind: 'bursts',
            case: d.chosen!.id,
            ...(taken.key === null ? {} : { key: taken.key }),
            simulated,
            raw: {
              ...setup,
              name: held!.name,
              condition: taken.condition,
              samples: held!.samples,
              sampleRateHz: held!.sampleRateHz,
              noise: held!.noise,
              bursts: held!.bursts
                .slice(0, 2000)
                .map(({ startS, durationS, amplitude, carrierHz, notches }) => ({ startS, durationS, amplitude, carrierHz, notches })),
              quality: held!.quality,
              limits: held!.limits,
              repeats: taken.condition === 'asked' ? repeats : [],
            },
          })
        }
      />
      {held && d.chosen && !simulated && d.maySeal && <SealCapture key={held.name} one={one} caseId={d.chosen.id} authority={d.authority} />}
      <Captures d={d} />
    </>
  );
}

function Verdict({ verdict: { head, text, matches, by }, known }: { verdict: BurstVerdict; known: boolean }) {
  return (
    <>
      <h2>{head}</h2>
      <p>{text}</p>
      {by !== null && (
        <ul className={styles.matches} aria-label="What it looks like">
          {matches.map((m) => (
            <li key={m.condition}>
              <span>{conditionWords(m.condition)}</span>
              <span className={styles.bar} aria-hidden="true">
                <span style={{ width: `${m.p * 100}%` }} />
              </span>
              <span className="mono">{formatChance(m.p)}</span>
            </li>
          ))}
        </ul>
      )}
      {by !== 'vehicle' && known && (
        <p className="quiet">There are captures of this vehicle, but none in foil with the same probe, place and number of stored keys.</p>
      )}
    </>
  );
}

/** The capture itself, packed, into the vault of the case, where its size stands and where it can be destroyed. */
function SealCapture({ one, caseId, authority }: { one: OneCapture; caseId: number; authority: boolean }) {
  const act = useAct<{ said: string }>(`seal capture ${caseId}`);
  const input = useRef<HTMLInputElement>(null);
  const form = useRef<HTMLFormElement>(null);
  const [reason, setReason] = useState('');
  const [packed, setPacked] = useState<Uint8Array | null>(null);
  const name = `${stemOf(one.held!.name)}.wav.gz`;
  const mb = (bytes: number) => `${(bytes / 2 ** 20).toFixed(bytes < 2 ** 20 ? 2 : 1)} MB`;
  const tooLarge = packed !== null && packed.length > mostPacked;
  if (!authority) return <p className="quiet">The capture itself can be sealed with the case once authority is on record.</p>;
  return (
    <details
      onToggle={(event) => {
        if (event.currentTarget.open && !packed) void one.pack().then(setPacked);
      }}
    >
      <summary>Seal the capture itself with the case</summary>
      <form
        ref={form}
        className={styles.slot}
        encType="multipart/form-data"
        noValidate
        onSubmit={(event) => {
          const files = new DataTransfer();
          files.items.add(new File([packed as BlobPart], name, { type: 'application/gzip' }));
          input.current!.files = files.files;
          act.send('seal', `/cases/${caseId}/vault`)(event);
        }}
      >
        <p>{packed ? `${one.held!.samples} samples as WAV, packed: ${mb(packed.length)}.` : 'Packing …'}</p>
        {tooLarge && <p role="alert">A case takes captures of up to {mb(mostPacked)}. Export the stretch with the bursts, and seal that.</p>}
        <input type="hidden" name="kind" value="capture" />
        <input type="hidden" name="name" value={name.slice(0, 80)} />
        <input type="hidden" name="fileName" value={name} />
        <input ref={input} type="file" name="file" className="hidden" tabIndex={-1} aria-hidden="true" />
        <Field name="reason" label="Why it is kept" value={reason} put={setReason} errors={act.errors} max={300} help="What it is needed for." />
        <ProblemSummary errors={act.errors} />
        <div className={styles.tools}>
          <Button type="submit" variant="outlined" loading={act.busy} disabled={!packed || tooLarge}>
            Seal it
          </Button>
          {act.said !== '' && (
            <span role="status">
              {act.said} <Link to={`/cases/${caseId}/vault`}>Open the vault</Link>
            </span>
          )}
        </div>
      </form>
    </details>
  );
}

/** The captures of this vehicle, each with what it is; a wrong one is set aside. */
function Captures({ d: { captures, chosen } }: { d: BurstsPage }) {
  const act = useAct<{ said: string }>('captures');
  const [aside, setAside] = useState<string | null>(null);
  const [reason, setReason] = useState('');
  if (!chosen) return null;
  return (
    <section aria-labelledby="captures">
      <h2 id="captures" className="label">
        Captures of this vehicle
      </h2>
      {captures.length === 0 && <p className="quiet">None yet. Begin with a key in foil: it shows what no answer looks like.</p>}
      <ul className={styles.captures}>
        {captures.map((c) => (
          <li key={c.id}>
            <span>
              {nameOf(c)}: {c.features ? bursts(c.features.count) : 'not measurable'}
              {c.simulated && <b> simulated</b>}
              <br />
              <small className="quiet">
                {[c.probe, c.place, c.storedKeys === null ? '' : `${c.storedKeys} keys stored`].filter(Boolean).join(', ')}
              </small>
            </span>
            <Button size="small" color="inherit" aria-expanded={aside === c.id} onClick={() => setAside(aside === c.id ? null : c.id)}>
              Set aside
            </Button>
            {aside === c.id && (
              <form
                className={styles.slot}
                noValidate
                onSubmit={(event) => {
                  event.preventDefault();
                  act.sendJson({ intent: 'setAside', case: chosen.id, capture: c.id, reason }, '/bench/bursts');
                }}
              >
                <Field name="reason" label="Why it doesn’t count" value={reason} put={setReason} errors={act.errors} max={200} size="small" />
                <ProblemSummary errors={act.errors} />
                <Button type="submit" size="small" variant="outlined" loading={act.busy}>
                  Set it aside
                </Button>
              </form>
            )}
          </li>
        ))}
      </ul>
      {act.said !== '' && <p role="status">{act.said}</p>}
    </section>
  );
}
