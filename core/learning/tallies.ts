import type { Lesson } from './lesson';

/** Sums over the lessons of one system type: whole numbers only, so that a lesson that is taken out leaves exactly what was there before. */
export interface Tallies {
  /** Proven causes. */
  causes: Record<string, number>;
  /** The same by vehicle line. */
  lines: Record<string, Record<string, number>>;
  /** Answers that can be judged, and mistaken ones; counted times in tenths of a minute with the sum of their squares. */
  tests: Record<string, { n: number; off: number; timed: number; tenths: number; squares: number }>;
  fixes: Record<string, { timed: number; tenths: number; squares: number }>;
  /** By tenths of the chance that was said: how often, and how often it was so. */
  said: { n: number; right: number }[];
  missed: number;
  options: Record<string, { n: number; within: number }>;
  /** Cases in which somebody asked, and those that stayed fixed. */
  asked: number;
  stayed: number;
}

export const noTallies = (): Tallies => ({
  causes: {},
  lines: {},
  tests: {},
  fixes: {},
  said: Array.from({ length: 10 }, () => ({ n: 0, right: 0 })),
  missed: 0,
  options: {},
  asked: 0,
  stayed: 0,
});

/** Adds to a counter and forgets it at nothing. */
function bump(counts: Record<string, number>, name: string, by: number): void {
  const n = (counts[name] ?? 0) + by;
  if (n === 0) delete counts[name];
  else counts[name] = n;
}

function bumpAll<T extends Record<string, number>>(counts: Record<string, T>, name: string, by: T, sign: number): void {
  const before = counts[name];
  const next = Object.fromEntries(Object.entries(by).map(([k, v]) => [k, (before?.[k] ?? 0) + sign * v])) as T;
  if (Object.values(next).every((v) => v === 0)) delete counts[name];
  else counts[name] = next;
}

/** The sums with one lesson more, or less with `sign` −1. */
export function withLesson(tallies: Tallies, lesson: Lesson, sign: 1 | -1 = 1): Tallies {
  const t = structuredClone(tallies);
  if (lesson.cause !== null) {
    bump(t.causes, lesson.cause, sign);
    if (lesson.line !== '') {
      const line = { ...t.lines[lesson.line] };
      bump(line, lesson.cause, sign);
      if (Object.keys(line).length === 0) delete t.lines[lesson.line];
      else t.lines[lesson.line] = line;
    }
  }
  for (const { test, off, tenths } of lesson.tests)
    bumpAll(
      t.tests,
      test,
      { n: off === null ? 0 : 1, off: off === true ? 1 : 0, timed: tenths === null ? 0 : 1, tenths: tenths ?? 0, squares: (tenths ?? 0) ** 2 },
      sign,
    );
  for (const { fault, tenths } of lesson.fixes) bumpAll(t.fixes, fault, { timed: 1, tenths, squares: tenths ** 2 }, sign);
  if (lesson.said) {
    const cell = t.said[tenthOf(lesson.said.hundredths)]!;
    cell.n += sign;
    cell.right += lesson.said.right ? sign : 0;
  }
  t.missed += lesson.missed ? sign : 0;
  for (const { kind, within } of lesson.options) bumpAll(t.options, kind, { n: 1, within: within ? 1 : 0 }, sign);
  if (lesson.stayed !== null) {
    t.asked += sign;
    t.stayed += lesson.stayed ? sign : 0;
  }
  return t;
}

/** 0 to 9: 80 to 89 hundredths are 8, 100 is 9. */
export const tenthOf = (hundredths: number): number => Math.min(9, Math.floor(hundredths / 10));

export const casesIn = ({ causes }: Pick<Tallies, 'causes'>): number => Object.values(causes).reduce((a, b) => a + b, 0);
