import type { AgreementWay } from '../../core/options';
import { useKept } from '../ui/useKept';

/** An agreement that is being filled in. A signature is drawn again after a reload: it belongs to the moment. */
export interface Typed {
  chosen: string[];
  who: string;
  how: AgreementWay;
  words: string;
  limit: string;
}

const empty: Typed = { chosen: [], who: '', how: 'signature', words: '', limit: '' };

const isTyped = (kept: unknown): Typed | undefined => {
  const t = kept as Partial<Typed> | null;
  if (!t || !Array.isArray(t.chosen) || ![t.who, t.how, t.words, t.limit].every((x) => typeof x === 'string')) return undefined;
  return { ...empty, ...t };
};

/** It outlives a reload in this tab. */
export function useTyped(caseId: number) {
  const [value, put] = useKept<Typed>(`agreement.${caseId}`, empty, isTyped);
  return {
    value,
    set: (part: Partial<Typed>) => put((before) => ({ ...before, ...part })),
    choose: (id: string, on: boolean) =>
      put((before) => ({ ...before, chosen: on ? [...before.chosen.filter((c) => c !== id), id] : before.chosen.filter((c) => c !== id) })),
    clear: () => put(empty),
  };
}
