import { useState } from 'react';
import type { OptionOutcome } from '../../core/learning';
import type { ShownOption, Span } from '../../core/options';
import { formatChance } from '../../core/units';
import type { useAct } from '../ui/useAct';
import { OptionForm } from './OptionForm';
import { HideForm } from './HideForm';
import styles from './options.module.css';

const span = ({ low, high }: Span, unit: string) => (low === high ? `${low} ${unit}` : `${low} to ${high} ${unit}`);
const days = ({ low, high }: Span) =>
  high === 0 ? 'today' : low === high ? (low === 1 ? '1 day' : `${low} days`) : `${low === 0 ? 'today' : low} to ${high} days`;

const kindOf = ({ id }: ShownOption) => id.split('.')[0]!;
const wentWords = ({ n, within, p }: OptionOutcome) =>
  `${within} of ${n} such bills here stayed within their price; expect ${Math.round(p * 100)} of 100.`;

/** The options side by side: what each costs, takes, needs, risks and leaves unproven. */
export function OptionRows({
  options,
  open,
  act,
  money,
  decimals,
  chosen,
  choose,
  outcomes,
}: {
  options: ShownOption[];
  open: boolean;
  act: ReturnType<typeof useAct>;
  money: (amount: number) => string;
  decimals: number;
  chosen: readonly string[];
  choose: (id: string, on: boolean) => void;
  /** How the bills of agreed options went here, by the first word of their ids. */
  outcomes: Readonly<Record<string, OptionOutcome>>;
}) {
  const [edited, edit] = useState<{ id: string; what: 'change' | 'hide' } | null>(null);
  const done = () => edit(null);
  return (
    <ul className={styles.options} aria-label="Options">
      {options.map((o) => (
        <li key={o.id} data-chosen={chosen.includes(o.id) || undefined}>
          <div className={styles.choice}>
            {open ? (
              <label>
                <input type="checkbox" checked={chosen.includes(o.id)} onChange={(e) => choose(o.id, e.target.checked)} />
                <span>{o.title}</span>
              </label>
            ) : (
              <b>{o.title}</b>
            )}
            <p>{o.what}</p>
            {o.p !== null && <p className="quiet">{formatChance(o.p)} that this is what it needs</p>}
            {o.changed && (
              <p className="quiet">
                {o.kind === 'own' ? 'Added' : 'Changed'} by {o.changed.by}: {o.changed.reason}
              </p>
            )}
          </div>
          <dl>
            <div className={styles.price}>
              <dt>Price</dt>
              <dd>
                {money(o.price.low)}
                {o.price.high > o.price.low && <span className="quiet"> to {money(o.price.high)}</span>}
                {outcomes[kindOf(o)] && <p className="quiet">{wentWords(outcomes[kindOf(o)]!)}</p>}
              </dd>
            </div>
            <div>
              <dt>Work</dt>
              <dd>{span({ low: Math.round(o.minutes.low), high: Math.round(o.minutes.high) }, 'min')}</dd>
            </div>
            <div>
              <dt>Done in</dt>
              <dd>{days(o.days)}</dd>
            </div>
            <div>
              <dt>Needs</dt>
              <dd>{o.needs.length === 0 ? 'nothing else' : o.needs.join(', ')}</dd>
            </div>
          </dl>
          <dl>
            <div>
              <dt>What can go wrong</dt>
              <dd>
                {o.risks.length === 0
                  ? 'Nothing that is known.'
                  : o.risks.map((r, i) => (
                      <p key={i}>
                        {r.say} {r.p !== null && r.p < 1 && <span className="quiet">{formatChance(r.p)}</span>}
                      </p>
                    ))}
              </dd>
            </div>
            <div>
              <dt>Stays unproven</dt>
              <dd>{o.unproven}</dd>
            </div>
            <div>
              <dt>Warranty</dt>
              <dd>{o.warranty}</dd>
            </div>
          </dl>
          {open && (
            <div className={styles.acts}>
              <button type="button" className={styles.plain} onClick={() => edit({ id: o.id, what: 'change' })}>
                Change <span className="hidden">“{o.title}”</span>
              </button>
              <button type="button" className={styles.plain} onClick={() => edit({ id: o.id, what: 'hide' })}>
                Hide <span className="hidden">“{o.title}”</span>
              </button>
            </div>
          )}
          {open && edited?.id === o.id && (
            <div className={styles.edit}>
              {edited.what === 'change' ? (
                <OptionForm act={act} option={o} decimals={decimals} done={done} />
              ) : (
                <HideForm act={act} option={o} done={done} />
              )}
            </div>
          )}
        </li>
      ))}
    </ul>
  );
}
