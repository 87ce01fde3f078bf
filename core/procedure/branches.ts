import { answersOf } from './answers';
import { kindOf, type LeafStep, type Procedure, type StepKind } from './definition';
import { compile } from './program';

/** What a procedure consists of and every way a run of it can take. */
export interface Branches {
  id: string;
  family: string;
  title: string;
  /** How many steps of each kind. */
  kinds: Partial<Record<StepKind, number>>;
  /** Answers, as `step answer`. */
  answers: string[];
  /** Limits that can be passed, as `step late`. */
  limits: string[];
  /** Ends that are not the good one, as `stop.name`. */
  stops: string[];
  /** How many of the answers and limits lead elsewhere than on: back, out of a loop or to a stop. */
  failing: number;
}

const leaves = (procedure: Procedure): LeafStep[] => compile(procedure).nodes.flatMap((n) => (n.op === 'leaf' ? [n.step] : []));

const cautions = new WeakMap<Procedure, readonly string[]>();
/** Ids of every caution of a procedure, of the whole and of its steps, each once. A procedure is gone through once. */
export function cautionsOf(procedure: Procedure): readonly string[] {
  let found = cautions.get(procedure);
  if (!found) cautions.set(procedure, (found = [...new Set([...procedure.cautions, ...leaves(procedure).flatMap((step) => step.cautions)])]));
  return found;
}

/** Where the answers and limits of a step lead that do not simply go on. */
function failingOf(step: LeafStep): number {
  const targets = [
    ...('answers' in step ? Object.values(step.answers).map((a) => a.to) : []),
    ...('late' in step ? [step.late] : []),
    ...('redTo' in step ? [step.redTo] : []),
    ...('other' in step ? [step.other] : []),
    ...('differs' in step ? [step.differs] : []),
    ...('absent' in step ? [step.absent] : []),
  ];
  return targets.filter((to) => to !== undefined && to !== 'next').length;
}

/** @param procedure with its shared steps put in */
export function branchesOf(procedure: Procedure): Branches {
  const steps = leaves(procedure);
  const kinds: Partial<Record<StepKind, number>> = {};
  for (const step of steps) kinds[kindOf(step)] = (kinds[kindOf(step)] ?? 0) + 1;
  return {
    id: procedure.id,
    family: procedure.family,
    title: procedure.title,
    kinds,
    answers: steps.flatMap((s) => Object.keys(answersOf(s)).map((a) => `${s.id} ${a}`)),
    limits: steps.flatMap((s) => ('late' in s && s.late ? [`${s.id} late`] : [])),
    stops: Object.keys(procedure.stops).map((name) => `stop.${name}`),
    failing: steps.reduce((sum, s) => sum + failingOf(s), 0),
  };
}
