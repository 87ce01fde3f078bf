import type { Expression } from '../library';
import { leafTitle } from './decide';
import { sentences } from './sentences';
import { kindOf, type LeafStep, type Procedure, type Step, type StepKind, type Target } from './definition';

/** Names of what a step is measured by: its clock, its count, its limits. */
export const figureNames = ['min', 'max', 'window', 'amber', 'red', 'n', 'within', 'atLeast', 'atMost', 'length'] as const;
export type FigureOf = (typeof figureNames)[number];
/** One of them, as content says it: a number, or a number of the vehicle with one added. Times in seconds. */
export interface Figure {
  name: FigureOf;
  value: Expression;
  /** Of time `s`; of a count or a length empty; of a measured value its own. */
  unit: string;
}

/** Ways out of a step beside its answers. */
export const wayOuts = ['late', 'redTo', 'other', 'absent', 'differs', 'exhausted'] as const;
export type WayOut = (typeof wayOuts)[number];
/** Where something leads: an answer, by its id, or a way out. */
export interface Lead {
  answer?: string;
  way?: WayOut;
  to: Target;
}

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
  figures: readonly Figure[];
  leads: readonly Lead[];
  /** It stands in a loop. */
  looped: boolean;
  /** Its place among those it can be moved along, from 0, and how many they are; undefined for a case. */
  place?: { at: number; of: number };
}

/** What a person may change of the words of a step. */
export interface Reworded {
  words?: string;
  hint?: string;
  says?: Readonly<Record<string, string>>;
}

const isLoop = (step: Step): step is Extract<Step, { repeat: unknown } | { each: unknown }> => 'repeat' in step || 'each' in step;
const idOf = (step: Step): string => ('repeat' in step ? step.repeat.id : 'each' in step ? step.each.id : 'use' in step ? step.use : step.id);
const isLeaf = (step: Step): step is LeafStep => !isLoop(step) && !('use' in step);

const hasHint = (step: LeafStep): step is Exclude<LeafStep, { wait: unknown } | { choice: unknown }> => !('wait' in step) && !('choice' in step);

/** The part of a step that holds its figures. */
const holderOf = (step: Step): 'wait' | 'hold' | 'count' | 'value' | 'twoEntry' | 'repeat' | null =>
  (['wait', 'hold', 'count', 'value', 'twoEntry', 'repeat'] as const).find((name) => name in step) ?? null;

/** The limits of what a value can be at all, and how often a cycle must be, are no figures of a clock. */
const isFigure = (step: Step, name: FigureOf): boolean => !('value' in step && (name === 'min' || name === 'max'));

function figuresOf(step: Step): Figure[] {
  const holder = holderOf(step);
  const held = holder === null ? step : ((step as unknown as Record<string, unknown>)[holder] as object);
  const unit = (name: FigureOf) => ('value' in step ? step.value.unit : 'repeat' in step || name === 'n' || name === 'length' ? '' : 's');
  return figureNames.flatMap((name) => {
    const value = (held as Partial<Record<FigureOf, Expression>>)[name];
    return value === undefined || !isFigure(step, name) ? [] : [{ name, value, unit: unit(name) }];
  });
}

function leadsOf(step: Step): Lead[] {
  const answers = 'answers' in step ? Object.entries(step.answers).map(([answer, { to }]): Lead => ({ answer, to })) : [];
  const ways = wayOuts.flatMap((way): Lead[] => {
    const to = (step as Partial<Record<WayOut, Target>>)[way];
    return to === undefined ? [] : [{ way, to }];
  });
  return [...answers, ...ways];
}

/** Where a step may lead; the cycles only where it stands in one. */
export const targetsFor = ({ stops }: Pick<Procedure, 'stops'>, looped: boolean): Target[] => [
  'next',
  'restartStep',
  ...(looped ? (['restartCycle', 'leaveLoop'] as const) : []),
  'restart',
  ...Object.keys(stops).map((name) => `stop.${name}` as const),
];

/** The steps of a procedure line by line, those of loops and cases below their heads. */
export function linesOf(steps: readonly Step[], depth = 0, looped = false): EditLine[] {
  return steps.flatMap((step, at): EditLine[] => {
    const measured = { figures: figuresOf(step), leads: leadsOf(step), looped };
    const own = { id: idOf(step), depth, kind: kindOf(step), hint: null, says: {}, ...measured, place: { at, of: steps.length } };
    if (isLoop(step)) return [{ ...own, words: '' }, ...linesOf(step.steps, depth + 1, true)];
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
        : [
            { id: `${step.id} ${name}`, depth: depth + 1, kind: 'case', words: one.say, hint: null, says: {}, figures: [], leads: [], looped },
            ...linesOf(one.steps, depth + 2, looped),
          ],
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

/** A step with another figure; what is typed as a plain number is one. Whether it may stand there the lint says. */
export function refigured(steps: readonly Step[], id: string, name: FigureOf, value: string): Step[] {
  const typed = value.trim();
  const to: Expression = typed !== '' && Number.isFinite(Number(typed)) ? Number(typed) : typed;
  return eachList(steps, (list) =>
    list.map((step) => {
      if (idOf(step) !== id) return step;
      const holder = holderOf(step);
      if (holder === null) return { ...step, [name]: to };
      return { ...step, [holder]: { ...((step as unknown as Record<string, unknown>)[holder] as object), [name]: to } } as Step;
    }),
  );
}

/** A step of which an answer or a way out leads elsewhere. */
export function redirected(steps: readonly Step[], id: string, { answer, way, to }: Lead): Step[] {
  return eachList(steps, (list) =>
    list.map((step): Step => {
      if (idOf(step) !== id) return step;
      if (way !== undefined) return { ...step, [way]: to } as Step;
      if (answer === undefined || !('answers' in step) || !step.answers[answer]) return step;
      return { ...step, answers: { ...step.answers, [answer]: { ...step.answers[answer], to } } };
    }),
  );
}

/** A line in one sentence, for two versions side by side. */
export const lineInWords = ({ words, hint, says, figures, leads }: EditLine): string => {
  const measured = figures.map(({ name, value, unit }) => `${figureSaid(name)} ${value}${unit && ` ${unit}`}`);
  const led = leads.flatMap(({ answer, way, to }) =>
    to === 'next' ? [] : [`${answer === undefined ? waySaid(way!) : says[answer]} → ${targetInWords(to)}`],
  );
  return [words, hint && `(${hint})`, measured.join(', '), Object.values(says).join(' · '), led.join('; ')].filter(Boolean).join(' ');
};

/** Where a step leads, as a person says it; a stop by its name. */
export const targetInWords = (target: Target): string =>
  target.startsWith('stop.') ? sentences.targetStop(target.slice(5)) : sentences[`target_${target as Exclude<Target, `stop.${string}`>}`];

/** What a figure of a step is called. */
export const figureSaid = (name: FigureOf): string => sentences[`figure_${name}`];
/** What leads somewhere beside the answers. */
export const waySaid = (way: WayOut): string => sentences[`way_${way}`];
