import type { Answered } from '../ui/useAct';
import { inSentence } from '../../core/units';
import Button from '@mui/material/Button';
import { Link, useFetcher } from 'react-router';
import { triesInARow } from '../../core/diagnosis';
import { changes, measurementWords, symptoms } from '../../core/library';
import type { RepairAction, LedgerEntry } from '../../server/record/cases';
import type { DiagnosisView } from '../../server/diagnosis/diagnosis';
import type { LookLine } from '../../server/record/looks';
import type { MeasurementLine } from '../../server/record/cases';
import type { CasePage } from './page';
import { TimeLine } from '../bench/TimeLine';
import { useTimes } from '../ui/clock';
import { useActIds } from '../ui/useActIds';
import { LinkDot, stateWords } from '../ui/LinkGlyph';
import { Measured } from './Measured';
import { caseWith, explanationOf, type Subject, subjectTitle } from './about';
import styles from './Ledger.module.css';
import { Strokes } from './Strokes';

/**
 * Findings, in order of time, each line with its weight for or against what the page speaks about: a link, or a fault. With a link chosen, the lines
 * that speak on it are marked.
 */
export function Ledger({ page, view, subject, chosen }: { page: CasePage; view: DiagnosisView; subject: Subject | null; chosen: boolean }) {
  const { record } = page;
  const { hm } = useTimes();
  const link = chosen && subject?.kind === 'link' ? subject.id : null;
  const because = new Set(view.links.find((l) => l.id === link)?.because.map((b) => b.evidence));
  // A look that showed nothing for certain is no evidence, and stands here all the same.
  const looks = record.looks.filter((l) => !record.evidence.some((e) => e.lookId === l.id));
  const measured = record.measurements.filter((m) => !record.evidence.some((e) => e.measurementId === m.id));
  const lines = [...record.evidence, ...record.repairActions, ...looks, ...measured].sort((a, b) => timeOf(a) - timeOf(b) || seqOf(a) - seqOf(b));
  const folded = triesInARow(lines);
  const explanation = view.weighed && subject ? explanationOf(view.weighed, subject) : undefined;
  const changed = record.changed.map((c) => changes[c.what as keyof typeof changes]);
  const note = record.changed.find((c) => c.note !== '')?.note;
  return (
    <aside className={styles.ledger} aria-labelledby="ledger">
      <h2 id="ledger">Findings</h2>
      {view.weighed && subject && record.evidence.length > 0 && (
        <p className={styles.scale}>
          against · for <b>{subjectTitle(page, view.weighed, subject)}</b>
        </p>
      )}
      <ol>
        <li className={styles.entry}>
          <span className="mono">{hm(record.openedAt)}</span>
          <div>
            <b>Customer</b>
            <p>{record.words}</p>
            {record.symptoms.length > 0 && (
              <p className="quiet">{record.symptoms.map((s) => inSentence(symptoms[s as keyof typeof symptoms])).join(', ')}</p>
            )}
            {record.complaint.phone && <p className="quiet">On the phone: {record.complaint.phone.join('; ')}</p>}
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
                      {i.by} · <Link to={`/cases/${record.id}/identify`}>identify again</Link>
                    </p>
                  </div>
                </li>,
              ],
        )}
        {folded.map(({ line: l, times }) =>
          'test' in l ? (
            <Entry key={l.id} entry={l} page={page} view={view} marked={because.has(l.id)} weight={explanation?.weights[l.id]} />
          ) : 'fault' in l ? (
            <Done key={l.id} repairAction={l} times={times} page={page} view={view} weight={explanation?.weights[l.id]} />
          ) : 'verdict' in l ? (
            <Kept key={l.id} measurement={l} />
          ) : (
            <Watched key={l.id} look={l} />
          ),
        )}
      </ol>
      {lines.length === 0 && <p className="quiet">Every result is listed here with its time and what it says about the chain.</p>}
    </aside>
  );
}

type Line = LedgerEntry | RepairAction | LookLine | MeasurementLine;
const timeOf = (line: Line): number => ('at' in line ? line.at : line.occurredAt);
const seqOf = (line: Line): number => ('seq' in line ? line.seq : 0);

const repairActionWords: Record<RepairAction['kind'], Record<'works' | 'fails' | 'done', string>> = {
  repair: { works: 'Done: it works now', fails: 'Done: no better', done: 'Done, not tried yet' },
  broughtBack: { works: 'Fault put back: still works', fails: 'Fault put back: fails again' },
  takenAway: { works: 'Fault removed: works again', fails: 'Fault removed: still fails' },
  triedAgain: { works: 'Tried again: worked', fails: 'Tried again: failed' },
} as Record<RepairAction['kind'], Record<'works' | 'fails' | 'done', string>>;

