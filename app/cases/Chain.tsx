import { Link } from 'react-router';
import type { LinkStatus } from '../../core/diagnosis';
import { formatChance, inSentence } from '../../core/units';
import type { DiagnosisView } from '../../server/diagnosis/diagnosis';
import { LinkDot, LinkGlyph, stateWords } from '../ui/LinkGlyph';
import { caseWith, faultOf, sayEntry, type Subject } from './about';
import styles from './Chain.module.css';
import type { CasePage } from './page';
import { Strokes } from './Strokes';

interface Props {
  view: DiagnosisView;
  subject: Subject | null;
  onSubject: (subject: Subject) => void;
  page: CasePage;
}

/** The start chain across the page: its headline and its map. A link chosen shows how it works, what could be wrong there and what speaks on it. */
export function Chain({ view, subject, onSubject, page }: Props) {
  const selected = subject?.kind === 'link' ? subject.id : null;
  const chosen = view.links.find((l) => l.id === selected);
  return (
    <section className={styles.chain} aria-label="Start chain">
      <ol className={styles.links}>
        {view.links.map((link) => (
          <li key={link.id} data-state={link.state}>
            <button
              type="button"
              aria-pressed={link.id === selected}
              onClick={() => onSubject({ kind: 'link', id: link.id })}
              className={styles.link}
            >
              <LinkGlyph state={link.state} className={styles.glyph} />
              <span className={styles.title}>{link.title}</span>
              <span className={styles.why}>{shortWhy(link, page)}</span>
              <span className="hidden">{stateWords[link.state]}</span>
            </button>
          </li>
        ))}
      </ol>
      <details className={styles.legend}>
        <summary>What the bars mean</summary>
        <ul>
          {(Object.keys(stateWords) as (keyof typeof stateWords)[]).map((state) => (
            <li key={state}>
              <span>
                <LinkGlyph state={state} />
              </span>
              {stateWords[state]}
            </li>
          ))}
        </ul>
      </details>
      {chosen && <Chosen link={chosen} view={view} page={page} onSubject={onSubject} />}
    </section>
  );
}

function Chosen({ link, view, page, onSubject }: { link: LinkStatus; view: DiagnosisView; page: CasePage; onSubject: (s: Subject) => void }) {
  const { weighed } = view;
  const faults = weighed?.beliefs.filter((b) => b.link === link.id) ?? [];
  const p = faults.reduce((n, b) => n + b.p, 0);
  const weights = Object.entries(weighed?.explained.links[link.id]?.weights ?? {}).filter(([, w]) => Math.abs(w) >= 0.5);
  const made = new Set(page.record.evidence.map((e) => e.test));
  const tests = Object.values(page.tests).filter((t) => Object.values(t.outcomes).some((o) => o.says.some((s) => s.link === link.id)));
  return (
    <div className={styles.chosen}>
      <p className={styles.how}>
        <b>{link.title}</b>: {stateWords[link.state]}
        {weighed && `, chance that the fault is here ${formatChance(p)}`}. How it works: {link.how}
      </p>
      {link.state === 'doubtful' && weighed && (
        <p>
          {link.because.at(-1)?.state === 'holds' ? 'Last result good. Still not sure, because ' : 'Not sure, because '}
          {faults.length === 0 || p <= 0.05
            ? 'something recorded points against it.'
            : `${faults
                .slice(0, 2)
                .map((b) => `${inSentence(faultOf(weighed, b.id).title)} (${formatChance(b.p)})`)
                .join(' or ')} would look the same. Below 5 % it counts as good, from 80 % as bad.`}
        </p>
      )}
      {link.keys.length > 1 && (
        <p className={styles.keyStates}>
          {link.keys.map((k) => (
            <span key={k.tag}>
              <LinkDot state={k.state} /> tag {k.tag} {stateWords[k.state]}
            </span>
          ))}
        </p>
      )}
      <div className={styles.parts}>
        {weighed && (
          <section aria-label={`Faults on ${link.title}`}>
            <h3>What can be wrong here</h3>
            {faults.length === 0 && <p className="quiet">No known fault of this system type is on this link.</p>}
            <ul>
              {faults.slice(0, 6).map((b) => (
                <li key={b.id}>
                  <button type="button" className={styles.fault} onClick={() => onSubject({ kind: 'fault', id: b.id })}>
                    <span>{faultOf(weighed, b.id).title}</span> <span className="mono">{formatChance(b.p)}</span>
                  </button>
                </li>
              ))}
            </ul>
          </section>
        )}
        <section aria-label={`Evidence on ${link.title}`}>
          <h3>What points to a fault here, and away from it</h3>
          {weights.length === 0 && (
            <p className="quiet">
              {link.because.length === 0 ? 'Nothing recorded says anything about this link yet.' : 'The lines about it are marked under Findings.'}
            </p>
          )}
          <ul>
            {weights.map(([id, w]) => (
              <li key={id} className={styles.weight}>
                <span>
                  <Strokes decibans={w} />
                </span>
                <span>{sayEntry(page, id)}</span>
              </li>
            ))}
          </ul>
        </section>
        <section aria-label={`Tests for ${link.title}`}>
          <h3>Tests for it</h3>
          {tests.length === 0 && <p className="quiet">No test checks this link by itself.</p>}
          <ul>
            {tests
              .sort((a, b) => Number(made.has(a.id)) - Number(made.has(b.id)) || a.minutes - b.minutes)
              .slice(0, 8)
              .map((t) => (
                <li key={t.id}>
                  <Link to={caseWith(page, { do: t.id })}>{t.title}</Link>{' '}
                  <span className="quiet">
                    {t.minutes} min{made.has(t.id) ? ', made' : ''}
                  </span>
                </li>
              ))}
          </ul>
        </section>
      </div>
    </div>
  );
}

/** The latest word on a link, short enough to stand under its name. */
function shortWhy(link: LinkStatus, page: CasePage): string {
  const known = link.keys.filter((k) => k.state !== 'unproven');
  if (link.keys.length > 1 && known.length > 0)
    return known.map((k) => `${k.tag} ${k.state === 'holds' ? 'yes' : k.state === 'broken' ? 'no' : 'not sure'}`).join(' · ');
  const last = link.because.at(-1);
  const entry = page.record.evidence.find((e) => e.id === last?.evidence);
  if (!entry?.outcome) return '';
  return inSentence(page.tests[entry.test]?.title ?? '');
}
