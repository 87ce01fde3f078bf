import { useEffect, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import type { Step } from '../../core/diagnosis';
import type { DiagnosisView } from '../../server/diagnosis';
import type { CasePage } from './page';

/** How long the answers wait after the proposal has changed. */
const freshMs = 600;

export interface Shown {
  view: DiagnosisView;
  /** The answer that looks far ahead is not there yet. */
  looking: boolean;
  /** It proposes something else, and somebody had begun with what is shown. */
  other: Step | null;
  /** Somebody has begun with the proposal: it stays. */
  begin: () => void;
  /** The proposal has just changed: a touch now would have been meant for what stood there before. */
  fresh: boolean;
}

/** Equal for the same thing to do. */
export function nameOfStep(step: Step): string {
  switch (step.kind) {
    case 'test':
      return `test ${step.test.id} ${step.key ?? ''}`;
    case 'procedure':
      return `procedure ${step.procedure}`;
    case 'repair':
    case 'prove':
      return `${step.kind} ${step.fault} ${step.key ?? ''}`;
    default:
      return step.kind;
  }
}

/**
 * The diagnosis of a case: the first answer comes with the page, the one that looks far ahead a second or two later and takes its place, unless somebody
 * has begun with what is proposed.
 */
export function useDiagnosis(page: CasePage): Shown {
  const [search] = useSearchParams();
  const first = page.diagnosis;
  const name = first.weighed?.name ?? '';
  const [far, setFar] = useState<{ view: DiagnosisView; begun: boolean } | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const begun = useRef<string | null>(null);
  const [seenName, setSeen] = useState<string | null>(null);
  const open = page.record.state === 'open';
  const wanted = open && first.weighed !== null && !first.weighed.final;
  const query = search
    .getAll('if')
    .map((text) => `if=${encodeURIComponent(text)}`)
    .join('&');

  useEffect(() => {
    if (!wanted) return;
    const gone = new AbortController();
    fetch(`/cases/${page.record.id}/diagnosis?${query}`, { signal: gone.signal, headers: { Accept: 'application/json' } })
      .then(async (answer) => {
        if (!answer.ok) throw new Error(String(answer.status));
        const view = (await answer.json()) as DiagnosisView;
        // Whoever has begun by now goes on with what they have begun.
        setFar({ view, begun: begun.current === name });
      })
      .catch(() => {
        // The first answer is a good one; it stays.
        if (!gone.signal.aborted) setFailed(name);
      });
    return () => gone.abort();
  }, [wanted, name, query, page.record.id]);

  const there = far && far.view.weighed?.name === name ? far.view : null;
  const same = there && nameOfStep(there.next[0]!) === nameOfStep(first.next[0]!);
  const keep = there !== null && far!.begun && !same;
  const view = there ? (keep ? { ...there, next: [first.next[0]!, ...there.next] } : there) : first;
  const changed = there !== null && !same && !keep;
  useEffect(() => {
    if (!changed) return;
    const wait = setTimeout(() => setSeen(name), freshMs);
    return () => clearTimeout(wait);
  }, [changed, name]);
  return {
    view,
    looking: wanted && there === null && failed !== name,
    other: keep ? there.next[0]! : null,
    begin: () => {
      begun.current = name;
    },
    fresh: changed && seenName !== name,
  };
}
