import {
  cautionProblems,
  type Comparison,
  comparisonsIn,
  type Condition,
  evaluateExpression,
  type Expression,
  type Family,
  gates,
  parseExpression,
  type ParamValues,
  placeholdersIn,
  resolveParams,
  valuesOf,
  withNumbers,
} from '../library';
import type { Problem } from '../units';
import type { LeafStep, Procedure, Step, Target } from './definition';
import { noteNeeded } from './answers';
import { leafTitle } from './decide';
import { happyPath } from './happyPath';
import { compile, keysCounter, lastWaits, type Program } from './program';
import { lintSentences } from './lintSentences';

export type LintProblem = Problem & { severity: 'error' | 'warning' };

export interface LintReport {
  problems: LintProblem[];
  /** Minutes that pass at least: the waits of the shortest good way, with one key. */
  minMinutes: number;
  /** With the content's estimates of attended time, and two keys. */
  expectedMinutes: number;
}

/** Longer than this, seconds, and the battery's reserve is asked for first. */
const longS = 300;

/**
 * What a schema can't see in a procedure: names that point nowhere, limits in the wrong order, a replacing sequence without a point of no
 * return, parameters never used. Minutes are given only when there is no error.
 * @param family the family the procedure belongs to, when it is at hand
 */
export function lint(procedure: Procedure, values: ParamValues, known: { family?: Family; cautions: ReadonlySet<string> }): LintReport {
  const problems: LintProblem[] = [];
  const add = (severity: LintProblem['severity'], code: string, path: string, message: string) => problems.push({ severity, code, path, message });
  const leaves: { step: LeafStep; path: string }[] = [];
  const loops = new Set<string>();
  const ids = new Set<string>();
  const used = new Set<string>();
  const conditions: { condition: Condition; path: string }[] = [];
  const targets: { target: Target; path: string }[] = [];

  const claim = (id: string, path: string) => {
    if (id === keysCounter) add('error', 'reserved', path, lintSentences.idTaken(id));
    if (ids.has(id)) add('error', 'twice', path, lintSentences.idTwice(id));
    ids.add(id);
  };
  const useExpression = (expression: Expression | undefined, path: string): number | undefined => {
    if (expression === undefined) return undefined;
    const param = parseExpression(expression)?.param;
    if (param !== undefined) {
      used.add(param);
      if (!procedure.params.includes(param)) add('error', 'undeclared', path, lintSentences.placeholderMissing(param));
      if (typeof values[param] !== 'number') {
        add('error', 'unknownParam', path, lintSentences.unknownNumber(procedure.family, param, Object.keys(values).join(', ') || '(none)'));
        return undefined;
      }
    }
    return evaluateExpression(expression, values);
  };
  const visit = (steps: Step[], base: string, pathOf = (i: number) => `${base}[${i}]`): void => {
    steps.forEach((step, i) => {
      const path = pathOf(i);
      if ('use' in step) {
        add('error', 'notMerged', `${path}.use`, lintSentences.sharedNotMerged(step.use));
        return;
      }
      if (step.when) conditions.push({ condition: step.when, path: `${path}.when` });
      if ('repeat' in step) {
        claim(step.repeat.id, `${path}.repeat.id`);
        loops.add(step.repeat.id);
        const [min, max] = [useExpression(step.repeat.min, `${path}.repeat.min`), useExpression(step.repeat.max, `${path}.repeat.max`)];
        if (min !== undefined && max !== undefined && min > max) add('error', 'order', `${path}.repeat`, lintSentences.minAboveMax(min, max));
        if (step.exhausted) targets.push({ target: step.exhausted, path: `${path}.exhausted` });
        if (step.repeat.until && !step.exhausted) add('warning', 'openEnd', `${path}.exhausted`, lintSentences.exhaustedMissing);
        visit(step.steps, `${path}.steps`);
        return;
      }
      if ('each' in step) {
        claim(step.each.id, `${path}.each.id`);
        loops.add(step.each.id);
        if (procedure.keys === 'one') add('error', 'keysOfOne', `${path}.each`, lintSentences.eachOfOne);
        visit(step.steps, `${path}.steps`);
        return;
      }
      claim(step.id, `${path}.id`);
      leaves.push({ step, path });
      if ('answers' in step) for (const [name, a] of Object.entries(step.answers)) targets.push({ target: a.to, path: `${path}.answers.${name}.to` });
      lintAct(step, path);
      if ('value' in step) {
        useExpression(step.value.atLeast, `${path}.value.atLeast`);
        useExpression(step.value.atMost, `${path}.value.atMost`);
      }
      if ('wait' in step) {
        const w = step.wait;
        const [min, max, amber, red, window] = (['min', 'max', 'amber', 'red', 'window'] as const).map((k) =>
          useExpression(w[k], `${path}.wait.${k}`),
        );
        const rising = (low: number | undefined, high: number | undefined, names: string) => {
          if (low !== undefined && high !== undefined && low >= high)
            add('error', 'order', `${path}.wait`, lintSentences.limitsDescend(names, low, high));
        };
        rising(min, max, lintSentences.minAndMax);
        rising(amber, red, lintSentences.amberAndRed);
        rising(window, min, lintSentences.windowAndMin);
        if (w.max !== undefined && !step.late) add('error', 'openEnd', `${path}.late`, lintSentences.lateMissing);
        if (w.red !== undefined && (!step.redTo || !step.redSay)) add('error', 'openEnd', path, lintSentences.redMissing);
        if (step.late) targets.push({ target: step.late, path: `${path}.late` });
        if (step.redTo) targets.push({ target: step.redTo, path: `${path}.redTo` });
      }
      if ('cases' in step) {
        if (step.choice.param) {
          used.add(step.choice.param);
          if (!procedure.params.includes(step.choice.param))
            add('error', 'undeclared', `${path}.choice.param`, lintSentences.paramMissing(step.choice.param));
        }
        for (const [name, c] of Object.entries(step.cases)) visit(c.steps, `${path}.cases.${name}.steps`);
      }
    });
  };
  function lintAct(step: LeafStep, path: string): void {
    const positive = (expression: Expression | undefined, at: string) => {
      const value = useExpression(expression, at);
      if (value !== undefined && value <= 0) add('error', 'order', at, lintSentences.notAboveZero(value));
      return value;
    };
    if ('hold' in step) {
      const [min, max] = [positive(step.hold.min, `${path}.hold.min`), positive(step.hold.max, `${path}.hold.max`)];
      if (min !== undefined && max !== undefined && min >= max) add('error', 'order', `${path}.hold`, lintSentences.holdDescends(min, max));
    }
    if ('count' in step) {
      const n = positive(step.count.n, `${path}.count.n`);
      if (n !== undefined && !Number.isInteger(n)) add('error', 'order', `${path}.count.n`, lintSentences.countNotWhole(n));
      positive(step.count.within, `${path}.count.within`);
      if (step.other) targets.push({ target: step.other, path: `${path}.other` });
    }
    if (('hold' in step || 'count' in step) && step.late) targets.push({ target: step.late, path: `${path}.late` });
    if ('message' in step) {
      positive(step.within, `${path}.within`);
      targets.push({ target: step.absent, path: `${path}.absent` });
    }
    if ('twoEntry' in step) positive(step.twoEntry.length, `${path}.twoEntry.length`);
    if ('file' in step) {
      if (step.file.sameAs !== undefined && !step.differs) add('error', 'openEnd', `${path}.differs`, lintSentences.differsMissing);
      if (step.differs) targets.push({ target: step.differs, path: `${path}.differs` });
    }
  }
  visit(procedure.steps, 'steps');
  const { measure, interrupted } = procedure;
  if (measure) visit([measure], 'measure', () => 'measure');
  const measuring = Object.entries(interrupted).filter(([, policy]) => policy === 'measure');
  if (!measure) for (const [what] of measuring) add('error', 'openEnd', `interrupted.${what}`, lintSentences.measureMissing);
  else if (measuring.length === 0) add('warning', 'unused', 'measure', lintSentences.measureUnused);
  for (const { step, path } of leaves)
    if ('value' in step && step.value.battery !== undefined && step.value.unit !== 'V')
      add('error', 'unit', `${path}.value.battery`, lintSentences.batteryInVolts(step.value.unit));
  if (leaves.some(({ step }) => 'value' in step && step.value.unit === 'V') && (interrupted.supplyLow ?? interrupted.default) === 'goOn')
    add('error', 'openEnd', 'interrupted.supplyLow', lintSentences.lowNotMeasured);

  const stepIds = new Map(leaves.map(({ step }) => [step.id, step]));
  const unknown = (path: string, what: string, name: string, allowed: Iterable<string>) =>
    add('error', 'unknownName', path, lintSentences.unknownName(what, name, [...allowed].join(', ') || '(none)'));
  for (const [at, { step, path }] of leaves.entries()) {
    if ('wait' in step)
      step.wait.from.forEach((id, k) => stepIds.has(id) || unknown(`${path}.wait.from[${k}]`, lintSentences.step, id, stepIds.keys()));
    // What was warned of and confirmed earlier in the run stays so.
    const before = leaves.slice(0, at).flatMap((l) => l.step.cautions);
    for (const { message, path: place } of cautionProblems(
      path,
      step.id,
      leafTitle(step),
      [...step.cautions, ...before, ...procedure.cautions],
      step.harmless,
    ))
      add('error', 'cautionMissing', place, message);
    step.cautions.forEach((c, k) => known.cautions.has(c) || unknown(`${path}.cautions[${k}]`, lintSentences.caution, c, known.cautions));
    if (known.family && step.lamp && !known.family.lamps.some((l) => l.id === step.lamp))
      unknown(
        `${path}.lamp`,
        lintSentences.lightPattern,
        step.lamp,
        known.family.lamps.map((l) => l.id),
      );
    if ('message' in step && known.family) {
      const texts = known.family.lamps.filter((l) => l.message !== undefined).map((l) => l.id);
      if (!texts.includes(step.message)) unknown(`${path}.message`, lintSentences.text, step.message, texts);
    }
    if ('file' in step && step.file.sameAs !== undefined) {
      const files = leaves.filter((l) => 'file' in l.step && l.step.id !== step.id).map((l) => l.step.id);
      if (!files.includes(step.file.sameAs)) unknown(`${path}.file.sameAs`, lintSentences.file, step.file.sameAs, files);
    }
    const quoted = leaves.slice(0, at).flatMap(({ step: s }) => ('value' in s || 'cases' in s ? [s.id] : []));
    const own = ['key', 'main', 'round', ...('count' in step ? ['n'] : []), ...quoted];
    for (const name of placeholdersIn(leafTitle(step))) {
      if (!own.includes(name) && !procedure.params.includes(name)) unknown(path, lintSentences.placeholder, name, [...own, ...procedure.params]);
      used.add(name);
    }
    if ('answers' in step)
      for (const name of Object.keys(step.answers).filter(noteNeeded))
        add('error', 'reserved', `${path}.answers.${name}`, lintSentences.answerTaken(name));
    if ('answers' in step && known.family) {
      for (const [name, a] of Object.entries(step.answers)) {
        if (a.evidence) checkEvidence(known.family, a.evidence, `${path}.answers.${name}.evidence`, unknown);
      }
    }
  }
  procedure.cautions.forEach((c, k) => known.cautions.has(c) || unknown(`cautions[${k}]`, lintSentences.caution, c, known.cautions));
  const repeats = procedure.steps.filter((s) => 'repeat' in s);
  for (const r of repeats) {
    const until = r.repeat.until;
    if (!until) continue;
    const asked = stepIds.get(until.answer);
    if (!asked) unknown('steps.repeat.until.answer', lintSentences.step, until.answer, stepIds.keys());
    else if ('answers' in asked && !(until.is in asked.answers))
      unknown('steps.repeat.until.is', lintSentences.answer, until.is, Object.keys(asked.answers));
  }
  for (const name of ['from', 'until'] as const) {
    const id = procedure.disconnected?.[name];
    if (id !== undefined && !stepIds.has(id)) unknown(`disconnected.${name}`, lintSentences.step, id, stepIds.keys());
  }
  for (const { condition, path } of conditions) for (const c of comparisonsIn(condition)) checkComparison(c, path);
  function checkComparison(c: Comparison, path: string) {
    if (c.answer !== undefined && !stepIds.has(c.answer)) unknown(path, lintSentences.step, c.answer, stepIds.keys());
    if (c.counter !== undefined && c.counter !== keysCounter && !loops.has(c.counter))
      unknown(path, lintSentences.loop, c.counter, [...loops, keysCounter]);
    if (c.param !== undefined) used.add(c.param);
    for (const e of [c.lt, c.gt, c.atLeast]) useExpression(e, path);
  }
  const reached = new Set<string>();
  for (const { target, path } of targets) {
    if (target === 'leaveLoop' && !/\.steps\[/.test(path)) add('error', 'noLoop', path, lintSentences.noLoopToLeave);
    if (!target.startsWith('stop.')) continue;
    const name = target.slice(5);
    reached.add(name);
    if (!(name in procedure.stops)) unknown(path, lintSentences.stop, name, Object.keys(procedure.stops));
  }
  for (const [name, stop] of Object.entries(procedure.stops)) {
    if (!reached.has(name)) add('warning', 'unused', `stops.${name}`, lintSentences.stopUnused(name));
    if (stop.evidence && known.family) checkEvidence(known.family, stop.evidence, `stops.${name}.evidence`, unknown);
  }
  procedure.params.forEach((p, k) => {
    if (!(p in values)) unknown(`params[${k}]`, lintSentences.parameter, p, Object.keys(values));
    if (!used.has(p)) add('warning', 'unused', `params[${k}]`, lintSentences.parameterUnused(p));
  });
  if (gates[procedure.effect].authority && !leaves.some(({ step }) => 'commitment' in step)) {
    add('error', 'noCommitment', 'steps', lintSentences.commitmentMissing(procedure.effect));
  }
  if (leaves.filter(({ step }) => 'restartHere' in step && step.restartHere).length > 1) add('error', 'twice', 'steps', lintSentences.restartTwice);

  if (problems.some((p) => p.severity === 'error')) return { problems, minMinutes: 0, expectedMinutes: 0 };
  const program = compile(procedure);
  for (const id of lastWaits(program)) add('error', 'waitLast', leaves.find((l) => l.step.id === id)!.path, lintSentences.waitLast);
  const times = minutesOf(program, values);
  if (times.expectedMinutes * 60 > longS && !leaves.some(({ step }) => 'value' in step && step.value.battery === 'rested'))
    add('error', 'noReserve', 'steps', lintSentences.reserveMissing(times.expectedMinutes));
  return { problems, ...times };
}

/** The minutes of a procedure that the lint finds no error in: those that pass at least, and those to be expected. */
export function minutesOf(program: Program, values: ParamValues): Pick<LintReport, 'minMinutes' | 'expectedMinutes'> {
  const seconds = (keys: string[], attended: boolean) =>
    happyPath(program, values, keys, {}, {}).reduce((sum, e) => sum + e.waitS + (attended ? e.attendedS : 0), 0);
  const minutes = (s: number) => Math.round(s / 6) / 10;
  return { minMinutes: minutes(seconds(['A'], false)), expectedMinutes: minutes(seconds(['A', 'B'], true)) };
}

/** What makes a procedure unusable in any of the families that it is for, with their typical numbers; said once. */
export function lintErrors(procedure: Procedure, families: readonly Family[], cautions: ReadonlySet<string>): Problem[] {
  const found = families.flatMap((family) => lint(procedure, valuesOf(resolveParams(withNumbers(family, procedure))), { family, cautions }).problems);
  const errors = found.flatMap(({ severity, code, path, message }) => (severity === 'error' ? { code, path, message } : []));
  return [...new Map(errors.map((p) => [`${p.path}: ${p.message}`, p])).values()];
}

function checkEvidence(
  family: Family,
  evidence: { test: string; outcome: string },
  path: string,
  unknown: (path: string, what: string, name: string, allowed: Iterable<string>) => void,
) {
  const test = family.tests.find((t) => t.id === evidence.test);
  if (!test)
    unknown(
      `${path}.test`,
      lintSentences.test,
      evidence.test,
      family.tests.map((t) => t.id),
    );
  else if (!(evidence.outcome in test.outcomes)) unknown(`${path}.outcome`, lintSentences.outcome, evidence.outcome, Object.keys(test.outcomes));
}