/** A repair, or its cause brought back and taken away. */
function Done({
  repairAction,
  times,
  page,
  view,
  weight,
}: {
  repairAction: RepairAction;
  /** Starts in a row that this line stands for. */
  times: number;
  page: CasePage;
  view: DiagnosisView;
  weight: number | undefined;
}) {
  const { hm } = useTimes();
  const title =
    (repairAction.foreign ? page.earlier[repairAction.familyHash]?.faults[repairAction.fault] : view.weighed?.faults[repairAction.fault]?.title) ??
    repairAction.fault;
  const what = `${title}${repairAction.key ? `, tag ${repairAction.key}` : ''}`;
  const gone = page.record.repairActions.some((d) => d.replaces === repairAction.id);
  if (repairAction.result === null)
    return (
      <li className={styles.entry}>
        <span className="mono">{hm(repairAction.occurredAt)}</span>
        <p className="quiet">
          {what} withdrawn by {repairAction.by}
        </p>
      </li>
    );
  return (
    <li className={styles.entry} data-gone={gone || undefined}>
      <span className="mono">{hm(repairAction.occurredAt)}</span>
      <div>
        <b>{what}</b>
        <p>
          {repairActionWords[repairAction.kind][repairAction.result]}
          {times > 1 ? `, ${times} in a row` : ''}
        </p>
        {repairAction.note !== '' && <p className="quiet">{repairAction.note}</p>}
        <By line={repairAction} />
        {repairAction.foreign && <p className="quiet">Recorded under another system type. It doesn’t count here.</p>}
        {!gone && weight !== undefined && <Strokes decibans={weight} />}
        {!gone && (
          <Mend
            page={page}
            id={repairAction.id}
            to={{ fix: repairAction.fault, ...(repairAction.key ? { key: repairAction.key } : {}), replaces: repairAction.id }}
            correct={repairAction.kind === 'repair' && !repairAction.foreign}
          />
        )}
      </div>
    </li>
  );
}

const By = ({ line, inRun }: { line: LedgerEntry | RepairAction; inRun?: boolean }) => (
  <p className={styles.by}>
    {line.by}
    {inRun ? ', in a run' : ''}
    {line.minutes !== null ? `, ${line.minutes} min` : ''}
  </p>
);

/** A line that is wrong is corrected by another one, or withdrawn; it stays, struck out. */
function Mend({ page, id, to, correct }: { page: CasePage; id: string; to: Record<string, string>; correct: boolean }) {
  const fetcher = useFetcher<Answered>({ key: 'case' });
  const one = useActIds(fetcher);
  if (page.record.state !== 'open' || page.supposing.length > 0) return null;
  return (
    <p className={styles.mend}>
      {correct && (
        <Link to={caseWith(page, to)} className={styles.correct}>
          Correct
        </Link>
      )}
      <Button
        size="small"
        color="inherit"
        className={styles.withdraw!}
        disabled={fetcher.state !== 'idle'}
        onClick={() => {
          one(
            id,
            (commandId) => void fetcher.submit({ intent: 'withdraw', commandId, entry: id }, { method: 'post', action: `/cases/${page.record.id}` }),
          );
        }}
      >
        Withdraw
      </Button>
    </p>
  );
}

function Entry({
  entry,
  page,
  view,
  marked,
  weight,
}: {
  entry: LedgerEntry;
  page: CasePage;
  view: DiagnosisView;
  marked: boolean;
  weight: number | undefined;
}) {
  const { hm } = useTimes();
  const earlier = entry.foreign ? page.earlier[entry.familyHash] : undefined;
  const test = (earlier?.tests ?? page.tests)[entry.test];
  const look = page.record.looks.find((l) => l.id === entry.lookId && l.origin !== 'eye');
  const measurement = page.record.measurements.find((m) => m.id === entry.measurementId);
  const gone = page.record.evidence.some((e) => e.replaces === entry.id);
  const says = view.links.flatMap((l) => l.because.filter((b) => b.evidence === entry.id).map((b) => ({ link: l.title, state: b.state })));
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
        {measurement && <Measured measurement={measurement} />}
        {entry.note !== '' && <p className="quiet">{entry.note}</p>}
        <By line={entry} inRun={entry.runId !== null} />
        {earlier && <p className="quiet">Seen under: {earlier.title}. It doesn’t count here.</p>}
        {!gone && weight !== undefined && <Strokes decibans={weight} />}
        {!gone && says.length > 0 && <Says says={says} />}
        {!gone && entry.runId === null && (
          <Mend
            page={page}
            id={entry.id}
            to={{ do: entry.test, ...(entry.key ? { key: entry.key } : {}), replaces: entry.id }}
            correct={!entry.foreign && test !== undefined}
          />
        )}
      </div>
    </li>
  );
}

/** A measurement that answered no test. */
function Kept({ measurement: m }: { measurement: MeasurementLine }) {
  const { hm } = useTimes();
  return (
    <li className={styles.entry}>
      <span className="mono">{hm(m.at)}</span>
      <div>
        <b>
          {measurementWords[m.kind]}
          {m.key ? `, tag ${m.key}` : ''}
        </b>
        <Measured measurement={m} />
        <p className="quiet">
          {m.simulated && <b>Simulated meter, no vehicle was measured. </b>}
          {m.verdict}
        </p>
        <p className={styles.by}>{m.by}</p>
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
        <b>Light watched{look.key ? `, tag ${look.key}` : ''}</b>
        {look.origin !== 'eye' && <TimeLine look={look} />}
        <p className="quiet">{look.reading?.verdict ?? 'It says nothing for the system type of this case. The taps are saved.'}</p>
      </div>
    </li>
  );
}

/** What a line says of the links; an outcome that proves the whole chain says so once. */
function Says({ says }: { says: { link: string; state: keyof typeof stateWords }[] }) {
  if (says.length > 6 && says.every((s) => s.state === 'holds')) {
    return (
      <p className={styles.says}>
        <LinkDot state="holds" /> every link good
      </p>
    );
  }
  return (
    <ul className={styles.says}>
      {says.map((s) => (
        <li key={s.link}>
          <LinkDot state={s.state} /> {inSentence(s.link)} <span className="hidden">{stateWords[s.state]}</span>
        </li>
      ))}
    </ul>
  );
}
