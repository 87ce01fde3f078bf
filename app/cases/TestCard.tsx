import { type ReactNode, useId, useState } from 'react';
import { Link } from 'react-router';
import type { NextTest } from '../../core/diagnosis';
import { closedBecause, type InstrumentKind, type TestDefinition } from '../../core/library';
import { formatChance } from '../../core/units';
import { PlaceDrawing } from '../drawings/PlaceDrawing';
import { Cautions, useCautions } from '../ui/Cautions';
import { Choice } from '../ui/Choice';
import { useKeys } from '../ui/keys';
import { Lamp } from '../ui/Lamp';
import { caseWith } from './about';
import styles from './Next.module.css';
import type { CaseView } from './page';
import { Took, useTook } from './Took';
import { useWaiting } from '../ui/sending';
import { answerLater, waitingOutcome } from './answerLater';
import { useRecord } from './useRecord';

const instrumentWords: Readonly<Record<InstrumentKind, string>> = {
  pellet: 'Measure it on the bench',
  vehicleStep: 'Compare it on the bench',
  wiring: 'Compare the two on the bench',
  wiggle: 'Measure on the bench while the steering column moves',
  trials: 'Count the checks on the bench',
  bursts: 'Measure captures on the bench',
  burstCount: 'Measure a capture on the bench',
  substitute: 'Find the resistor on the bench',
};
/** Where the instrument of a test stands, set up for this case and key. */
function instrumentAt(caseId: number, kind: InstrumentKind, key: string): string {
  if (kind === 'trials' || kind === 'substitute') return `/bench/${kind}?case=${caseId}`;
  if (kind === 'bursts' || kind === 'burstCount') return `/bench/bursts?${new URLSearchParams({ case: String(caseId), ...(key ? { key } : {}) })}`;
  const sheet = kind === 'wiring' ? 'column' : kind === 'wiggle' ? 'wiggle' : 'key';
  return `/bench/ladder?${new URLSearchParams({ case: String(caseId), ...(key ? { key } : {}), sheet })}`;
}

