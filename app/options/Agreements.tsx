import type { Agreement, Refusal } from '../../core/options';
import { useTimes } from '../ui/clock';
import { Signed } from './Signed';
import { waySays } from './waySays';
import styles from './options.module.css';

/** Everything that the customer said, the latest first; an earlier agreement stays beside the one that took its place. */
export function Agreements({ said, money }: { said: readonly (Agreement | Refusal)[]; money: (amount: number) => string }) {
  const { day, hm } = useTimes();
  if (said.length === 0) return null;
  return (
    <section className={styles.said} aria-labelledby="said">
      <h2 id="said">Agreed so far</h2>
      <ol>
        {[...said].reverse().map((s, i) => (
          <li key={s.at}>
            <p>
              <b>{s.kind === 'agree' ? s.options.map((o) => o.title).join('; ') : 'Nothing more is wanted'}</b>
              {i > 0 && <span className="quiet"> (no longer counts)</span>}
            </p>
            {s.kind === 'agree' && (
              <p>
                {money(s.options.reduce((n, o) => n + o.price.low, 0))}
                {s.limit === null ? ', no limit' : `, at most ${money(s.limit)}`}
              </p>
            )}
            <p className="quiet">
              {waySays[s.how]}
              {s.who && `, ${s.who}`}, {day(s.at)} at {hm(s.at)}, written down by {s.by}. {s.words && `“${s.words}”`}
            </p>
            {s.signature && <Signed signature={s.signature} />}
            {s.declined.length > 0 && <p className="quiet">Not wanted: {s.declined.join('; ')}</p>}
          </li>
        ))}
      </ol>
    </section>
  );
}
