import { type Family, parseExpression, type ParamValues, placeholdersIn, type ResolvedParam } from '../library';
import type { LeafStep, Procedure } from './definition';
import type { RunEvent } from './events';
import { leafAt, type Program } from './program';

/** A number of this vehicle that somebody looked up while the run went on. */
export interface GivenNumber {
  value: number | string;
  source: string;
  by: string;
}

/** Of the numbers that a procedure names, those that neither a vehicle's system type nor the procedure itself has: it can't be followed there. */
export const lacking = ({ params, numbers = {} }: Pick<Procedure, 'params' | 'numbers'>, family: Pick<Family, 'params'>): string[] =>
  params.filter((name) => !(name in family.params) && !(name in numbers));

/** Parameters as they are at a state of the run: numbers given so far stand in place of those it began with. */
export function valuesAt(params: ParamValues, state: { given: Readonly<Record<string, GivenNumber>> }): ParamValues {
  const given = Object.entries(state.given);
  return given.length === 0 ? params : { ...params, ...Object.fromEntries(given.map(([name, g]) => [name, g.value])) };
}

/** The same for parameters with their words: a given number is verified, by its source. */
export function paramsAt(params: Record<string, ResolvedParam>, given: Readonly<Record<string, GivenNumber>>): Record<string, ResolvedParam> {
  const entries = Object.entries(given).flatMap(([name, { value, source, by }]): [string, ResolvedParam][] => {
    const param = params[name];
    return param ? [[name, { ...param, value, status: 'verified', source: `${source} (${by})` }]] : [];
  });
  return entries.length === 0 ? params : { ...params, ...Object.fromEntries(entries) };
}

/** Numbers given in runs, in order of time; the later one counts. */
export function numbersGiven(events: readonly RunEvent[]): Record<string, GivenNumber> {
  const retracted = new Set(events.flatMap((e) => (e.type === 'retracted' ? [e.event] : [])));
  return Object.fromEntries(
    events.flatMap((e) => (e.type === 'number' && !retracted.has(e.id) ? [[e.name, { value: e.value, source: e.source, by: e.actor.name }]] : [])),
  );
}

const textsOf = (step: LeafStep): string[] =>
  [
    'do' in step && step.do,
    'ask' in step && step.ask,
    'confirm' in step && step.confirm,
    'observe' in step && step.observe,
    'commitment' in step && step.commitment,
    'hint' in step && step.hint,
  ].filter((t) => typeof t === 'string');

/** Everything in a step that may be `$parameter ± number`. */
function expressionsOf(step: LeafStep): unknown[] {
  const own: object[] = [];
  if ('wait' in step) own.push(step.wait);
  if ('value' in step) own.push(step.value);
  if ('hold' in step) own.push(step.hold);
  if ('count' in step) own.push(step.count);
  if ('twoEntry' in step) own.push(step.twoEntry);
  const found = own.flatMap((o) => Object.values(o) as unknown[]);
  if ('message' in step) found.push(step.within);
  if ('choice' in step && step.choice.param) found.push(`$${step.choice.param}`);
  return found;
}

/**
 * Names of the parameters on which a step rests: those of its limits and texts, and, at the first step of a loop, how many rounds there are. A
 * loop asks in its first round only.
 */
export function numbersOf(program: Program, stepId: string, counters: Readonly<Record<string, number>>): string[] {
  const { step, loops, index } = leafAt(program, stepId);
  const rounds = program.nodes.flatMap((n, i) => {
    if (n.op !== 'enter' || !('repeat' in n.loop) || !loops.includes(n.id) || counters[n.id] !== 1) return [];
    const first = program.nodes.findIndex((other, k) => k > i && other.op === 'leaf');
    return first === index ? [n.loop.repeat.min, n.loop.repeat.max] : [];
  });
  const names = [...expressionsOf(step), ...rounds].flatMap((e) =>
    typeof e === 'string' || typeof e === 'number' ? (parseExpression(e)?.param ?? []) : [],
  );
  return [...new Set([...names, ...textsOf(step).flatMap(placeholdersIn)])].filter((name) => program.procedure.params.includes(name));
}
