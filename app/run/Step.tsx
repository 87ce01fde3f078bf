import Button from '@mui/material/Button';
import { type CSSProperties, useRef, useState } from 'react';
import type { Ladder } from '../../core/ladder';
import type { Caution, LaidLamp } from '../../core/library';
import { type ExtraTries, oddsHere, type RunView } from '../../core/procedure';
import { formatChance, formatDuration, formatLeft } from '../../core/units';
import { Cautions, useCautions } from '../ui/Cautions';
import { useKeys } from '../ui/keys';
import { Lamp } from '../ui/Lamp';
import { later } from '../ui/later';
import type { OnResult } from './instruments/onResult';
import type { Commands } from './useCommands';
import styles from './run.module.css';
import { Numbers } from './Numbers';
import { type Communication, Reads } from './Reads';
import { WaitColumn } from './WaitColumn';

// Fields and dialogs come after the page, or when they are shown: a run is first of all read.
const SomethingElse = later('SomethingElse', async () => ({ default: (await import('./Dialogs')).SomethingElse }));
const StopRun = later('StopRun', async () => ({ default: (await import('./Dialogs')).StopRun }));
const Waive = later('Waive', async () => ({ default: (await import('./Dialogs')).Waive }));
const loading = <p className="quiet">Loading …</p>;
const ValueEntry = later('ValueEntry', () => import('./ValueEntry'), loading);
const NoteField = later('NoteField', () => import('./NoteField'), loading);
const Instrument = later('Instrument', async () => ({ default: (await import('./instruments/Instrument')).Instrument }), loading);

interface Props {
  shown: RunView;
  now: number;
  cautions: Readonly<Record<string, Caution>>;
  lamps: readonly LaidLamp[];
  /** The vehicle's value chart, where a step asks for a resistor key. */
  ladder: Ladder | null;
  /** How often an extra cycle of this procedure brought it in this shop. */
  odds: ExtraTries | null;
  /** What the case's last scan says of communication. */
  communication: Communication | null;
  commands: Commands;
}

/** One instruction, what should be seen, the time, and what can be answered. */
export function Step({ shown, now, cautions: known, lamps, ladder, odds, communication, commands }: Props) {
  const { busy, send } = commands;
  const cautions = useCautions(shown.cautions, known);
  const [dialog, open] = useState<'else' | 'stop' | 'waive' | null>(null);
  const lamp = lamps.find((l) => l.id === shown.lamp);
  const { wait } = shown;
  // The light that the wait shows is meant to be over with it.
  const overdue = wait?.kind === 'least' && wait.amberAt !== undefined && now >= wait.until;
  const [note, setNote] = useState('');
  const [noteMissing, setNoteMissing] = useState(false);
  const noteField = useRef<HTMLTextAreaElement>(null);
  const answer = (id: string, value?: number) => {
    if (busy || !cautions.clear || shown.instrument) return;
    const said = note.trim();
    if (shown.noted.includes(id) && said === '') {
      setNoteMissing(true);
      noteField.current?.focus();
      return;
    }
    send({ type: 'answer', step: shown.step, answer: id, ...(value === undefined ? {} : { value }), ...(said === '' ? {} : { note: said }) });
  };
  const onResult: OnResult = (id, found) => {
    if (busy || !cautions.clear) return;
    const { note: said = '', result } = { note: undefined, result: undefined, ...found };
    send({ type: 'answer', step: shown.step, answer: id, ...(result ? { result } : {}), ...(said === '' ? {} : { note: said }) });
  };
  const takeBack = () => {
    if (!busy && shown.takeBack) send({ type: 'takeBack', event: shown.takeBack.event });
  };
  const byKey: Record<string, string> = { lampOut: 'o', stillOn: 's' };
  const keyOf = (id: string, i: number) => byKey[id] ?? String(i + 1);
  const first = shown.answers[0];
  useKeys([
    ...(shown.value || shown.instrument
      ? []
      : shown.answers.map((a, i) => ({ keys: keyOf(a.id, i), shown: keyOf(a.id, i), say: a.say, act: () => answer(a.id) }))),
    ...(first && !shown.value && !shown.instrument && shown.answers.length === 1
      ? [{ keys: 'Enter', shown: 'Enter', say: first.say, act: () => answer(first.id) }]
      : []),
    ...(shown.takeBack ? [{ keys: 'u', shown: 'u', say: `undo “${shown.takeBack.say}”`, act: takeBack }] : []),
  ]);

  return (
    <div className={styles.step} data-wait={wait ? '' : undefined}>
      {wait && <WaitColumn wait={wait} now={now} attention={shown.attention} />}
      <div className={styles.act}>
        <p className={styles.round}>
          {shown.round ?? ' '}
          {shown.notice && (
            <span className={styles.notice} data-kind={shown.notice.kind} role="status">
              {shown.notice.text}
            </span>
          )}
        </p>
        <h1 className={styles.instruction}>{shown.instruction}</h1>
        {wait && <WaitTime shown={shown} now={now} />}
        {shown.hint && <p className={styles.hint}>{shown.hint}</p>}
        {shown.reads && <Reads communication={communication} />}
        {shown.extra && <p className={styles.hint}>{extraWords(shown.extra, odds)}</p>}
        {lamp && !overdue && (
          <div className={styles.lamp}>
            <Lamp pattern={lamp} size="large" />
            <p>should be: {lamp.title.toLowerCase()}</p>
          </div>
        )}
        {lamp && overdue && <p className={styles.hint}>The security light should be out by now.</p>}
        {shown.warning && (
          <p className={styles.warning} data-attention={shown.attention} role="alert">
            {shown.warning}
          </p>
        )}
        <Cautions state={cautions} />
        {shown.warnings.map((w) => (
          <p key={w} className={styles.warning} data-attention="amber">
            {w}
          </p>
        ))}
        {shown.noted.length > 0 && !shown.instrument && (
          <NoteField
            note={note}
            put={(text) => {
              setNote(text);
              setNoteMissing(false);
            }}
            missing={noteMissing}
            field={noteField}
          />
        )}
        {shown.value ? (
          <ValueEntry value={shown.value} busy={busy} onRecord={(value) => answer('measured', value)} />
        ) : shown.instrument ? (
          cautions.clear && <Instrument run={shown} ladder={ladder} busy={busy} onResult={onResult} />
        ) : (
          <div className={styles.answers}>
            {shown.answers.map((a, i) => (
              <button key={a.id} type="button" className={styles.answer} disabled={busy || !cautions.clear} onClick={() => answer(a.id)}>
                <span className="keycap" aria-hidden="true">
                  {keyOf(a.id, i)}
                </span>
                <span>
                  {a.say}
                  {a.hint && <small>{a.hint}</small>}
                </span>
              </button>
            ))}
          </div>
        )}
        <Numbers numbers={shown.numbers} commands={commands} />
        <div className={styles.tools}>
          {shown.takeBack && (
            <Button variant="outlined" color="inherit" onClick={takeBack} disabled={busy}>
              <span className="keycap" aria-hidden="true" style={{ marginRight: 12 }}>
                u
              </span>
              Undo “{shown.takeBack.say}”
            </Button>
          )}
          <Button variant="outlined" color="inherit" onClick={() => open('else')}>
            Something else happened
          </Button>
          {shown.waivable && (
            <Button variant="outlined" color="inherit" onClick={() => open('waive')}>
              Waive, as lead
            </Button>
          )}
          <Button variant="outlined" color="error" onClick={() => open('stop')} className={styles.stop!}>
            Stop the run
          </Button>
        </div>
        <SomethingElse shown={dialog === 'else'} open={dialog === 'else'} onClose={() => open(null)} run={shown} busy={busy} send={send} />
        <StopRun shown={dialog === 'stop'} open={dialog === 'stop'} onClose={() => open(null)} busy={busy} send={send} />
        <Waive shown={dialog === 'waive'} open={dialog === 'waive'} onClose={() => open(null)} step={shown.step} busy={busy} send={send} />
      </div>
    </div>
  );
}

