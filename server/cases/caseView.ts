import { caseNumber } from '../base/caseNumber';
import { besideKeys } from '../../core/memory';
import type { SlotsRaw } from '../record/measured';
import {
  closedBecause,
  effectWords,
  everyFamily,
  type Family,
  gates,
  paramWords,
  resolveLamps,
  resolveParams,
  valuesOf,
  warnedBecause,
  withKeys,
  withNumbers,
  withoutChances,
} from '../../core/library';
import { compile, keysRefused, keysWarned, lacking, outline, paramsAt, type Procedure, proposedKeys } from '../../core/procedure';
import { type Ability, abilities } from '../../core/library';
import { gridCell, heldTags } from '../../core/keys';
import { triage } from '../../core/triage';
import { type CaseRecord, entriesOf, keysHere, onRecord } from '../record/cases';
import { conditionWords } from './report';
import { diagnosisView, ledgerOf, readForDiagnosis } from '../diagnosis/diagnosis';
import { standingRepairActions } from '../ledger/proofs';
import { agreedIn } from '../billing/work';
import { nextStep } from '../replacement/jobView';
import { uncertainTypeOf, earlierFamilies, strangeLamp } from '../diagnosis/identification';
import { missingOf } from './missing';
import { keptIn, keptNumbers, ofFamily } from '../ledger/numbers';
import { proceduresOf } from '../library/procedures';
import { keptMinutes } from '../library/times';
import { keptProfiles } from '../library/profiles';
import type { Services } from '../services/services';
import { keptShop } from '../shop/shop';

/**
 * Everything the page of a case shows.
 * @param supposing findings that nobody made, for a look at what would follow
 * @param run procedure that was asked for, with the keys that were chosen for it, none: as it asks for them
 */
