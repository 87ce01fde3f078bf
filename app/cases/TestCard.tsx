import { type ReactNode, useState } from 'react';
import { useFetcher } from 'react-router';
import type { TestDefinition } from '../../core/library';
import { Cautions, useCautions } from '../ui/Cautions';
import { Choice } from '../ui/Choice';
import { newCommandId } from '../ui/commandId';
import { useKeys } from '../ui/keys';
import { Lamp } from '../ui/Lamp';
import type { action } from './case';
import styles from './Next.module.css';
import type { CaseView } from './page';

type Data = typeof action;

/** One test, large: what to do, with which key, what stands before it, and what was seen as the answers. */
export function TestCard({
  page,
  test,
  why,
  proposedKey,
  children,
}: {
  page: CaseView;
  test: TestDefinition;
  why: string;
  proposedKey: string | undefined;
  /** What else may be done in place of an answer. */
  children?: ReactNode;
}) {
  const fetcher = useFetcher<Data>({ key: 'case' });
  const here = page.record.keys.filter((k) => k.present);
  const [key, setKey] = useState(proposedKey ?? here[0]?.tag ?? '');
  const cautions = useCautions(test.cautions, page.cautions);
  const busy = fetcher.state !== 'idle';
  const keyMissing = test.perKey && key === '';
  const outcomes = Object.entries(test.outcomes);
  const record = (outcome: string) => {
    if (busy || !cautions.clear || keyMissing) return;
    void fetcher.submit(
      { intent: 'evidence', commandId: newCommandId(), test: test.id, outcome, ...(test.perKey ? { key } : {}) },
      { method: 'post', action: `/cases/${page.record.id}` },
    );
  };
  useKeys(outcomes.map(([id, o], i) => ({ keys: String(i + 1), shown: String(i + 1), say: o.say, act: () => record(id) })));
  return (
    <>
      <h2>{test.do}</h2>
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
      {keyMissing && <p role="alert">This test needs a key, and none is here. Ask for one, or choose another test.</p>}
      <Cautions state={cautions} />
      <div className={styles.outcomes}>
        {outcomes.map(([id, outcome], i) => {
          const lamp = page.lamps.find((l) => l.id === outcome.lamp);
          return (
            <button key={id} type="button" className={styles.outcome} onClick={() => record(id)} disabled={busy || !cautions.clear || keyMissing}>
              <span className="keycap" aria-hidden="true">
                {i + 1}
              </span>
              {lamp && <Lamp pattern={lamp} />}
              <span>{outcome.say}</span>
            </button>
          );
        })}
      </div>
      {children}
    </>
  );
}