/** The count itself, with what it counts to. */
function WaitTime({ shown, now }: { shown: RunView; now: number }) {
  const wait = shown.wait!;
  const over = now >= wait.until;
  const length = formatDuration((wait.until - wait.startedAt) / 1000);
  const count = over ? `+${formatDuration((now - wait.until) / 1000)}` : formatLeft(wait.until - now);
  // Hours over are longer than minutes left; on a phone the count gets as large as it can be.
  const letters = { '--letters': count.length } as CSSProperties;
  return (
    <div className={styles.time}>
      <span
        className={`mono ${styles.count}`}
        style={letters}
        data-attention={shown.attention}
        role="timer"
        aria-label={over ? 'Time over' : 'Time left'}
      >
        {count}
      </span>
      <span className={styles.until}>
        {wait.kind === 'most' ? (
          <>do it within {length}</>
        ) : (
          <>
            {over
              ? 'time’s up'
              : wait.lampNoted
                ? `wait ${length}; light out: noted`
                : `wait ${length}${wait.amberAt === undefined ? '' : ', until the light is out'}`}
            {wait.amberAt !== undefined && wait.redAt !== undefined && (
              <>
                <br />
                normal by {formatDuration((wait.amberAt - wait.startedAt) / 1000)} · stop at {formatDuration((wait.redAt - wait.startedAt) / 1000)}
              </>
            )}
          </>
        )}
      </span>
    </div>
  );
}

/** Whether one more cycle is worth it: what this shop has seen, with its numbers, and what the content expects. */
function extraWords({ n, odds }: NonNullable<RunView['extra']>, seen: ExtraTries | null): string {
  const here = !seen
    ? ''
    : seen.tried === 0
      ? 'This shop has tried no extra cycle yet.'
      : `In this shop an extra cycle did it ${seen.brought} of ${seen.tried} times.`;
  const expected =
    odds === null
      ? ''
      : seen && seen.tried > 0
        ? ` Expected with that: ${formatChance(oddsHere(odds, seen))}; the content’s estimate, which nobody has counted, is ${formatChance(odds)}.`
        : ` Expected: ${formatChance(odds)}, an estimate nobody has counted.`;
  return `Extra cycle ${n}. ${here}${expected}`.trim();
}