/** One test, large: what to do, with which key, what stands before it, and what was seen as the answers, each with where it would lead. */
export function TestCard({
  page,
  test,
  why,
  proposedKey,
  weighed,
  replaces,
  children,
}: {
  page: CaseView;
  test: TestDefinition;
  why: string;
  proposedKey: string | undefined;
  weighed?: NextTest | undefined;
  /** The line of the ledger that the answer corrects. */
  replaces?: string | undefined;
  /** What else may be done in place of an answer. */
  children?: ReactNode;
}) {
  const { busy, send } = useRecord(page);
  const here = page.record.keys.filter((k) => k.present);
  const [key, setKey] = useState(proposedKey ?? here[0]?.tag ?? '');
  const [leads, showLeads] = useState(false);
  const cautions = useCautions(test.cautions, page.cautions);
  const took = useTook(`${page.record.id} ${test.id}`);
  const keyMissing = test.perKey && key === '';
  const shut = closedBecause(test.effect, page.authorised);
  const outcomes = Object.entries(test.outcomes);
  const waiting = waitingOutcome(useWaiting(`/cases/${page.record.id}`), test.id, test.perKey ? key : null);
  const supposing = page.supposing.length > 0;
  const withKey = test.perKey ? { key } : {};
  const record = (outcome: string) => {
    if (supposing || !cautions.clear || keyMissing || shut.length > 0) return;
    const minutes = took.take();
    const more = { ...(minutes === undefined ? {} : { minutes }), ...(replaces ? { replaces } : {}) };
    send({ intent: 'evidence', test: test.id, outcome, ...more, ...withKey }, answerLater(page, test, outcome, test.perKey ? key : null, more));
  };
  useKeys(supposing ? [] : outcomes.map(([id, o], i) => ({ keys: String(i + 1), shown: String(i + 1), say: o.say, act: () => record(id) })));
  /** The address under which this outcome is supposed, after what is supposed already. */
  const what = (outcome: string) => [
    ...page.supposing.map((s) => [s.test, s.outcome, s.key].filter(Boolean).join(':')),
    [test.id, outcome, withKey.key].filter(Boolean).join(':'),
  ];
  const ids = useId();
  const nameOf = (fault: string) => page.diagnosis.weighed?.faults[fault]?.title ?? 'something else';
  /** Chance of a fault as things stand, whichever key has it. */
  const chanceNow = (fault: string) =>
    (page.diagnosis.weighed?.beliefs ?? []).filter((b) => b.id.split('@')[0] === fault).reduce((sum, b) => sum + b.p, 0);
  const leadOf = (id: string) => (withKey.key === weighed?.key ? weighed?.leads.find((l) => l.outcome === id) : undefined);
  return (
    <div className={styles.card}>
      <div className={styles.title}>
        {test.where && <PlaceDrawing place={test.where} width={104} />}
        <h2>{test.do}</h2>
      </div>
      <p className={styles.why}>{why}</p>
      <p className={styles.meta}>
        {test.minutes} min · {test.tools.length > 0 ? test.tools.join(', ') : 'no tool'} · {page.effects[test.id]!.toLowerCase().replace(/[.]$/, '')}
      </p>
      {test.perKey && here.length > 0 && (
        <fieldset className={styles.keys}>
          <legend>With</legend>
          {here.map((k) => (
            <Choice key={k.tag} type="radio" name="key" value={k.tag} checked={key === k.tag} onChange={() => setKey(k.tag)}>
              tag {k.tag}
            </Choice>
          ))}
        </fieldset>
      )}
      {keyMissing && <p role="alert">This test needs a key and none is here. Ask for one, or choose another test.</p>}
      {shut.length > 0 && (
        <p className={styles.shut} role="status">
          <b>Locked.</b> {shut.join(' ')} <a href="#authority">Record it here</a>
        </p>
      )}
      <Cautions state={cautions} />
      {waiting && (
        <p role="status">
          Not sent yet: <b>{test.outcomes[waiting]?.say}</b>. It is saved on this device.
        </p>
      )}
      {test.instrument && !supposing && page.record.state === 'open' && (
        <p>
          <Link to={instrumentAt(page.record.id, test.instrument.kind, key)}>{instrumentWords[test.instrument.kind]}</Link>
        </p>
      )}
      <div className={styles.outcomes}>
        {outcomes.map(([id, outcome], i) => {
          const lamp = page.lamps.find((l) => l.id === outcome.lamp);
          const lead = leadOf(id);
          const said = (
            <>
              {!supposing && (
                <span className="keycap" aria-hidden="true">
                  {i + 1}
                </span>
              )}
              <span className={styles.answer}>
                <span id={`${ids}-${id}`} className={styles.said}>
                  {lamp && <Lamp pattern={lamp} />}
                  <span>{outcome.say}</span>
                </span>
                {lead && (
                  <small id={`${ids}-${id}-lead`}>
                    → {nameOf(lead.fault)}, <span className={styles.whole}>{formatChance(lead.faultP)}</span>
                  </small>
                )}
              </span>
            </>
          );
          const named = { 'aria-labelledby': `${ids}-${id}`, ...(lead ? { 'aria-describedby': `${ids}-${id}-lead` } : {}) };
          return supposing ? (
            <Link key={id} className={styles.outcome} data-supposed to={caseWith(page, { if: what(id) })} preventScrollReset {...named}>
              {said}
            </Link>
          ) : (
            <button
              key={id}
              type="button"
              className={styles.outcome}
              onClick={() => record(id)}
              disabled={busy || !cautions.clear || keyMissing || shut.length > 0}
              {...named}
            >
              {said}
            </button>
          );
        })}
      </div>
      <div className={styles.foot}>
        {!supposing && <Took took={took} />}
        <button type="button" className={styles.toggle} aria-expanded={leads} onClick={() => showLeads(!leads)}>
          What each answer would lead to
        </button>
      </div>
      {leads && (
        <>
          <ul className={styles.leads} aria-label="What each answer would lead to">
            {outcomes.map(([id, outcome]) => {
              const lead = leadOf(id);
              return (
                <li key={id}>
                  <span>
                    {outcome.say}
                    {lead && <small className="quiet">chance of this answer: {formatChance(lead.p)}</small>}
                  </span>
                  {lead ? <BeforeAfter title={nameOf(lead.fault)} before={chanceNow(lead.fault)} after={lead.faultP} /> : <span />}
                  <Link to={caseWith(page, { if: what(id) })} preventScrollReset aria-label={`What if: ${outcome.say}`}>
                    what if
                  </Link>
                </li>
              );
            })}
          </ul>
          {weighed && (
            <details className={styles.how}>
              <summary>How this was calculated</summary>
              <p>
                Expected gain of this test: {weighed.gainBits.toFixed(2)} bit for {weighed.minutes} min. Expected cost from here to a confirmed fix
                with this test next: {Math.round(weighed.expectedCost)} min. The chances of each answer under each fault are in the Library, under
                this system type.
              </p>
            </details>
          )}
        </>
      )}
      {children}
    </div>
  );
}

/** The chance of one cause, as it is and as it would be. */
function BeforeAfter({ title, before, after }: { title: string; before: number; after: number }) {
  return (
    <span className={styles.change}>
      <span>{title}</span>
      {(
        [
          ['now', before],
          ['then', after],
        ] as const
      ).map(([when, p]) => (
        <span key={when} className={styles.chance} data-when={when}>
          <span className="quiet">{when}</span>
          <span className={styles.bar} aria-hidden="true">
            <span style={{ width: `${Math.max(1, p * 100)}%` }} />
          </span>
          <span className="mono">{formatChance(p)}</span>
        </span>
      ))}
    </span>
  );
}
