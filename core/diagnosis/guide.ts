import type { Family, FaultDefinition } from '../library';
import { formatChance, inSentence } from '../units';
import type { Assessment, LinkStatus, Proposal } from './assess';
import type { Finding } from './beliefs';
import type { Diagnosis, NextTest } from './diagnose';
import { isMoot } from './doableNow';
import type { Proof } from './proof';
import { sentences } from './sentences';

/** One thing to do, as the page of a case shows it. */
export type Step =
  /** `weighed`: what the diagnosis expects of it; a test that was chosen by a person has none. */
  | (Extract<Proposal, { kind: 'test' }> & { weighed?: NextTest })
  | (Extract<Proposal, { kind: 'procedure' }> & { fault?: string; key?: string })
  /** `until`: a start counts as the proof from this moment on, ms. */
  | (Extract<Proposal, { kind: 'verify' }> & { until?: number })
  | Extract<Proposal, { kind: 'handOver' | 'nothing' }>
  /** `pending`: line of the ledger about a repair that was made and not tried since. */
  | { kind: 'repair'; fault: string; key?: string; why: string; pending?: string }
  /** The suspected cause is brought back once, or taken away again; or it is tried so many times without a miss. */
  | { kind: 'prove'; fault: string; key?: string; ask: 'broughtBack' | 'takenAway'; why: string }
  | { kind: 'prove'; fault: string; key?: string; ask: 'triedAgain'; starts: { done: number; of: number }; why: string }
  | { kind: 'unknown'; why: string };

/** What was done about a fault and worked, and how well that is proven. */
export interface Cured {
  fault: FaultDefinition;
  key?: string;
  proof: Proof;
}

/**
 * What to do next, the first one first: proving a cure before anything else; else what the diagnosis advises; and beside it other tests that are worth
 * their price and the procedures that the family's own rules name.
 * @param assessment of the same findings, with the family's own rules
 * @param procedures ids of the procedures that there are
 * @param verified every key has been verified
 */
export function guide(
  family: Family,
  assessment: Assessment,
  diagnosis: Diagnosis,
  findings: readonly Finding[],
  cured: Cured | null,
  procedures: ReadonlySet<string>,
  verified: boolean,
): Step[] {
  const finish = finishing(assessment, cured, verified);
  const advised = cured ? [] : advice(family, diagnosis, assessment.links, findings, procedures);
  // What a rule would do about the trouble is done with once a fix has worked.
  const mended = cured !== null && cured.proof.standing !== 'failed';
  const rules = mended ? [] : assessment.next.filter((p) => p.kind === 'procedure');
  // It runs with one key, and the trouble of another one is found: that is mended before all are verified.
  const mend = diagnosis.advice.kind === 'act' ? advised.findIndex(fixes) : -1;
  const first = advised[mend];
  const stateOf = (tag: string) => immobilizerOf(assessment.links)?.keys.find((k) => k.tag === tag)?.state;
  const found = first !== undefined && fixes(first) && first.key !== undefined && stateOf(first.key) !== 'holds';
  // And while that trouble is still looked for: the key that failed would only fail once more.
  const looked = advised[0]?.kind === 'test' && advised[0].key !== undefined && failedKeys(family, assessment.links, findings).has(advised[0].key);
  const unfinished = finish[0]?.kind === 'verify' && !cured && (found || looked);
  const lead = found ? mend + 1 : 1;
  const steps = [...(unfinished ? [] : finish), ...advised.slice(0, lead), ...(unfinished ? finish : []), ...rules, ...advised.slice(lead)];
  const seen = new Set<string>();
  const different = steps.filter((s) => {
    const name = nameOf(s);
    return !seen.has(name) && seen.add(name);
  });
  return different.length > 0 ? different : [{ kind: 'nothing', why: sentences.everyTestDone }];
}

/** The step fixes a cause: a repair, or the procedure that is one. */
const fixes = (step: Step): step is Extract<Step, { kind: 'repair' | 'procedure' }> =>
  step.kind === 'repair' || (step.kind === 'procedure' && step.fault !== undefined);

const immobilizerOf = (links: readonly LinkStatus[]) => links.find((l) => l.id === 'keyAccepted');

/** Tags of the keys that are here and were refused when they were last tried. */
export const refusedKeys = (links: readonly LinkStatus[]): string[] =>
  (immobilizerOf(links)?.keys ?? []).filter((k) => k.state === 'broken').map((k) => k.tag);

/** Tags of the keys that were refused, or did not start the engine, when they were last tried. */
function failedKeys(family: Family, links: readonly LinkStatus[], findings: readonly Finding[]): ReadonlySet<string> {
  const failed = new Set(refusedKeys(links));
  const starts = family.tests.filter((t) => Object.values(t.outcomes).some((o) => o.provesAll));
  for (const f of findings) {
    if (!('test' in f) || f.key === undefined) continue;
    const outcome = starts.find((t) => t.id === f.test)?.outcomes[f.outcome];
    if (outcome?.provesAll) failed.delete(f.key);
    else if (outcome) failed.add(f.key);
  }
  return failed;
}

