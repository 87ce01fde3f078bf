import { createHash } from 'node:crypto';
import type { Library } from '../../content/reader';
import {
  assess,
  type Assessment,
  believe,
  type Diagnosis,
  type EvidenceEntry,
  type Finding,
  guide,
  isTaught,
  type LinkStatus,
  oneVerdict,
  type Opening,
  refusedKeys,
  type Situation,
  somethingElse,
  standing,
  type Step,
} from '../../core/diagnosis';
import { type Family, resolveParams, serves, valuesOf } from '../../core/library';
import { lacking } from '../../core/procedure';
import { type CaseRecord, counting, type RepairAction, isVerified, onRecord } from '../record/cases';
import type { Conclusion } from '../db/schema';
import { curedOf, type CuredHere, standingRepairActions } from '../ledger/proofs';
import type { Services } from '../services/services';
import { type Equipment, equipment, keptShop, type Shop } from '../shop/shop';
import { named, type Named } from '../weighing/weigher';

/** Everything that the diagnosis of one case reads. */
export interface Read {
  family: Family;
  /** What the ledger says of the links, and the family's own rules. */
  assessment: Assessment;
  cured: CuredHere | null;
  /** The latest repair, if it was not tried since. */
  pending: RepairAction | null;
  /** Every key has been verified. */
  verified: boolean;
  /** Null where the family has no faults: it was written before there were any. Then the rules alone propose. */
  situation: Named | null;
}

/** What was read of a record stands as long as the record does; a changed case is a new record. */
const alreadyRead = new WeakMap<CaseRecord, { shop: Shop; read: Read }>();

/** @param supposing findings that nobody made: what if? */
export async function readForDiagnosis(services: Services, record: CaseRecord, supposing: readonly Finding[] = []): Promise<Read> {
  const shop = await keptShop(services);
  const before = alreadyRead.get(record);
  if (supposing.length === 0 && before?.shop === shop) return before.read;
  const read = await readAnew(services, record, shop, supposing);
  if (supposing.length === 0) alreadyRead.set(record, { shop, read });
  return read;
}

/** What is known of a case before anything is seen, with what the shop had learned when it began. */
export function openingOf(record: CaseRecord, labourRate: number): Opening {
  const at = record.identifications.at(-1);
  return {
    told: [...record.changed.map((c) => c.what), ...record.symptoms],
    keys: record.keys.filter((k) => k.toFit === null || k.present).map((k) => k.tag),
    // Nobody has said what an hour costs: then minutes count as they are.
    ratePerMinute: labourRate > 0 ? labourRate / 60 : 1,
    proven: at?.proven ?? {},
    ...(at?.learned ? { learned: at.learned } : {}),
  };
}

async function readAnew(
  services: Services,
  record: CaseRecord,
  { labourRate, equipment: owned }: Shop,
  supposing: readonly Finding[],
): Promise<Read> {
  const family = await services.documents.family(record.family);
  const profile = record.profile ? await services.documents.profile(record.profile) : undefined;
  const params = valuesOf(resolveParams(family, profile));
  const cured = curedOf(record, family);
  const findings = [...findingsOf(record, family, cured), ...supposing];
  const facts = factsOf(record, family);
  const assessment = assess(family, params, facts, [...ledgerOf(record), ...supposing.flatMap((f) => ('test' in f ? [f] : []))]);
  if (!family.faults?.length) return { family, assessment, cured: null, pending: null, verified: facts.verified, situation: null };
  const last = standingRepairActions(record).findLast((d) => d.kind === 'repair');
  const pending = last?.result === 'done' ? last : null;
  const tools = owned.length === 0 ? undefined : toolsOf(services, owned as Equipment[]);
  const situation: Situation = {
    family,
    params,
    ...openingOf(record, labourRate),
    findings,
    prepared: preparedOf(record, family),
    atHand: {
      ...(tools ? { tools } : {}),
      keys: record.keys.filter((k) => k.present).map((k) => k.tag),
      record: onRecord(record),
    },
  };
  return { family, assessment, cured, pending, verified: facts.verified, situation: named(situation, record.family.hash) };
}

const followableIn = new WeakMap<Library, WeakMap<Family, ReadonlySet<string>>>();

/** Ids of the library's procedures that can be followed on this version of a system type. Neither ever changes. */
function followable(library: Library, family: Family): ReadonlySet<string> {
  const known = followableIn.get(library) ?? new WeakMap<Family, ReadonlySet<string>>();
  followableIn.set(library, known);
  const ids =
    known.get(family) ??
    new Set([...library.procedures.values()].filter((p) => serves(p, family.id) && lacking(p, family).length === 0).map((p) => p.id));
  known.set(family, ids);
  return ids;
}

