import Button from '@mui/material/Button';
import { useState } from 'react';
import { Link } from 'react-router';
import { formatChance, inSentence, moneyWords } from '../../core/units';
import type { DiagnosisView } from '../../server/diagnosis/diagnosis';
import { caseWith, explanationOf, faultOf, sayEntry, type Subject } from './about';
import styles from './Beliefs.module.css';
import type { CasePage } from './page';
import { Strokes } from './Strokes';

type Weighed = NonNullable<DiagnosisView['weighed']>;
/** Faults that are shown before somebody asks for all. */
const few = 5;
/** Two faults at once are spoken of from here on. */
const worthSaying = 0.05;

/** What it could be, the likeliest first; a fault chosen shows what speaks for and against it, and what is done about it. */
export function Beliefs({
  page,
  weighed,
  subject,
  onSubject,
}: {
  page: CasePage;
  weighed: Weighed;
  subject: Subject | null;
  onSubject: (s: Subject) => void;
}) {
  const [all, setAll] = useState(false);
  const chosen = subject?.kind === 'fault' ? subject.id : null;
  const shown = all ? weighed.beliefs : weighed.beliefs.filter((b, i) => i < few || b.id === chosen);
  const pair = weighed.pairs.top[0];
  return (
    <section className={styles.beliefs} data-open={chosen !== null || all || undefined} aria-labelledby="beliefs">
      <h2 id="beliefs" className="label">
        What it could be
      </h2>
      <ul className={styles.list}>
        {shown.map((b) => (
          <li key={b.id}>
            <button type="button" aria-pressed={b.id === chosen} className={styles.belief} onClick={() => onSubject({ kind: 'fault', id: b.id })}>
              <span>
                {faultOf(weighed, b.id).title}
                {faultOf(weighed, b.id).known && <small className={styles.link}>{page.links[faultOf(weighed, b.id).known!.link]}</small>}
              </span>
              <span className={styles.bar} aria-hidden="true">
                <span style={{ width: `${Math.max(1, b.p * 100)}%` }} />
              </span>
              <span className="mono">{formatChance(b.p)}</span>
            </button>
            {b.id === chosen && <Fault page={page} weighed={weighed} id={b.id} />}
          </li>
        ))}
      </ul>
      {weighed.beliefs.length > few && (
        <Button size="small" color="inherit" onClick={() => setAll(!all)} aria-expanded={all} sx={{ justifySelf: 'start' }}>
          {all ? 'Top causes only' : `All ${weighed.beliefs.length}, and why not another one`}
        </Button>
      )}
      {pair && weighed.pairs.p >= worthSaying && (
        <p className="quiet">
          Two at once: {formatChance(weighed.pairs.p)}, most likely {pair.faults.map((id) => inSentence(faultOf(weighed, id).title)).join(' with ')}.
          The figures above assume a single fault.
        </p>
      )}
    </section>
  );
}

/** Why this fault, and why not: what each entry says, what it looks like, what is done about it and how that is proven. */
function Fault({ page, weighed, id }: { page: CasePage; weighed: Weighed; id: string }) {
  const { known, id: fault, key } = faultOf(weighed, id);
  const belief = weighed.beliefs.find((b) => b.id === id)!;
  const { prior, now, weights } = explanationOf(weighed, { kind: 'fault', id })!;
  const entries = Object.entries(weights).filter(([, w]) => Math.abs(w) >= 0.05);
  const against = entries.filter(([, w]) => w < 0);
  const supposed = page.supposing.length > 0;
  return (
    <div className={styles.fault}>
      {known && <p>{known.looks}</p>}
      {!known && <p>None of the faults known for this system type. Hand it on to a specialist; that is a finding too.</p>}
      <p>
        {entries.length === 0
          ? 'Nothing recorded points to it or away from it yet.'
          : against.length === 0
            ? 'Nothing points away from it. For it:'
            : 'What points to it, and away from it:'}
      </p>
      <ul className={styles.weights}>
        <li>
          <span>
            <Strokes decibans={prior} />
          </span>{' '}
          <span className="quiet">before anything was seen</span>
        </li>
        {entries.map(([entry, w]) => (
          <li key={entry}>
            <span>
              <Strokes decibans={w} />
            </span>{' '}
            <span>{sayEntry(page, entry)}</span>
          </li>
        ))}
      </ul>
      <details className={styles.how}>
        <summary>How this was calculated</summary>
        <p>{startedAt(weighed, belief, fault)}</p>
        <p>
          In decibans, ten times the logarithm of the odds; a stroke above is two of them:{' '}
          <span className="mono">
            {decibans(prior)} {entries.map(([, w]) => decibans(w)).join(' ')} = {decibans(now)}
          </span>
          . The chances behind each line are in the Library, under this system type.
        </p>
      </details>
      {known && (
        <>
          <p>
            <b>Repair</b> {known.cure.do}{' '}
            <span className="quiet">
              {known.cure.minutes} min{known.cure.money ? `, about ${moneyWords(known.cure.money, page.currency)} of parts` : ''}
              {known.cure.penalty ? ', with a risk of its own' : ''}
            </span>
          </p>
          <p>
            <b>Proven</b> {known.prove.say}
          </p>
          {page.record.state === 'open' && !supposed && (
            <p>
              <Link to={caseWith(page, { fix: fault, ...(key ? { key } : {}) })}>Repair this</Link>
            </p>
          )}
        </>
      )}
    </div>
  );
}

const decibans = (x: number): string => `${x < 0 ? '−' : '+'}${Math.abs(x).toFixed(1)}`;

/** Both priors: the one that the case started with and keeps, and the family's. */
function startedAt(weighed: Weighed, belief: Weighed['beliefs'][number], fault: string): string {
  const family = formatChance(weighed.explained.familyPriors[belief.id] ?? 0);
  const cases = Object.values(weighed.proven).reduce((a, b) => a + b, 0);
  // Cases of other shops count in parts.
  const short = (n: number) => Math.round(n * 10) / 10;
  const counted =
    cases === 0 ? 'no proven case of this shop yet' : `${short(weighed.proven[fault] ?? 0)} of ${short(cases)} proven cases of this shop`;
  const { line, answers, times } = weighed.taught;
  const more = [line > 0 && `${line} of this vehicle line`, answers > 0 && `${answers} answers`, times > 0 && `${times} counted times`].filter(
    Boolean,
  );
  const own = more.length === 0 ? counted : `${counted} (with ${more.join(', ')})`;
  return `Started at ${formatChance(belief.prior)}: ${family} in this system type, ${own}, and what changed before. Now ${formatChance(belief.p)}.`;
}
