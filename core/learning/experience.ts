import { type Learned, lineFrom } from '../diagnosis';
import { casesIn, type Tallies } from './tallies';

/** A case of another shop weighs a quarter of an own one, and all together no more than twenty. Our own choices. */
export const otherShops = { each: 0.25, most: 20 } as const;

/** What a case starts with: causes by fault (fractions, where other shops taught some), and the rest. */
export interface Experience {
  proven: Record<string, number>;
  learned: Learned;
}

/**
 * From the sums of a system type to what a case starts with.
 * @param others sums that came from other shops: only their causes count
 */
export function experienceOf(own: Tallies, others: readonly Pick<Tallies, 'causes'>[], line: string): Experience {
  const theirs = others.reduce((n, o) => n + casesIn(o), 0);
  const weight = theirs === 0 ? 0 : Math.min(otherShops.each, otherShops.most / theirs);
  const proven: Record<string, number> = { ...own.causes };
  for (const o of others) for (const [fault, n] of Object.entries(o.causes)) proven[fault] = (proven[fault] ?? 0) + n * weight;
  const ofLine = line === '' ? {} : (own.lines[line] ?? {});
  const minutes = (t: { timed: number; tenths: number }) => ({ n: t.timed, sum: t.tenths / 10 });
  return {
    proven,
    learned: {
      line: casesIn({ causes: ofLine }) >= lineFrom ? ofLine : {},
      slips: Object.fromEntries(Object.entries(own.tests).flatMap(([id, t]) => (t.n > 0 ? [[id, { n: t.n, off: t.off }]] : []))),
      testMinutes: Object.fromEntries(Object.entries(own.tests).flatMap(([id, t]) => (t.timed > 0 ? [[id, minutes(t)]] : []))),
      fixMinutes: Object.fromEntries(Object.entries(own.fixes).flatMap(([id, t]) => (t.timed > 0 ? [[id, minutes(t)]] : []))),
    },
  };
}