/** Links, and what to do next, by the answer that is there. */
export function stepsOf(
  services: Services,
  { family, assessment, cured, pending, verified, situation }: Read,
  diagnosis: Diagnosis | null,
): { links: LinkStatus[]; next: Step[] } {
  const procedures = followable(services.library, family);
  // A case on an older version of its type is not led to what can't be followed there.
  const offered = (step: Step) => step.kind !== 'procedure' || procedures.has(step.procedure);
  if (!diagnosis || !situation) return { links: assessment.links, next: assessment.next.filter(offered) };
  const untried: Step[] = pending
    ? [
        {
          kind: 'repair',
          fault: pending.fault,
          ...(pending.key ? { key: pending.key } : {}),
          why: 'It was done but not tried since. Try it before anything else is changed.',
          pending: pending.id,
        },
      ]
    : [];
  const steps = guide(family, assessment, diagnosis, situation.situation.findings, cured, procedures, verified)
    .filter(offered)
    .map(withoutChancesOfTest);
  // Of a vehicle that is mended the links are as they are seen.
  return { links: cured ? assessment.links : believe(assessment.links, diagnosis.beliefs), next: [...untried, ...steps] };
}

/** A test on its way to a page leaves behind what only the diagnosis reckons with. */
function withoutChancesOfTest(step: Step): Step {
  if (step.kind !== 'test') return step;
  const { p: _, ...test } = step.test;
  return { ...step, test };
}

/** What the page of a case shows of its diagnosis; the same form for the first answer and for the one that looks far ahead. */
export function diagnosisView(services: Services, read: Read, answer: { diagnosis: Diagnosis; final: boolean } | null) {
  const { family, situation, cured, assessment } = read;
  const steps = stepsOf(services, read, answer?.diagnosis ?? null);
  const shown = {
    ...steps,
    verdict: oneVerdict(assessment.verdict ?? null, cured ? 'mended' : (answer?.diagnosis ?? null), refusedKeys(assessment.links), read.verified),
  };
  if (!answer || !situation) return { ...shown, weighed: null };
  const { diagnosis, final } = answer;
  const { hypotheses, ...explained } = services.weigher.explain(situation);
  return {
    ...shown,
    weighed: {
      name: nameOfView(read, situation.name),
      final,
      advice: diagnosis.advice,
      surprise: diagnosis.fit.surprise,
      beliefs: diagnosis.beliefs.map((b) => ({ ...b, id: b.key === undefined ? b.fault : `${b.fault}@${b.key}` })),
      pairs: { p: diagnosis.pairs.p, top: diagnosis.pairs.top.map(({ faults, p }) => ({ faults: faults.map((f) => hypotheses[f]!), p })) },
      proven: situation.situation.proven ?? {},
      /** Answers, times and cases of this vehicle line that changed what it started with. */
      taught: taughtBy(situation.situation),
      cured: cured ? { fault: cured.fault.id, key: cured.key ?? null, proof: cured.proof } : null,
      explained,
      faults: Object.fromEntries(
        family.faults!.map(({ id, title, link, group, looks, cure, prove, perKey }) => [
          id,
          { id, title, link, group, looks, cure, prove, perKey: perKey ?? false },
        ]),
      ),
    },
  };
}
/** The same for a first answer and for the one that takes its place, and another as soon as anything has happened that changes what is proposed. */
const nameOfView = ({ pending, cured, verified, assessment }: Read, situation: string): string =>
  createHash('sha256')
    .update(
      JSON.stringify([
        situation,
        pending?.id,
        cured?.fault.id,
        cured?.proof,
        verified,
        assessment.next.map((p) => ('procedure' in p ? p.procedure : p.kind)),
      ]),
    )
    .digest('base64url')
    .slice(0, 22);

export type DiagnosisView = ReturnType<typeof diagnosisView>;

/** How much of what the shop has learned counts in a case; zeros where it doesn't. */
function taughtBy({ proven = {}, learned }: Situation): { line: number; answers: number; times: number } {
  if (!learned || !isTaught(proven)) return { line: 0, answers: 0, times: 0 };
  const n = (all: Readonly<Record<string, { n: number }>>) => Object.values(all).reduce((sum, t) => sum + t.n, 0);
  return {
    line: Object.values(learned.line).reduce((a, b) => a + b, 0),
    answers: n(learned.slips),
    times: n(learned.testMinutes) + n(learned.fixMinutes),
  };
}

const toolsByLibrary = new WeakMap<Library, string[]>();
/** Every tool that a test of the library names. */
function toolsIn(library: Library): string[] {
  const before = toolsByLibrary.get(library);
  if (before) return before;
  const all = [...new Set([...library.families.values()].flatMap((f) => f.tests.flatMap((t) => t.tools)))];
  toolsByLibrary.set(library, all);
  return all;
}

