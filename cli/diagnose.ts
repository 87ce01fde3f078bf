import {
  type Advice,
  assess,
  believe,
  compile,
  Diagnostician,
  type NextTest,
  type PolicyName,
  simulate,
  statesLimit,
  statesOf,
  type Tally,
  UnknownFinding,
} from '../core/diagnosis';
import { type EvidenceLine, parseEvidence } from '../core/diagnosis/schema';
import { changes, type Family, resolveParams, symptoms, valuesOf } from '../core/library';
import { CannotUse } from './fail';
import { library } from './library';
import { readJson } from './readJson';

/** A minute of work costs one unit here; the shop's own rate stands in its settings. */
const ratePerMinute = 1;

export interface DiagnoseNext {
  beliefs: { fault: string; link: string | null; p: number; key?: string }[];
  links: { id: string; state: string; p: number }[];
  next: NextTest[];
  advice: Advice;
  /** Bits by which the findings are less likely than usual under the fault that fits best. */
  surprise: number;
  pairs: { p: number; top: { faults: string[]; p: number }[] };
}

export interface NextOptions {
  profile: string;
  evidence?: string;
  changed?: string;
  have?: string;
  limit?: string;
}

/** `diagnose next`: beliefs, links, the next best tests and the advice, from an evidence file. */
export function diagnoseNext(folders: string[], options: NextOptions): DiagnoseNext {
  const { family, params } = vehicle(folders, options.profile);
  const evidence = options.evidence === undefined ? [] : readEvidence(options.evidence);
  const keys = [...new Set(evidence.flatMap((e) => (e.key === undefined ? [] : [e.key])))];
  const told = names('--changed', options.changed, [...Object.keys(changes), ...Object.keys(symptoms)]);
  const tools = options.have === undefined ? undefined : names('--have', options.have, [...new Set(family.tests.flatMap((t) => t.tools))]);
  const limit = options.limit === undefined ? 3 : wholeNumber('--limit', options.limit, 1, 50);
  const findings = evidence.map((e, i) => ({ id: String(i), ...e }));
  try {
    const doctor = new Diagnostician({ family, params, told, keys, ratePerMinute, findings, ...(tools ? { atHand: { tools } } : {}) });
    const { beliefs, onLink, pairs, next, advice, fit } = doctor.diagnose(undefined, limit);
    const facts = {
      changed: told.filter((t) => t in changes),
      symptoms: told.filter((t) => t in symptoms),
      keys,
      runs: {},
      verified: false,
    };
    const said = findings.flatMap((f) => ('test' in f ? [f] : []));
    const links = believe(assess(family, params, facts, said).links, beliefs);
    return {
      beliefs: beliefs.map(({ fault, link, p, key }) => ({ fault, link, p, ...(key === undefined ? {} : { key }) })),
      links: links.map(({ id, state }) => ({ id, state, p: onLink[id] ?? 0 })),
      next,
      advice,
      surprise: fit.surprise,
      pairs: { p: pairs.p, top: pairs.top.map(({ faults, p }) => ({ faults: faults.map((f) => doctor.compiled.hypotheses[f]!.id), p })) },
    };
  } catch (error) {
    if (error instanceof UnknownFinding) throw new CannotUse(`${options.evidence}: [${error.at}]: ${error.message}`);
    throw error;
  }
}

export interface SimulateOptions {
  profile: string;
  policy: PolicyName;
  trials: string;
  seed: string;
}

/** `diagnose simulate`: how a policy does on faults drawn from the priors. */
export function diagnoseSimulate(folders: string[], options: SimulateOptions): Tally {
  const { family, params } = vehicle(folders, options.profile);
  const compiled = compile(family, params, { told: [], keys: ['A', 'B'], ratePerMinute });
  if (options.policy === 'optimal' && statesOf(compiled.model) > statesLimit)
    throw new CannotUse(
      `--policy optimal: ${compiled.hypotheses.length} faults and ${compiled.tests.length} tests are too many to solve exactly. Use engine, fixed or random.`,
    );
  return simulate(compiled, {
    policy: options.policy,
    trials: wholeNumber('--trials', options.trials, 1, 1_000_000),
    seed: wholeNumber('--seed', options.seed, 0, 4294967295),
    fixed: family.fixed ?? [],
  });
}

function vehicle(folders: string[], id: string): { family: Family; params: ReturnType<typeof valuesOf> } {
  const lib = library(folders);
  const profile = lib.profiles.get(id);
  if (!profile) throw new CannotUse(`--profile ${id}: does not exist. Use one of: ${[...lib.profiles.keys()].join(', ')}.`);
  const family = lib.families.get(profile.family)!;
  if (!family.faults?.length)
    throw new CannotUse(`--profile ${id}: system type "${family.id}" has no faults. Write faults and chances for it first.`);
  return { family, params: valuesOf(resolveParams(family, profile)) };
}

function readEvidence(file: string): EvidenceLine[] {
  const data = readJson(file, '[{"test":"…","outcome":"…"}], in the order seen');
  const parsed = parseEvidence(data);
  if (parsed.ok) return parsed.value;
  const { path, message } = parsed.problems[0]!;
  throw new CannotUse(`${file}: ${path}: ${message}`);
}

function names(option: string, written: string | undefined, allowed: readonly string[]): string[] {
  const found = (written ?? '')
    .split(',')
    .map((n) => n.trim())
    .filter((n) => n !== '');
  const wrong = found.find((n) => !allowed.includes(n));
  if (wrong !== undefined) throw new CannotUse(`${option}: "${wrong}" does not exist. Use some of: ${allowed.join(', ')}.`);
  return found;
}

function wholeNumber(option: string, written: string, least: number, most: number): number {
  const value = Number(written);
  if (!/^\d+$/.test(written) || value < least || value > most)
    throw new CannotUse(`${option}: you typed "${written}". Use a whole number from ${least} to ${most}.`);
  return value;
}
