import { useCallback, useEffect, useMemo, useState, useSyncExternalStore } from 'react';
import { type CommandBody, fold, tell } from '../../core/procedure';
import type { ResolvedParam } from '../../core/library';
import type { Problem } from '../../core/units';
import { ahead, refusedHere, type RunHere } from '../offline/ahead';
import { outbox } from '../offline/browser';
import { emptyBox, type Pending } from '../offline/outbox';
import { useRevalidate, useTimes } from '../ui/clock';
import { newCommandId } from '../ui/commandId';

/**
 * Gives a run's commands to the queue (offline/outbox.ts), and tells where the run stands. Online the server says so: a command is done for this page when the
 * run it shows has moved on. Once an answer did not arrive, the page goes on by itself with what was answered here, until the server has all of it.
 */
export function useCommands(runId: number, run: RunHere & { params: Record<string, ResolvedParam> }, now: () => number) {
  const { program, values, events } = run;
  const box = useSyncExternalStore(
    useCallback((listener: () => void) => outbox().subscribe(listener), []),
    () => outbox().of(runId),
    () => emptyBox,
  );
  // Before anything can be answered, whenever the rest of the page comes.
  useEffect(() => void outbox().start(run.actor.id), [run.actor.id]);
  const revalidate = useRevalidate();
  const { hms } = useTimes();
  /** What this browser knows to be wrong while it is alone. */
  const [wrong, setWrong] = useState<Problem | null>(null);
  const known = useMemo(() => new Set(events.map((e) => e.id)), [events]);
  const pending = useMemo(() => [...box.accepted, ...box.waiting].filter((w) => !known.has(w.command.id)), [box, known]);
  const on = useMemo(
    () =>
      box.alone
        ? ahead(
            run,
            pending.map((w) => w.command),
          )
        : { events: [], held: pending.length > 0 },
    [box.alone, run, pending],
  );
  const state = useMemo(() => fold(program, values, [...events, ...on.events]), [program, values, events, on]);
  const busy = on.held;
  /** Answers of before that are on their way now. */
  const arriving = box.alone && box.unsent === null ? box.waiting.length : 0;

  // What was answered is loaded; what is loaded is no longer ahead.
  const accepted = box.accepted.length;
  useEffect(() => {
    if (accepted > 0) revalidate();
  }, [accepted, revalidate]);
  useEffect(() => outbox().seen(runId, (id) => known.has(id)), [runId, known, box]);
  const refused = box.problem;
  useEffect(() => {
    if (refused) revalidate();
  }, [refused, revalidate]);

  const send = useCallback(
    (body: CommandBody) => {
      if (busy) return;
      const command = { ...body, id: newCommandId(), expectedSeq: state.seq, occurredAt: now() } as Pending;
      const problem = box.alone ? refusedHere(run, state, command) : undefined;
      setWrong(problem && command.type !== 'number' ? { code: problem.code, path: '', message: problem.message } : null);
      if (problem && command.type !== 'number') return;
      void outbox().add(runId, command, said({ ...run, events: [...events, ...on.events] }, run.params, command, hms));
    },
    [runId, run, events, on, state, now, busy, box.alone, hms],
  );
  return { send, busy, unsent: box.unsent, problem: wrong ?? refused, state, waiting: box.waiting.length, arriving };
}

/** An answer as a line that can be read later, with its time; what can't be told here is told by its kind. */
function said(run: RunHere, params: Record<string, ResolvedParam>, command: Pending, time: (ms: number) => string): string {
  const next = ahead(run, [command]).events;
  const told = next.length > 0 ? tell(run.program, params, [...run.events, ...next]).at(-1)! : undefined;
  const reason = 'reason' in command ? command.reason : 'note' in command ? (command.note ?? '') : '';
  const words = told ? [told.instruction, told.said] : [command.type === 'number' ? `${command.name} ${command.value}` : command.type];
  return [time(command.occurredAt), ...words, reason].filter((part) => part !== '').join(' ');
}

export type Commands = ReturnType<typeof useCommands>;
