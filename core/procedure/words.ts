import { evaluateExpression, fillText, formatParams, paramWords, type ParamValues, type ResolvedParam, valuesOf } from '../library';
import { formatQuantity } from '../units';
import { midSentence } from '../words';
import { answersOf } from './answers';
import { factsWords } from './battery';
import { leafTitle } from './decide';
import type { RunEvent } from './events';
import { paramsAt, valuesAt } from './numbers';
import { leafAt, type Program } from './program';
import { resultWords } from './results';
import { apply, fold, present, type RunState } from './state';
import { sentences } from './sentences';

/** Tag of the key that a step is done with: within a list of keys the one whose turn it is, elsewhere the first, or the last where the step says so. */
export function keyAt(program: Program, state: Pick<RunState, 'step' | 'counters' | 'keys'>): string {
  const { loops, step } = leafAt(program, state.step);
  const each = program.nodes.find((n) => n.op === 'enter' && 'each' in n.loop && loops.includes(n.id));
  const key = each?.op === 'enter' ? state.keys[state.counters[each.id] ?? 1] : state.keys.at(step.key === 'last' ? -1 : 0);
  return key ?? '';
}

/** Words for the names in braces that a procedure's texts may use, and the key concerned. */
export function wordsAt(
  program: Program,
  state: Pick<RunState, 'step' | 'counters' | 'keys' | 'answers'>,
  params: Record<string, ResolvedParam>,
): { words: Record<string, string>; key: string } {
  const { loops, step } = leafAt(program, state.step);
  const words: Record<string, string> = { ...remembered(program, state), main: state.keys[0] ?? '', key: keyAt(program, state) };
  for (const node of program.nodes) {
    if (node.op !== 'enter' || !loops.includes(node.id)) continue;
    const round = state.counters[node.id] ?? 1;
    words.round = String(round);
  }
  for (const p of formatParams(params, Object.keys(params))) words[p.name] = p.value;
  if ('count' in step) words.n = String(evaluateExpression(step.count.n, valuesOf(params)));
  return { words, key: words.key ?? '' };
}

/** What was measured or chosen so far, by the step's name: a later text may quote it. */
function remembered(program: Program, { answers }: Pick<RunState, 'answers'>): Record<string, string> {
  return Object.fromEntries(
    Object.entries(answers).flatMap(([id, { answer, value }]) => {
      const { step } = leafAt(program, id);
      if ('value' in step && value !== undefined) return [[id, formatQuantity(value, step.value.unit)]];
      return 'cases' in step ? [[id, midSentence(step.cases[answer]?.say ?? answer)]] : [];
    }),
  );
}

/** What an event recorded, in the words of the button that was pressed. */
export function saidBy(program: Program, event: RunEvent, values: ParamValues): string {
  switch (event.type) {
    case 'answered': {
      const { step } = leafAt(program, event.step);
      if (event.value !== undefined && 'value' in step) return formatQuantity(event.value, step.value.unit);
      const told = answersOf(step)[event.answer]?.say ?? event.answer;
      const said = event.result ? sentences.withResult(told, resultWords(event.result)) : told;
      return 'count' in step ? fillText(said, { n: String(evaluateExpression(step.count.n, values)) }) : said;
    }
    case 'waived':
      return sentences.waivedShort;
    case 'interrupted':
      return sentences[`interrupted_${event.what}`];
    case 'number':
      return `${event.name} ${event.value}`;
    case 'battery':
      return sentences.batteryIs(factsWords(event.facts));
    case 'noted':
      return sentences.notedShort;
    case 'stopped':
      return sentences.stopped;
    case 'started':
      return sentences.started;
    case 'retracted':
      return sentences.retracted;
  }
}

/** One event with the instruction it answered, as it stood on the screen then. */
export interface ToldEvent {
  event: RunEvent;
  /** Empty for events that answer no instruction. */
  instruction: string;
  /** Round of the innermost loop, where there is one. */
  round: string;
  said: string;
  retracted: boolean;
}

/** The whole list of events, the taken-back ones included, for a report. */
export function tell(program: Program, params: Record<string, ResolvedParam>, events: readonly RunEvent[]): ToldEvent[] {
  const values = valuesOf(params);
  const retracted = new Set(events.flatMap((e) => (e.type === 'retracted' ? [e.event] : [])));
  let state = fold(program, values, events.slice(0, 1));
  return events.map((event, i) => {
    const before = state;
    if (i > 0) state = apply(program, values, state, event);
    let instruction = '';
    let round = '';
    if (event.type === 'answered' || event.type === 'waived' || event.type === 'noted') {
      const here = present(program, values, before, event.occurredAt).state;
      const { words } = wordsAt(program, { ...here, step: event.step }, paramsAt(params, before.given));
      instruction = fillText(leafTitle(leafAt(program, event.step).step), words);
      round = words.round ?? '';
    }
    if (event.type === 'number') instruction = params[event.name]?.label ?? event.name;
    const note = event.type === 'answered' && event.note ? `: ${event.note}` : '';
    return {
      event,
      instruction,
      round,
      said: `${event.type === 'number' ? paramWords(event.value, params[event.name]?.unit ?? '') : saidBy(program, event, valuesAt(values, before))}${note}`,
      retracted: retracted.has(event.id),
    };
  });
}