export async function readCasePage(services: Services, caseId: number, supposing: Supposed = [], run: { id: string; keys: string[] } | null = null) {
  const record = await services.cases.one(caseId);
  if (!record) return undefined;
  const { documents, library } = services;
  const family = withoutChances(await documents.family(record.family));
  const profile = record.profile ? await documents.profile(record.profile) : undefined;
  const given = await keptNumbers(services, record.id);
  const numbers = ofFamily(family, given);
  const params = paramsAt(resolveParams(family, profile), numbers);
  const learnt = Object.entries(numbers).filter(([name, n]) => profile?.values[name]?.value !== n.value);
  const kept = learnt.length === 0 ? undefined : keptIn(record, numbers, await keptProfiles(services));
  const cautions = Object.fromEntries(library.cautions);
  const supposed = supposedFindings(family, record, supposing);
  const read = await readForDiagnosis(services, record, supposed);
  const { assessment } = read;
  const diagnosis = diagnosisView(services, read, read.situation && services.weigher.quick(read.situation));
  const here = keysHere(record);
  const keysOf = (p: Procedure, chosen: readonly string[]) => {
    const tags = [...new Set(chosen)].filter((tag) => here.some((k) => k.tag === tag));
    return tags.length > 0 ? tags : proposedKeys(p.keys, here, keyInQuestion(p, diagnosis.weighed));
  };
  const values = valuesOf(params);
  const valuesFor = (p: Procedure) => (p.numbers ? valuesOf(paramsAt(resolveParams(withNumbers(family, p), profile), given)) : values);
  // One that names a number which this version of the system type does not have yet can't be worked here.
  const forThis = (await proceduresOf(services, family.id))
    .filter((p) => lacking(p, family).length === 0)
    .map((p) => ({ p, values: valuesFor(p) }))
    .map((one) => ({ ...one, times: keptMinutes(one.p, one.values) }));
  // Those for every vehicle are a list; of one that is asked for, or that a fault of this type leads to, all is shown.
  const led = new Set((read.family.faults ?? []).map((f) => f.cure.procedure));
  const procedures = forThis
    .filter(({ p }) => p.family !== everyFamily || p.id === run?.id || led.has(p.id))
    .map(({ p, values: own, times }) => ({ p, own, times, keys: keysOf(p, p.id === run?.id ? run.keys : []) }))
    .map(({ p, own, times, keys }) => ({
      id: p.id,
      /** Written in this shop. */
      own: !library.procedures.has(p.id),
      /** Which keys it asks for, those it takes in their order, and why it can't take them. */
      asks: p.keys ?? ('all' as const),
      keys,
      unfit: here.length === 0 ? null : keysRefused(p.keys, here, keys),
      title: p.title,
      text: p.text,
      effect: gates[p.effect].says,
      cautions: p.cautions,
      source: p.source,
      checked: p.checked !== null,
      minutes: times.expectedMinutes,
      /** Of these, how many pass with no hands needed. */
      waiting: times.minMinutes,
      /** What it does, in the order and the times in which it goes when all goes well. */
      outline: outline(compile(p), own, keys),
      shut: closedBecause(p.effect, onRecord(record)),
      warned: [...warnedBecause(p.effect, withKeys(onRecord(record), keys)), ...keysWarned(p.keys, here, keys)],
      /** Tags that it would forget, since they are not here or left out. */
      forgets: gates[p.effect].allKeys ? [...onRecord(record).keysAbsent, ...here.map((k) => k.tag).filter((tag) => !keys.includes(tag))].sort() : [],
    }));
  const everyVehicle = forThis
    .filter(({ p }) => p.family === everyFamily)
    .map(({ p, times }) => ({ id: p.id, title: p.title, minutes: times.expectedMinutes }));
  const entries = entriesOf(record, family);
  const shown = (Object.keys(abilities) as Ability[]).filter((a) => family.verify.includes(a) || entries.some((e) => e.ability === a));
  const agreed = agreedIn(record);
  return {
    // Signatures and options have a page of their own.
    record: { ...record, offers: [] },
    /** The case that came back as this one. */
    cameFrom: record.cameFrom === null ? null : { id: record.cameFrom, number: caseNumber(record.cameFrom) },
    /** What the customer agreed to last; null: nobody was asked yet. */
    agreed: agreed && { titles: agreed.kind === 'agree' ? agreed.options.map((o) => o.title) : [], at: agreed.at },
    /** The key × ability grid: for each key its fields in the same order. */
    abilities: shown,
    grid: Object.fromEntries(record.keys.map((k) => [k.tag, shown.map((a) => gridCell(entries, k.tag, a))])),
    held: heldTags(record.custody),
    condition: conditionWords(record.condition),
    authorised: onRecord(record),
    keysHere: here,
    missing: missingOf(record, onRecord(record)),
    diagnosis,
    supposing: supposed.map(({ test, outcome, key }) => ({ test, outcome, ...(key === undefined ? {} : { key }) })),
    currency: (await keptShop(services)).currency || 'units',
    /** Lines about repairs that count, and what their repair would need first. */
    repairActions: standingRepairActions(record).map((d) => d.id),
    shut: Object.fromEntries(
      (read.family.faults ?? []).flatMap((f) => {
        const because = f.cure.effect ? closedBecause(f.cure.effect, onRecord(record)) : [];
        return because.length > 0 ? [[f.id, because]] : [];
      }),
    ),
    stored: storedKeys(record),
    /** The step that is next in the plan of a replacement that is worked here. */
    planned: nextStep(record, family),
    procedures,
    everyVehicle,
    cautions,
    /** Words of what was recorded while the vehicle was taken for another system, by the version of that family. */
    earlier: await earlierFamilies(documents, record),
    uncertain: uncertainTypeOf(library, record),
    strangeLamp: strangeLamp(record),
    triage: triage(
      family,
      assessment.links,
      {
        changed: record.changed.map((c) => c.what),
        symptoms: record.symptoms,
        askedWhatChanged: record.changed.length > 0 || record.complaint.nothingChanged === 'yes',
      },
      ledgerOf(record),
    ),
    /** What was seen of the vehicle, in words. */
    seen: library.features.flatMap((f) => {
      const say = f.values[record.identifications.at(-1)?.seen[f.id] ?? ''];
      return say ? [{ ask: f.ask, say }] : [];
    }),
    lamps: resolveLamps(family.lamps, params),
    tests: Object.fromEntries(family.tests.map((t) => [t.id, t])),
    links: Object.fromEntries(family.chain.map((l) => [l.id, l.title])),
    system: {
      title: profile?.title ?? family.title,
      family: family.title,
      known: profile !== undefined,
      checked: (profile ?? family).checked,
      source: (profile ?? family).source,
    },
    /** The shop's profile in which they are kept already. */
    kept: kept ? { id: kept.pin.id, title: kept.profile.title } : null,
    /** Numbers that were looked up here and that the profile does not have. */
    learnt: learnt.map(([name, { value, source, by }]) => ({
      label: params[name]?.label ?? name,
      words: paramWords(value, params[name]?.unit ?? ''),
      source,
      by,
    })),
    typical: Object.values(params).filter((p) => p.status === 'typical').length,
    effects: Object.fromEntries(family.tests.map((t) => [t.id, effectWords(t.effect, params)])),
  };
}

