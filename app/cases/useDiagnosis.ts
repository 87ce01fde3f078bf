import { useEffect, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import type { Step } from '../../core/diagnosis';
import type { DiagnosisView } from '../../server/diagnosis/diagnosis';
import type { CasePage } from './page';

/** A proposal is replaced by itself only so soon after it came, and when nothing was touched: nobody's finger is on its way yet, ms. */
const unreadMs = 500;

export interface Shown {
  view: DiagnosisView;
  /** The answer that looks far ahead is not there yet. */
  looking: boolean;
  /** What looking further ahead proposes instead of what is shown, which stays until it is taken. */
  other: Step | null;
  /** Shows the other one in its place. */
  take: () => void;
}

/** Equal for the same thing to do. */
export function nameOfStep(step: Step): string {
  switch (step.kind) {
    case 'test':
      return `test ${step.test.id} ${step.key ?? ''}`;
    case 'procedure':
      return `procedure ${step.procedure}`;
    case 'repair':
      return `repair ${step.fault} ${step.key ?? ''}`;
    case 'prove':
      return `prove ${step.ask} ${step.fault} ${step.key ?? ''}`;
    default:
      return step.kind;
  }
}

/** The steps with the one that was shown before in front, as far as it can still be done. */
function heldFirst(held: Step, steps: Step[]): Step[] {
  const again = steps.find((s) => nameOfStep(s) === nameOfStep(held)) ?? (held.kind === 'procedure' ? held : undefined);
  return again ? [again, ...steps.filter((s) => s !== again)] : steps;
}

/**
 * The diagnosis of a case: the first answer comes with the page, the one that looks far ahead a second or two later. What is on the screen stays; another
 * proposal stands beside it, and takes its place by a touch.
 */
export function useDiagnosis(page: CasePage): Shown {
  const [search] = useSearchParams();
  const first = page.diagnosis;
  const name = first.weighed?.name ?? '';
  const [far, setFar] = useState<{ view: DiagnosisView; taken: boolean } | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const since = useRef({ name: '', at: 0, touched: false });
  const open = page.record.state === 'open';
  const wanted = open && first.weighed !== null && !first.weighed.final;
  const query = search
    .getAll('if')
    .map((text) => `if=${encodeURIComponent(text)}`)
    .join('&');

  useEffect(() => {
    since.current = { name, at: performance.now(), touched: false };
    const touch = () => (since.current.touched = true);
    const kinds = ['pointerdown', 'keydown', 'wheel'] as const;
    for (const kind of kinds) window.addEventListener(kind, touch, { capture: true, passive: true });
    return () => {
      for (const kind of kinds) window.removeEventListener(kind, touch, { capture: true });
    };
  }, [name]);

  useEffect(() => {
    if (!wanted) return;
    const gone = new AbortController();
    fetch(`/cases/${page.record.id}/diagnosis?${query}`, { signal: gone.signal, headers: { Accept: 'application/json' } })
      .then(async (answer) => {
        if (!answer.ok) throw new Error(String(answer.status));
        const view = (await answer.json()) as DiagnosisView;
        const { at, touched } = since.current;
        setFar({ view, taken: !touched && performance.now() - at < unreadMs });
      })
      .catch(() => {
        // The first answer is a good one; it stays.
        if (!gone.signal.aborted) setFailed(name);
      });
    return () => gone.abort();
  }, [wanted, name, query, page.record.id]);

  // As long as nothing was found out, what is shown stays also when the page is loaded anew, such as after authority was recorded.
  const ledger = `${page.record.id} ${page.record.evidence.length} ${page.record.repairActions.length} ${query}`;
  const [held, setHeld] = useState<{ ledger: string; step: Step } | null>(null);
  const start = held?.ledger === ledger ? heldFirst(held.step, first.next) : first.next;
  const there = far && far.view.weighed?.name === name ? far.view : null;
  const keep = there !== null && !far!.taken && nameOfStep(there.next[0]!) !== nameOfStep(start[0]!);
  const view = there ? (keep ? { ...there, next: [start[0]!, ...there.next] } : there) : { ...first, next: start };
  if (held?.ledger !== ledger || nameOfStep(held.step) !== nameOfStep(view.next[0]!)) setHeld({ ledger, step: view.next[0]! });
  return {
    view,
    looking: wanted && there === null && failed !== name,
    other: keep ? there.next[0]! : null,
    take: () => setFar(there && { view: there, taken: true }),
  };
}
