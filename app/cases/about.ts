import type { DiagnosisView } from '../../server/diagnosis/diagnosis';
import type { LedgerEntry } from '../../server/record/cases';
import type { CaseView } from './page';

/** What the page speaks about: a link of the chain, or a fault in the place it has. */
export type Subject = { kind: 'link' | 'fault'; id: string };

type Weighed = NonNullable<DiagnosisView['weighed']>;

/** The fault that a hypothesis is of, and its key. */
export function faultOf(weighed: Weighed, id: string) {
  const [fault = '', key] = id.split('@');
  const known = weighed.faults[fault];
  return { id: fault, key, title: known ? known.title + (key ? `, tag ${key}` : '') : 'Something else', known };
}

export const subjectTitle = (page: CaseView, weighed: Weighed, { kind, id }: Subject): string =>
  kind === 'link' ? (page.links[id] ?? id) : faultOf(weighed, id).title;

/** Weights of the entries for or against it, by the entry's id, with the log-odds before and now in decibans. */
export const explanationOf = (weighed: Weighed, { kind, id }: Subject) =>
  kind === 'link' ? weighed.explained.links[id] : weighed.explained.faults[id];

/** A line of the ledger in one sentence. */
export function sayEntry(page: CaseView, id: string): string {
  const supposed = /^if-(\d+)$/.exec(id);
  const entry: Pick<LedgerEntry, 'test' | 'outcome' | 'key'> | undefined = supposed
    ? supposedOf(page.supposing[Number(supposed[1])])
    : page.record.evidence.find((e) => e.id === id);
  if (entry) {
    const test = page.tests[entry.test];
    return `${test?.title ?? entry.test}${entry.key ? `, tag ${entry.key}` : ''}: ${test?.outcomes[entry.outcome ?? '']?.say ?? entry.outcome ?? ''}`;
  }
  if (id.startsWith('run-')) return 'The relearn that fixes it is finished, and it works.';
  const repairAction = page.record.repairActions.find((d) => d.id === id);
  return repairAction
    ? `${page.diagnosis.weighed?.faults[repairAction.fault]?.cure.do ?? repairAction.fault} ${repairAction.result === 'works' ? 'It worked.' : 'It did not help.'}`
    : '';
}
const supposedOf = (s: { test: string; outcome: string; key?: string } | undefined) => s && { test: s.test, outcome: s.outcome, key: s.key ?? null };

/** The address of the case with another look at it; everything else in the address goes. */
export const caseWith = (page: CaseView, query: Record<string, string | readonly string[]>): string => {
  const search = new URLSearchParams();
  for (const [name, values] of Object.entries(query)) for (const value of [values].flat()) search.append(name, value as string);
  const text = search.toString();
  return `/cases/${page.record.id}${text === '' ? '' : `?${text}`}`;
};
