import { type Condition, evaluateExpression, type Fact, holds, type ParamValues } from '../library';
import { type EachStep, type LeafStep, type Procedure, type RepeatStep, type Step, type Target } from './definition';

/**
 * A procedure laid out as a flat list of nodes, so that a position is one index and "what comes next" is a walk forward. Loops and cases
 * become nodes that jump.
 */
export type ProgramNode =
  | { op: 'leaf'; step: LeafStep; loops: string[] }
  | { op: 'enter'; loop: RepeatStep | EachStep; id: string; after: number }
  | { op: 'again'; loop: RepeatStep | EachStep; id: string; start: number }
  | { op: 'case'; choice: string; param?: string; name: string; after: number }
  | { op: 'join'; to: number }
  /** What stands behind it is never walked to. */
  | { op: 'end' };

export interface Program {
  procedure: Procedure;
  nodes: ProgramNode[];
  /** Node index of each leaf step. */
  at: ReadonlyMap<string, number>;
  /** Where `restart` leads: the step marked restartHere, else the first. */
  restartAt: number;
}

/** What a walk needs to know to choose its way. */
export interface Walker {
  counters: Record<string, number>;
  answers: Readonly<Record<string, { answer: string }>>;
  /** Tags of the keys of the run, the main key first. */
  keys: readonly string[];
  params: ParamValues;
}

export type Arrival = { kind: 'leaf'; index: number; counters: Record<string, number> } | { kind: 'end' } | { kind: 'target'; target: Target };

export function compile(procedure: Procedure): Program {
  const nodes: ProgramNode[] = [];
  const at = new Map<string, number>();
  let restartAt = 0;

  const layLoop = (loop: RepeatStep | EachStep, id: string, loops: string[]) => {
    const enter: ProgramNode = { op: 'enter', loop, id, after: -1 };
    nodes.push(enter);
    const start = nodes.length;
    lay(loop.steps, [...loops, id]);
    nodes.push({ op: 'again', loop, id, start });
    enter.after = nodes.length;
  };
  const lay = (steps: Step[], loops: string[]): void => {
    for (const step of steps) {
      if ('repeat' in step) layLoop(step, step.repeat.id, loops);
      else if ('each' in step) layLoop(step, step.each.id, loops);
      else if ('use' in step) throw new Error(`Shared steps "${step.use}" were not put into ${procedure.id}`);
      else {
        at.set(step.id, nodes.length);
        if ('restartHere' in step && step.restartHere) restartAt = nodes.length;
        nodes.push({ op: 'leaf', step, loops });
        if (!('choice' in step)) continue;
        const joins: Extract<ProgramNode, { op: 'join' }>[] = [];
        for (const [name, { steps: body }] of Object.entries(step.cases)) {
          const head: ProgramNode = { op: 'case', choice: step.id, name, after: -1, ...(step.choice.param ? { param: step.choice.param } : {}) };
          nodes.push(head);
          lay(body, loops);
          const join = { op: 'join' as const, to: -1 };
          joins.push(join);
          nodes.push(join);
          head.after = nodes.length;
        }
        for (const join of joins) join.to = nodes.length;
      }
    }
  };
  lay(procedure.steps, []);
  nodes.push({ op: 'end' });
  if (procedure.measure) lay([procedure.measure], []);
  return { procedure, nodes, at, restartAt };
}

export function leafAt(program: Program, stepId: string): { step: LeafStep; loops: string[]; index: number } {
  const index = program.at.get(stepId);
  const node = index === undefined ? undefined : program.nodes[index];
  if (node?.op !== 'leaf') throw new Error(`Procedure ${program.procedure.id} has no step "${stepId}"`);
  return { step: node.step, loops: node.loops, index: index! };
}

/** Not a loop: how many keys the run has, the first included. */
export const keysCounter = 'keys';

/** Facts a condition inside a procedure can ask about: earlier answers and loop counters. */
function conditionHolds(condition: Condition | undefined, walker: Walker): boolean {
  if (!condition) return true;
  const facts = (subject: string, name: string): Fact | undefined => {
    if (subject === 'answer') return walker.answers[name]?.answer;
    if (subject === 'counter') return name === keysCounter ? walker.keys.length : walker.counters[name];
    return undefined;
  };
  return holds(condition, facts, walker.params);
}

