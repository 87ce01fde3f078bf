import { leafTitle } from './decide';
import { sentences } from './sentences';
import { kindOf, type LeafStep, type Step, type StepKind } from './definition';

/** One line of a procedure as it is edited: a step, or the head of a loop or of a case that holds some. */
export interface EditLine {
  /** Of a step or loop; of a case `choice name`. */
  id: string;
  /** How deep it stands; 0: outside every loop and case. */
  depth: number;
  kind: StepKind | 'case';
  /** What it says; of a loop nothing. */
  words: string;
  /** Null where it has none: loops, cases, waits and choices. */
  hint: string | null;
  /** What can be answered, by the answer's id. */
  says: Readonly<Record<string, string>>;
  /** Its place among those it can be moved along, from 0, and how many they are; undefined for a case. */
  place?: { at: number; of: number };
}

/** What a person may change of a step: its words. What it waits for, leads to and records stays. */
export interface Reworded {
  words?: string;
  hint?: string;
  says?: Readonly<Record<string, string>>;
}

const isLoop = (step: Step): step is Extract<Step, { repeat: unknown } | { each: unknown }> => 'repeat' in step || 'each' in step;
const idOf = (step: Step): string => ('repeat' in step ? step.repeat.id : 'each' in step ? step.each.id : 'use' in step ? step.use : step.id);
const isLeaf = (step: Step): step is LeafStep => !isLoop(step) && !('use' in step);

const hasHint = (step: LeafStep): step is Exclude<LeafStep, { wait: unknown } | { choice: unknown }> => !('wait' in step) && !('choice' in step);

/** The steps of a procedure line by line, those of loops and cases below their heads. */
export function linesOf(steps: readonly Step[], depth = 0): EditLine[] {
  return steps.flatMap((step, at): EditLine[] => {
    const own = { id: idOf(step), depth, kind: kindOf(step), hint: null, says: {}, place: { at, of: steps.length } };
    if (isLoop(step)) return [{ ...own, words: '' }, ...linesOf(step.steps, depth + 1)];
    if (!isLeaf(step)) return [{ ...own, words: step.use }];
    const says = 'answers' in step ? step.answers : 'cases' in step ? step.cases : {};
    const line: EditLine = {
      ...own,
      words: leafTitle(step),
      hint: hasHint(step) ? (step.hint ?? '') : null,
      says: Object.fromEntries(Object.entries(says).map(([name, { say }]) => [name, say])),
    };
    if (!('cases' in step)) return [line];
    const cases = Object.entries(step.cases).flatMap(([name, one]): EditLine[] =>
      one.steps.length === 0
        ? []
        : [{ id: `${step.id} ${name}`, depth: depth + 1, kind: 'case', words: one.say, hint: null, says: {} }, ...linesOf(one.steps, depth + 2)],
    );
    return [line, ...cases];
  });
}

/** Every list of steps that stand beside each other, changed. */
function eachList(steps: readonly Step[], change: (list: readonly Step[]) => readonly Step[]): Step[] {
  return change(steps).map((step): Step => {
    if (isLoop(step)) return { ...step, steps: eachList(step.steps, change) };
    if (!('cases' in step)) return step;
    return {
      ...step,
      cases: Object.fromEntries(Object.entries(step.cases).map(([name, one]) => [name, { ...one, steps: eachList(one.steps, change) }])),
    };
  });
}

/** A step moved to the place of another one beside it; nothing moves where they don't stand in the same loop or case. */
export const moved = (steps: readonly Step[], id: string, to: string): Step[] =>
  eachList(steps, (list) => {
    const [from, at] = [list.findIndex((s) => idOf(s) === id), list.findIndex((s) => idOf(s) === to)];
    if (from < 0 || at < 0 || from === at) return list;
    const rest = list.toSpliced(from, 1);
    return rest.toSpliced(at, 0, list[from]!);
  });

/** The same by so many places; nothing moves beyond the ends. */
export function movedBy(steps: readonly Step[], id: string, by: -1 | 1): Step[] {
  return eachList(steps, (list) => {
    const from = list.findIndex((s) => idOf(s) === id);
    const to = from < 0 ? undefined : list[from + by];
    return to === undefined ? list : moved(list, id, idOf(to));
  });
}

/** Without a step, or a loop with all that is in it. */
export const without = (steps: readonly Step[], id: string): Step[] => eachList(steps, (list) => list.filter((s) => idOf(s) !== id));

/** A plain step of the shop after another one. */
export function addedAfter(steps: readonly Step[], id: string, words: string): Step[] {
  const taken = new Set(linesOf(steps).map((l) => l.id));
  let n = 1;
  while (taken.has(`own${n}`)) n += 1;
  const step: Step = { id: `own${n}`, do: words, done: sentences.writtenDone, cautions: [], takes: 10 };
  return eachList(steps, (list) => {
    const at = list.findIndex((s) => idOf(s) === id);
    return at < 0 ? list : list.toSpliced(at + 1, 0, step);
  });
}

/** A step with other words; an empty hint goes away. */
export function reworded(steps: readonly Step[], id: string, { words, hint, says = {} }: Reworded): Step[] {
  const change = (step: Step): Step => {
    if (idOf(step) !== id || !isLeaf(step)) return step;
    const to = { ...step } as LeafStep & { hint?: string };
    if (words !== undefined) {
      if ('ask' in to) to.ask = words;
      else if ('observe' in to) to.observe = words;
      else if ('choice' in to) to.choice = { ...to.choice, ask: words };
      else if ('commitment' in to) to.commitment = words;
      else if ('confirm' in to) to.confirm = words;
      else to.do = words;
    }
    if (hint !== undefined && hasHint(step)) {
      delete to.hint;
      if (hint !== '') to.hint = hint;
    }
    const said = <T extends { say: string }>(all: Record<string, T>): Record<string, T> =>
      Object.fromEntries(Object.entries(all).map(([name, one]) => [name, { ...one, say: says[name] ?? one.say }]));
    if ('answers' in to) to.answers = said(to.answers);
    if ('cases' in to) to.cases = said(to.cases);
    return to;
  };
  return eachList(steps, (list) => list.map(change));
}

/** A line in one sentence, for two versions side by side. */
export const lineInWords = ({ words, hint, says }: EditLine): string =>
  [words, hint && `(${hint})`, Object.values(says).join(' · ')].filter(Boolean).join(' ');