/** The key that a procedure would be about: the one of the likeliest cause, where it fixes that or works on a single key. */
function keyInQuestion(p: Procedure, weighed: ReturnType<typeof diagnosisView>['weighed']): string | undefined {
  const leading = weighed?.beliefs[0];
  return leading && (p.keys === 'one' || weighed.faults[leading.fault]?.cure.procedure === p.id) ? leading.key : undefined;
}

/** What the page of a case shows of its diagnosis once the answer that looks far ahead is there. */
export async function readFinalDiagnosis(services: Services, caseId: number, supposing: Supposed) {
  const record = await services.cases.one(caseId);
  if (!record) return undefined;
  const family = await services.documents.family(record.family);
  const read = await readForDiagnosis(services, record, supposedFindings(family, record, supposing));
  return diagnosisView(services, read, read.situation && { diagnosis: await services.weigher.final(read.situation), final: true });
}

type Supposed = readonly { test: string; outcome: string; key?: string }[];

/** More findings are supposed at once by nobody who wants to know what would follow; each costs the weighing some time. */
const mostSupposed = 8;

/** Only what this family has can be supposed; of one test with one key the last counts. */
function supposedFindings(family: Family, record: CaseRecord, supposing: Supposed) {
  const tags = record.keys.map((k) => k.tag);
  const last = new Map<string, Supposed[number]>();
  for (const { test: id, outcome, key } of supposing) {
    const test = family.tests.find((t) => t.id === id);
    if (!test || !Object.hasOwn(test.outcomes, outcome) || (test.perKey && key !== undefined && !tags.includes(key))) continue;
    const tag = test.perKey ? key : undefined;
    last.set(`${id} ${tag ?? ''}`, { test: id, outcome, ...(tag === undefined ? {} : { key: tag }) });
  }
  return [...last.values()].slice(-mostSupposed).map((s, i) => ({ id: `if-${i}`, ...s }));
}
export type CasePage = NonNullable<Awaited<ReturnType<typeof readCasePage>>>;

/** The stored keys beside the keys in hand, as the last reading of the slots saved them; null: none was saved. */
function storedKeys({ measurements }: CaseRecord) {
  const read = measurements.findLast((m) => m.kind === 'slots');
  if (!read) return null;
  const { slots, inHand, proven, layout } = read.raw as SlotsRaw;
  const { slots: beside, keys } = besideKeys(slots, inHand, proven);
  return { slots: beside, keys, layout: layout.title, proven, at: read.at, by: read.by, simulated: read.simulated };
}