/** A choice that a parameter decides is not asked. */
function decidedByParam(step: LeafStep, params: ParamValues): boolean {
  return 'choice' in step && step.choice.param !== undefined && params[step.choice.param] !== undefined;
}

/** Walks from a node index to the next leaf that is to be done, over loops, cases and conditions. The counters are the walker's own unless a round began. */
export function walk(program: Program, from: number, walker: Walker): Arrival {
  let index = from;
  const here = { ...walker };
  const count = (id: string, round: number) => {
    here.counters = { ...here.counters, [id]: round };
  };
  for (;;) {
    const node = program.nodes[index];
    if (!node || node.op === 'end') return { kind: 'end' };
    switch (node.op) {
      case 'leaf':
        if (conditionHolds(node.step.when, here) && !decidedByParam(node.step, walker.params))
          return { kind: 'leaf', index, counters: here.counters };
        index += 1;
        break;
      case 'enter': {
        const rounds = 'each' in node.loop ? walker.keys.length - 1 : 1;
        if (rounds < 1 || !conditionHolds(node.loop.when, here)) index = node.after;
        else {
          count(node.id, 1);
          index += 1;
        }
        break;
      }
      case 'again': {
        const round = here.counters[node.id] ?? 1;
        if ('each' in node.loop) {
          if (round < walker.keys.length - 1) {
            count(node.id, round + 1);
            index = node.start;
          } else index += 1;
          break;
        }
        const { until, max } = node.loop.repeat;
        if (until && walker.answers[until.answer]?.answer === until.is) index += 1;
        else if (round < evaluateExpression(max, walker.params)) {
          count(node.id, round + 1);
          index = node.start;
        } else if (until && node.loop.exhausted && node.loop.exhausted !== 'next') return { kind: 'target', target: node.loop.exhausted };
        else index += 1;
        break;
      }
      case 'case': {
        const chosen =
          node.param !== undefined && walker.params[node.param] !== undefined ? walker.params[node.param] : walker.answers[node.choice]?.answer;
        index = chosen === node.name ? index + 1 : node.after;
        break;
      }
      case 'join':
        index = node.to;
        break;
    }
  }
}

const sameCondition = (a: Condition, b: Condition | undefined) => JSON.stringify(a) === JSON.stringify(b);

/** Ids of waits that end by themselves and after which a run may be over without anybody's act: nothing would record its end. */
export function lastWaits(program: Program): string[] {
  const endsAfter = (from: number, when: Condition | undefined): boolean => {
    for (let index = from; ;) {
      const node = program.nodes[index];
      if (!node || node.op === 'end') return true;
      if (node.op === 'leaf') {
        // What stands under the same condition follows as surely as what has none.
        if (!node.step.when || sameCondition(node.step.when, when)) return false;
        index += 1;
      } else if (node.op === 'again') {
        if ('repeat' in node.loop && node.loop.exhausted?.startsWith('stop.')) return true;
        index += 1;
      } else if (node.op === 'enter') index = 'each' in node.loop || node.loop.when ? node.after : index + 1;
      else index = node.op === 'join' ? node.to : node.after;
    }
  };
  return program.nodes.flatMap((n, i) =>
    n.op === 'leaf' && 'wait' in n.step && !n.step.wait.and && endsAfter(i + 1, n.step.when) ? [n.step.id] : [],
  );
}

/** Index of the first node inside the innermost loop round a step; undefined outside every loop. */
export function roundStart(program: Program, loops: readonly string[]): number | undefined {
  const innermost = loops.at(-1);
  const index = program.nodes.findIndex((n) => n.op === 'enter' && n.id === innermost);
  return innermost === undefined || index < 0 ? undefined : index + 1;
}

/** Ids of the leaf steps inside a loop. */
export function stepsInside(program: Program, loopId: string): string[] {
  return program.nodes.flatMap((n) => (n.op === 'leaf' && n.loops.includes(loopId) ? [n.step.id] : []));
}
