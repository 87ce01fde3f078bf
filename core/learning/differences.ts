import { learnFrom } from '../diagnosis';
import { studentQuantile } from '../statistics';
import { assessTrials } from '../trials';
import type { Family } from '../library';
import { formatChance } from '../units';
import { sentences } from './sentences';
import { casesIn, type Tallies } from './tallies';

/** How sure a difference must be before it is said: shared among everything that is looked at of a kind, so that one in a hundred types says something wrong. */
const sure = 0.99;
const usualHumanError = 0.02;
/** Times counted before a difference of a mean is looked for. Our own choice. */
const fewestTimes = 5;

/** Something that is otherwise in this shop than the content says, by more than chance. Shares 0 to 1, or minutes. */
export interface Difference {
  kind: 'cause' | 'slip' | 'testMinutes' | 'fixMinutes';
  id: string;
  title: string;
  say: string;
  content: number;
  here: number;
  low: number;
  high: number;
  n: number;
}

/** What differs from the content by more than chance, the surest kinds first. */
export function differencesOf(family: Family, tallies: Tallies): Difference[] {
  const cases = casesIn(tallies);
  // What changes nothing yet is no news.
  if (cases < learnFrom) return [];
  return [...causes(family, tallies, cases), ...slips(family, tallies), ...times(family, tallies)];
}

/** Limits that hold for all of so many at once (Bonferroni). */
const confidence = (looked: number): number => 1 - (1 - sure) / Math.max(1, looked);

function causes(family: Family, { causes: counts }: Tallies, cases: number): Difference[] {
  const faults = family.faults ?? [];
  const total = faults.reduce((n, f) => n + f.prior, 0);
  const rest = 1 - (family.elsewhere?.prior ?? 0.05);
  return faults.flatMap((f): Difference[] => {
    const content = (f.prior / total) * rest;
    const n = counts[f.id] ?? 0;
    const { rate, low, high } = assessTrials(n, cases, { confidence: confidence(faults.length) });
    if (content >= low && content <= high) return [];
    const here = rate!;
    return [
      { kind: 'cause', id: f.id, title: f.title, content, here, low, high, n: cases, say: sentences.cause(f.title, n, cases, formatChance(content)) },
    ];
  });
}

function slips(family: Family, { tests }: Tallies): Difference[] {
  const judged = family.tests.filter((t) => (tests[t.id]?.n ?? 0) > 0);
  return judged.flatMap((t): Difference[] => {
    const { n, off } = tests[t.id]!;
    const content = t.humanError ?? usualHumanError;
    const { rate, low, high } = assessTrials(off, n, { confidence: confidence(judged.length) });
    if (content >= low && content <= high) return [];
    return [
      { kind: 'slip', id: t.id, title: t.title, content, here: rate!, low, high, n, say: sentences.slip(t.title, off, n, formatChance(content)) },
    ];
  });
}

function times(family: Family, { tests, fixes }: Tallies): Difference[] {
  const timed = [
    ...family.tests.map((t) => ({ kind: 'testMinutes' as const, id: t.id, title: t.title, usual: t.minutes, counted: tests[t.id] })),
    ...(family.faults ?? []).map((f) => ({ kind: 'fixMinutes' as const, id: f.id, title: f.title, usual: f.cure.minutes, counted: fixes[f.id] })),
  ].filter((t) => (t.counted?.timed ?? 0) >= fewestTimes);
  return timed.flatMap(({ kind, id, title, usual, counted }): Difference[] => {
    const { timed: n, tenths, squares } = counted!;
    const mean = tenths / n;
    const spread = Math.sqrt(Math.max(0, squares - n * mean * mean) / (n - 1));
    // A twentieth of a minute is as fine as it is counted.
    const half = Math.max(0.5, (studentQuantile(1 - (1 - confidence(timed.length)) / 2, n - 1) * spread) / Math.sqrt(n));
    const [low, high, here] = [(mean - half) / 10, (mean + half) / 10, mean / 10];
    if (usual >= low && usual <= high) return [];
    return [{ kind, id, title, content: usual, here, low, high, n, say: sentences.minutes(title, Math.round(here * 10) / 10, n, usual) }];
  });
}

/** Of what was said with so many hundredths, how much was so, with exact limits (95 %). */
export interface SaidTenth {
  from: number;
  to: number;
  n: number;
  right: number;
  low: number;
  high: number;
}
export const saidTenths = (tallies: readonly Pick<Tallies, 'said'>[]): SaidTenth[] =>
  Array.from({ length: 10 }, (_, i) => {
    const n = tallies.reduce((sum, t) => sum + t.said[i]!.n, 0);
    const right = tallies.reduce((sum, t) => sum + t.said[i]!.right, 0);
    const { low, high } = n === 0 ? { low: 0, high: 1 } : assessTrials(right, n);
    return { from: i * 10, to: i * 10 + 10, n, right, low, high };
  });