/** Tools of the shop by their names in the tests; what no equipment stands for, such as a mirror, is thought to be there. */
function toolsOf(services: Services, owned: readonly Equipment[]): string[] {
  const standsFor = Object.values(equipment).flatMap((e) => e.tools as readonly string[]);
  const here = owned.flatMap((id) => equipment[id].tools as readonly string[]);
  return toolsIn(services.library).filter((tool) => here.includes(tool) || !standsFor.includes(tool));
}

/** Tests of the ledger that count, as core reads them. */
export const ledgerOf = (record: Pick<CaseRecord, 'evidence'>): EvidenceEntry[] =>
  counting(record.evidence).map((e) => ({
    id: e.id,
    test: e.test,
    outcome: e.outcome,
    ...(e.key ? { key: e.key } : {}),
    ...(e.replaces ? { replaces: e.replaces } : {}),
  }));

/**
 * The lines of the ledger that are weighed, in order: tests, and repairs that were tried. After a cure the vehicle is another one: what was seen since
 * speaks for the cure and not of the fault. A cure that has failed since was made in vain.
 */
export function findingsOf(record: CaseRecord, family: Family, cured: CuredHere | null): Finding[] {
  const known = new Map(family.tests.map((t) => [t.id, t]));
  const stands = new Set(standing(ledgerOf(record)).map((e) => e.id));
  const tests = counting(record.evidence).flatMap((e) => {
    const test = known.get(e.test);
    // A test without chances says something of its links, and nothing that can be weighed.
    if (!test?.p || !stands.has(e.id) || cured?.isAfter(e)) return [];
    return [{ seq: e.seq, finding: { id: e.id, test: e.test, outcome: e.outcome!, ...(test.perKey && e.key ? { key: e.key } : {}) } }];
  });
  const vain = standingRepairActions(record).flatMap((d) => {
    const tried = d.kind === 'repair' && (d.result === 'works' || d.result === 'fails') && d.id !== cured?.id;
    if (!tried || !family.faults?.some((f) => f.id === d.fault)) return [];
    return [{ seq: d.seq, finding: { id: d.id, repair: d.fault, worked: false, ...(d.key ? { key: d.key } : {}) } }];
  });
  const cure: Finding[] = cured ? [{ id: cured.id, repair: cured.fault.id, worked: true, ...(cured.key ? { key: cured.key } : {}) }] : [];
  return [...[...tests, ...vain].sort((a, b) => a.seq - b.seq).map((x) => x.finding), ...cure];
}

/** What stands in the ledger of tests that only ready an instrument. */
function preparedOf(record: CaseRecord, family: Family): { test: string; outcome: string }[] {
  const readies = new Set(family.tests.filter((t) => t.p === undefined).map((t) => t.id));
  return standing(ledgerOf(record)).flatMap(({ test, outcome }) => (readies.has(test) && outcome !== null ? [{ test, outcome }] : []));
}

function factsOf(record: CaseRecord, family: Family) {
  return {
    changed: record.changed.map((c) => c.what),
    symptoms: record.symptoms,
    keys: record.keys.filter((k) => k.present).map((k) => k.tag),
    runs: Object.fromEntries(record.runs.map((r) => [r.procedure.id, r.status])),
    verified: isVerified(record, family),
  };
}

/** Below this a cause is not called likely. Our own choice. */
const likelyFrom = 0.8;

/** What a person who closes a case is asked about its cause: which there are, most likely first, and what the ledger bears out. */
export async function causesOf(services: Services, record: CaseRecord) {
  const read = await readForDiagnosis(services, record);
  if (!read.situation) return null;
  const { diagnosis } = services.weigher.quick(read.situation);
  const causes: { id: string; title: string; p: number }[] = [];
  for (const { fault, title, p } of diagnosis.beliefs) {
    const known = causes.find((c) => c.id === fault);
    if (known) known.p += p;
    else causes.push({ id: fault, title, p });
  }
  causes.sort((a, b) => b.p - a.p);
  const { cured } = read;
  const best = causes[0]!;
  const proposed: { conclusion: Conclusion; fault: string } = cured
    ? { conclusion: cured.proof.standing === 'failed' ? 'unknown' : cured.proof.standing, fault: cured.fault.id }
    : {
        conclusion: diagnosis.advice.kind !== 'contradiction' && best.p >= likelyFrom && best.id !== somethingElse ? 'likely' : 'unknown',
        fault: best.id,
      };
  return { causes, proposed, open: cured ? cured.proof.open : [], together: cured?.proof.changedTogether ?? null };
}
