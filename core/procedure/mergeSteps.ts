import type { Problem, Result } from '../units';
import type { Procedure, SharedSteps, Step } from './definition';
import { lintSentences } from './lintSentences';

/** Finds shared steps by name; undefined when there are none of that name. */
export type SharedStepsLookup = (id: string) => SharedSteps | undefined;

/**
 * Puts the steps that a procedure uses in the place of each `use`; their parameters become the procedure's. The ids stay as they are, so shared
 * steps stand once in a procedure, and its own steps can speak of them. A `measure` that they bring is the procedure's, unless it has its own.
 * @returns the procedure without `use`, or a problem for each reference that leads nowhere, to another version, or back to itself
 */
export function mergeSteps(procedure: Procedure, find: SharedStepsLookup): Result<Procedure> {
  const problems: Problem[] = [];
  const params = new Set(procedure.params);
  let { measure } = procedure;

  const take = (steps: readonly Step[], path: string, way: readonly string[]): Step[] =>
    steps.flatMap((step, i): Step[] => {
      const at = `${path}[${i}]`;
      if ('use' in step) {
        const [id, version] = step.use.split('@') as [string, string];
        if (way.includes(id)) {
          const message = lintSentences.sharedInCircle([...way, id].join(' uses '));
          problems.push({ code: 'cycle', path: `${at}.use`, message });
          return [];
        }
        const shared = find(id);
        if (!shared || shared.version !== Number(version)) {
          const there = shared ? lintSentences.otherVersion(shared.version) : lintSentences.noSuchSteps;
          problems.push({ code: 'unknownName', path: `${at}.use`, message: lintSentences.referenceMissing(step.use, there) });
          return [];
        }
        for (const param of shared.params) params.add(param);
        measure ??= shared.measure;
        return take(shared.steps, at, [...way, id]);
      }
      if ('cases' in step) {
        const cases = Object.entries(step.cases).map(([name, c]) => [name, { ...c, steps: take(c.steps, `${at}.cases.${name}.steps`, way) }]);
        return [{ ...step, cases: Object.fromEntries(cases) }];
      }
      return 'steps' in step ? [{ ...step, steps: take(step.steps, `${at}.steps`, way) }] : [step];
    });

  const steps = take(procedure.steps, 'steps', []);
  return problems.length > 0
    ? { ok: false, problems }
    : { ok: true, value: { ...procedure, params: [...params], ...(measure && { measure }), steps } };
}
