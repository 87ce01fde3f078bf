import Button from '@mui/material/Button';
import { Link, useFetcher } from 'react-router';
import { changes, symptoms } from '../../core/library';
import type { LedgerEntry } from '../../server/cases';
import type { LookLine } from '../../server/looks';
import type { CasePage } from './page';
import { TimeLine } from '../bench/TimeLine';
import { useTimes } from '../ui/clock';
import { newCommandId } from '../ui/commandId';
import { LinkDot, stateWords } from '../ui/LinkGlyph';
import type { action } from './case';
import styles from './Ledger.module.css';

/** What we know, in order of time. With a link chosen, the lines that speak on it are marked. */
export function Ledger({ page, link }: { page: CasePage; link: string | null }) {
  const { record, assessment } = page;
  const { hm } = useTimes();
  const because = new Set(assessment.links.find((l) => l.id === link)?.because.map((b) => b.evidence));
  // A look that showed nothing for certain is no evidence, and stands here all the same.
  const lines = [...record.evidence, ...record.looks.filter((l) => !record.evidence.some((e) => e.lookId === l.id))].sort(
    (a, b) => ('test' in a ? a.occurredAt : a.at) - ('test' in b ? b.occurredAt : b.at),
  );
  const changed = record.changed.map((c) => changes[c.what as keyof typeof changes]);
  const note = record.changed.find((c) => c.note !== '')?.note;
  return (
    <aside className={styles.ledger} aria-labelledby="ledger">
      <h2 id="ledger">What we know</h2>
      <ol>
        <li className={styles.entry}>
          <span className="mono">{hm(record.openedAt)}</span>
          <div>
            <b>Customer</b>
            <p>{record.words}</p>
            {record.symptoms.length > 0 && (
              <p className="quiet">{record.symptoms.map((s) => symptoms[s as keyof typeof symptoms].toLowerCase()).join(', ')}</p>
            )}
            {changed.length > 0 && (
              <p className={styles.changed}>
                {changed.join(', ')}
                {note ? `: ${note}` : ''}. What changed last is the first suspect.
              </p>
            )}
          </div>
        </li>
        {record.identifications.slice(-1).flatMap((i) =>
          Object.keys(i.seen).length === 0
            ? []
            : [
                <li key="identified" className={styles.entry}>
                  <span className="mono">{hm(i.at)}</span>
                  <div>
                    <b>System identified{record.identifications.length > 1 ? ' again' : ''}</b>
                    <p>{page.seen.map((s) => s.say).join(', ')}</p>
                    <p className={styles.by}>
                      {i.by} · <Link to={`/cases/${record.id}/identify`}>look again</Link>
                    </p>
                  </div>
                </li>,
              ],
        )}
        {lines.map((l) => ('test' in l ? <Entry key={l.id} entry={l} page={page} marked={because.has(l.id)} /> : <Watched key={l.id} look={l} />))}
      </ol>
      {lines.length === 0 && <p className="quiet">Each outcome that you record is written here with its time, and what it says of the chain.</p>}
    </aside>
  );
}

function Entry({ entry, page, marked }: { entry: LedgerEntry; page: CasePage; marked: boolean }) {
  const { hm } = useTimes();
  const fetcher = useFetcher<typeof action>({ key: 'case' });
  const earlier = entry.foreign ? page.earlier[entry.familyHash] : undefined;
  const test = (earlier?.tests ?? page.tests)[entry.test];
  const look = page.record.looks.find((l) => l.id === entry.lookId && l.origin !== 'eye');
  const gone = page.record.evidence.some((e) => e.replaces === entry.id);
  const says = page.assessment.links.flatMap((l) => l.because.filter((b) => b.evidence === entry.id).map((b) => ({ link: l.title, state: b.state })));
  if (entry.outcome === null) {
    return (
      <li className={styles.entry}>
        <span className="mono">{hm(entry.occurredAt)}</span>
        <p className="quiet">
          {test?.title} withdrawn by {entry.by}
        </p>
      </li>
    );
  }
  return (
    <li className={styles.entry} data-marked={marked || undefined} data-gone={gone || undefined}>
      <span className="mono">{hm(entry.occurredAt)}</span>
      <div>
        <b>
          {test?.title}
          {entry.key ? `, tag ${entry.key}` : ''}
        </b>
        <p>{test?.outcomes[entry.outcome]?.say ?? entry.outcome}</p>
        {look && <TimeLine look={look} />}
        {entry.note !== '' && <p className="quiet">{entry.note}</p>}
        <p className={styles.by}>
          {entry.by}
          {entry.runId ? ', in a run' : ''}
        </p>
        {earlier && <p className="quiet">Seen when it was taken for: {earlier.title}. It does not count here.</p>}
        {!gone && says.length > 0 && <Says says={says} />}
        {!gone && page.record.state === 'open' && entry.runId === null && (
          <Button
            size="small"
            color="inherit"
            className={styles.withdraw!}
            disabled={fetcher.state !== 'idle'}
            onClick={() =>
              void fetcher.submit(
                { intent: 'withdraw', commandId: newCommandId(), entry: entry.id },
                { method: 'post', action: `/cases/${page.record.id}` },
              )
            }
          >
            Withdraw
          </Button>
        )}
      </div>
    </li>
  );
}

/** A lamp that was watched and did not decide anything. */
function Watched({ look }: { look: LookLine }) {
  const { hm } = useTimes();
  return (
    <li className={styles.entry}>
      <span className="mono">{hm(look.at)}</span>
      <div>
        <b>Lamp watched{look.key ? `, tag ${look.key}` : ''}</b>
        {look.origin !== 'eye' && <TimeLine look={look} />}
        <p className="quiet">{look.reading?.verdict ?? 'It says nothing in the system that the case is worked as now. The taps are kept.'}</p>
      </div>
    </li>
  );
}

/** What a line says of the links; an outcome that proves the whole chain says so once. */
function Says({ says }: { says: { link: string; state: keyof typeof stateWords }[] }) {
  if (says.length > 6 && says.every((s) => s.state === 'holds')) {
    return (
      <p className={styles.says}>
        <LinkDot state="holds" /> every link held
      </p>
    );
  }
  return (
    <ul className={styles.says}>
      {says.map((s) => (
        <li key={s.link}>
          <LinkDot state={s.state} /> {s.link.toLowerCase()} <span className="hidden">{stateWords[s.state]}</span>
        </li>
      ))}
    </ul>
  );
}