const nameOf = (step: Step): string =>
  step.kind === 'test'
    ? sentences.test(step.test.id)
    : step.kind === 'procedure'
      ? sentences.procedure(step.procedure)
      : step.kind === 'prove'
        ? `${step.kind} ${step.ask}`
        : step.kind;

/** What a cure still needs; without one, what the family's rules say once it runs. */
function finishing(assessment: Assessment, cured: Cured | null, verified: boolean): Step[] {
  const rule = assessment.next.find((p) => p.kind === 'verify' || p.kind === 'handOver');
  if (!cured) return rule ? [rule] : [];
  const { fault, key, proof } = cured;
  const where = { fault: fault.id, ...(key === undefined ? {} : { key }) };
  const why = sentences.worked(inSentence(fault.title), fault.prove.say);
  const bring: Step[] = proof.next === null ? [] : [{ kind: 'prove', ...where, ask: proof.next, why: fault.prove.say }];
  const { starts } = proof;
  const count: Step[] =
    starts !== null && starts.done < starts.of ? [{ kind: 'prove', ...where, ask: 'triedAgain', starts, why: fault.prove.say }] : [];
  if (proof.untried.length > 0) return [{ kind: 'verify', why, ...(proof.waitUntil === null ? {} : { until: proof.waitUntil }) }, ...bring, ...count];
  // A start that came too early confirms nothing, whatever has been verified.
  if (proof.waitUntil !== null) return [...bring, { kind: 'verify', why, until: proof.waitUntil }];
  // What is seen of the keys counts among the starts.
  if (!verified) return [...bring, { kind: 'verify', why }, ...count];
  return [...bring, ...count, { kind: 'handOver', why: sentences.readyToHandOver }];
}

/** From this chance on the fix of a cause stands beside the test that is still worth its price: the person decides. */
const likelyFrom = 0.8;

/** The fix of a cause that is likely already and was seen where it sits; none that writes to the vehicle or needs a check before it. */
function likelyFix(family: Family, { beliefs }: Diagnosis, links: readonly LinkStatus[], findings: readonly Finding[]): Step[] {
  const [leading] = beliefs;
  const fault = family.faults!.find((f) => f.id === leading?.fault);
  if (!leading || !fault || leading.p < likelyFrom || isMoot(fault, findings) || fault.cure.after || (fault.cure.effect ?? 'none') !== 'none')
    return [];
  const link = links.find((l) => l.id === fault.link);
  const state = leading.key === undefined ? link?.state : link?.keys.find((k) => k.tag === leading.key)?.state;
  if (state !== 'broken') return [];
  const key = leading.key === undefined ? {} : { key: leading.key };
  return [{ kind: 'repair', fault: fault.id, ...key, why: sentences.likelyFix(fault.title, formatChance(leading.p)) }];
}

function advice(
  family: Family,
  diagnosis: Diagnosis,
  links: readonly LinkStatus[],
  findings: readonly Finding[],
  procedures: ReadonlySet<string>,
): Step[] {
  const { advice: said, next } = diagnosis;
  const tests = next.flatMap((n): Step[] => {
    const test = family.tests.find((t) => t.id === n.test);
    return test ? [{ kind: 'test', test, ...(n.key === undefined ? {} : { key: n.key }), why: n.why, weighed: n }] : [];
  });
  switch (said.kind) {
    case 'contradiction': {
      const suspect = findings.find((f) => f.id === said.finding);
      const test = suspect && 'test' in suspect ? family.tests.find((t) => t.id === suspect.test) : undefined;
      if (!suspect || !test) return tests.length > 0 ? tests : [{ kind: 'unknown', why: said.text }];
      return [{ kind: 'test', test, ...(suspect.key === undefined ? {} : { key: suspect.key }), why: said.text }, ...tests];
    }
    case 'act': {
      const { cure } = family.faults!.find((f) => f.id === said.fault)!;
      const where = { fault: said.fault, ...(said.key === undefined ? {} : { key: said.key }), why: said.text };
      const { after } = cure;
      if (after && !findings.some((f) => 'test' in f && after.tests.includes(f.test))) {
        const proposed = tests.find((s) => s.kind === 'test' && after.tests.includes(s.test.id));
        const test = family.tests.find((t) => after.tests.includes(t.id))!;
        // A cause that belongs to no key of its own is looked at with the key that was tried last.
        const key = said.key ?? findings.findLast((f) => f.key !== undefined)?.key;
        const first = proposed ?? ({ kind: 'test', test, ...(test.perKey && key !== undefined ? { key } : {}) } as const);
        return [{ ...first, why: after.why } as Step, { kind: 'repair', ...where }, ...tests];
      }
      return cure.procedure !== undefined && procedures.has(cure.procedure)
        ? [{ kind: 'procedure', procedure: cure.procedure, ...where }, ...tests]
        : [{ kind: 'repair', ...where }, ...tests];
    }
    case 'unknown':
      return [{ kind: 'unknown', why: said.text }, ...tests];
    default:
      return [...tests.slice(0, 1), ...likelyFix(family, diagnosis, links, findings), ...tests.slice(1)];
  }
}
