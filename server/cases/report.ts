import { type Coverage, type Scan, type ScannedModule, scannedWords } from '../../core/codes';
import { listSealed, type SealedItem } from '../vault/items';
import { offerLines } from '../offers/lines';
import { replacementLines } from '../replacement/lines';
import { triesInARow } from '../../core/diagnosis';
import { formatAmount } from '../../core/quote';
import { dateWords, quantityWords } from '../../core/units';
import {
  abilities,
  abilityResults,
  type Ability,
  arrivals,
  authorityKinds,
  counters,
  changes,
  type Family,
  type Feature,
  formatParams,
  howOften,
  measurementWords,
  paramWords,
  symptoms,
} from '../../core/library';
import { numbersGiven, paramsAt, tell, type ToldEvent } from '../../core/procedure';
import { type AbilityEntry, gridCell, heldTags } from '../../core/keys';
import { type CaseRecord, entriesOf } from '../record/cases';
import type { Condition } from '../db/schema';
import { earlierFamilies } from '../diagnosis/identification';
import type { MeasurementLine } from '../record/cases';
import { caseWithRuns, programOf, type RunRecord } from '../runs/runs';
import type { Services } from '../services/services';
import { pricesNow } from '../shop/prices';
import { pictureSize, keptShop } from '../shop/shop';
import { everyTry } from '../ledger/stepSearch';

export interface ReportLine {
  at: number;
  what: string;
  detail: string;
  by: string;
  /** Undone or withdrawn: stays in the report, struck out. */
  gone: boolean;
  run: boolean;
  /** The readings that it rests on. */
  measurement?: MeasurementLine;
}

const remarks = {
  questioned: 'early: asked again',
  early: 'before the time was over: noted',
  momentUnseen: 'moment unseen',
  late: 'too late',
  unmet: 'does not meet the requirement',
  short: 'too short: not counted',
  over: 'longer than its limit: not counted',
};
const happened = {
  keyOff: 'the key went off',
  started: 'the engine was started',
  supplyLow: 'battery voltage got low',
  supplyLost: 'power was lost',
  locked: 'the vehicle locked itself',
  left: 'the person had to step away',
};

const repairActionSays = {
  repair: 'Repair',
  broughtBack: 'Fault put back once',
  takenAway: 'Fault removed again',
  triedAgain: 'Tried again to confirm',
};
const resultSays = { works: 'it works', fails: 'it fails', done: 'done, not tried yet' };

/** How the cause is known in the end, in a sentence. */
function conclusionOf(record: CaseRecord, family: Family): string | null {
  const { conclusion, conclusionFault } = record;
  if (record.state !== 'closed' || !conclusion) return null;
  if (conclusion === 'unknown') return 'Unknown. Nothing recorded points clearly to one cause.';
  const title = family.faults?.find((f) => f.id === conclusionFault)?.title ?? 'Something other than the known faults of this system type';
  return `${conclusion === 'proven' ? 'Proven' : 'Likely, not proven'}: ${title}.`;
}

/** What was seen, in words; what nobody could see is left out. */
const seenWords = (features: readonly Feature[], seen: Readonly<Record<string, string>>): string =>
  features.flatMap((f) => f.values[seen[f.id] ?? ''] ?? []).join(', ');

/** What was sealed and what became of it; nothing of what is in it. */
const sealedLines = (items: readonly SealedItem[]): ReportLine[] =>
  items.flatMap((s) => {
    const line = { gone: false, run: false };
    const sealedLine = { ...line, at: s.at, what: 'Sealed in the vault', detail: `${s.name}: ${s.reason}`, by: s.by };
    const left = s.disposition === 'given' ? 'given to the customer' : s.disposition === 'kept' ? 'kept' : '';
    if (!s.destroyed) return [left ? { ...sealedLine, detail: `${sealedLine.detail} (${left})` } : sealedLine];
    return [sealedLine, { ...line, at: s.destroyed.at, what: 'Destroyed for good', detail: `${s.name}: ${s.destroyed.why}`, by: s.destroyed.by }];
  });

/** Everything that happened in a case, in order of time, with the figures and where they came from. */
export async function readReport(services: Services, caseId: number) {
  const shop = await keptShop(services);
  const found = await caseWithRuns(services, caseId);
  if (!found) return undefined;
  const { record, runs } = found;
  const { library } = services;
  const family = await services.documents.family(record.family);
  const profile = record.profile ? await services.documents.profile(record.profile) : undefined;
  const decimals = (await pricesNow(services))?.book.decimals ?? 2;
  const money = (amount: number) => formatAmount(amount, decimals, shop.currency);
  const replaced = new Set(record.evidence.flatMap((e) => (e.replaces ? [e.replaces] : [])));
  const tests = Object.fromEntries(family.tests.map((t) => [t.id, t]));
  const earlier = await earlierFamilies(services.documents, record);
  // Of the same second stands first what comes first: opened, identified, keys and counters received, authority, then the work.
  const lines: ReportLine[] = [
    { at: record.openedAt, what: 'Case opened', detail: record.words, by: record.openedBy, gone: false, run: false },
    ...record.identifications.map((i, n): ReportLine => ({
      at: i.at,
      what: n === 0 ? 'System identified' : 'System identified again',
      detail: [library.families.get(i.family.id)?.title ?? i.family.id, seenWords(library.features, i.seen)].filter(Boolean).join('. Seen: '),
      by: i.by,
      gone: false,
      run: false,
    })),
    ...record.authority.map((a): ReportLine => ({
      at: a.at,
      what: 'Authority seen',
      detail: [authorityKinds[a.kind as keyof typeof authorityKinds], a.note].filter(Boolean).join(': '),
      by: a.by,
      gone: false,
      run: false,
    })),
    ...record.custody.map((c): ReportLine => ({
      at: c.at,
      what: `Tag ${c.tag} ${c.act}`,
      detail: c.person === '' ? '' : `${c.act === 'received' ? 'from' : 'to'} ${c.person}`,
      by: c.by,
      gone: false,
      run: false,
    })),
    ...record.counters.map((c): ReportLine => ({
      at: c.at,
      what: `${counters[c.counter as keyof typeof counters].say} ${c.phase === 'before' ? 'before' : 'after'} the work`,
      detail: quantityWords(c.value, c.unit),
      by: c.by,
      gone: false,
      run: false,
    })),
    ...record.scans.map((s): ReportLine => ({
      at: s.at,
      what: `Scan ${s.phase === 'before' ? 'before' : 'after'} the work`,
      detail: scanWords(s.found, s.cleared, s.note),
      by: s.by,
      gone: false,
      run: false,
    })),
    ...sealedLines(await listSealed(services.database.db, record.id)),
    ...replacementLines(record.replacement).map((l): ReportLine => ({ ...l, gone: false, run: false })),
    ...offerLines(record.offers, money).map((l): ReportLine => ({ ...l, gone: false, run: false })),
    ...record.evidence
      .filter((e) => e.runId === null)
      .map((e): ReportLine => {
        const test = (e.foreign ? earlier[e.familyHash]?.tests : tests)?.[e.test];
        const measured = record.measurements.find((m) => m.id === e.measurementId);
        return {
          at: e.occurredAt,
          what: `${test?.title ?? e.test}${e.key ? `, tag ${e.key}` : ''}`,
          detail:
            e.outcome === null
              ? 'withdrawn'
              : [test?.outcomes[e.outcome]?.say ?? e.outcome, e.note, e.foreign && `seen under: ${earlier[e.familyHash]?.title ?? 'another system'}`]
                  .filter(Boolean)
                  .join('. '),
          by: e.by,
          gone: replaced.has(e.id),
          run: false,
          ...(measured ? { measurement: measured } : {}),
        };
      }),
    // What was measured and answered no test, such as a key that can't be told yet.
    ...record.measurements
      .filter((m) => !record.evidence.some((e) => e.measurementId === m.id))
      .map((m): ReportLine => ({
        at: m.at,
        what: `${measurementWords[m.kind]}${m.key ? `, tag ${m.key}` : ''}`,
        detail: `${m.simulated ? 'Simulated meter. ' : ''}${m.verdict}`,
        by: m.by,
        gone: false,
        run: false,
        measurement: m,
      })),
    ...(await everyTry(services.database.db, record.id)).map((t): ReportLine => ({
      at: t.at,
      what: `Value ${t.step} tried with a resistor`,
      detail: `${t.result === 'accepted' ? 'Accepted' : 'Refused'}. ${t.resistor}`,
      by: t.by,
      gone: t.gone,
      run: false,
    })),
    ...triesInARow(record.repairActions).map(({ line: d, times }): ReportLine => {
      const title = (d.foreign ? earlier[d.familyHash]?.faults[d.fault] : family.faults?.find((f) => f.id === d.fault)?.title) ?? d.fault;
      return {
        at: d.occurredAt,
        what: `${repairActionSays[d.kind]}: ${title}${d.key ? `, tag ${d.key}` : ''}`,
        detail:
          d.result === null
            ? 'withdrawn'
            : [times > 1 ? `${resultSays[d.result]}, ${times} times in a row` : resultSays[d.result], d.note].filter(Boolean).join('. '),
        by: d.by,
        gone: record.repairActions.some((o) => o.replaces === d.id),
        run: false,
      };
    }),
    ...runs.flatMap(runLines),
    ...judgementLines(record.judgements),
    ...record.states.map((x): ReportLine => ({
      at: x.at,
      what: { open: 'Reopened', parked: 'Parked', closed: 'Case closed' }[x.state],
      detail: x.state === 'closed' && x.at === record.closedAt ? (record.outcome ?? '') : x.reason,
      by: x.by,
      gone: false,
      run: false,
    })),
  ].sort((a, b) => a.at - b.at);
  const entries = entriesOf(record, family);
  const shown = Object.keys(abilities).filter((a) => family.verify.includes(a as Ability) || entries.some((e) => e.ability === a)) as Ability[];
  return {
    record: { ...record, evidence: undefined, repairActions: undefined, judgements: undefined },
    changed: record.changed.map(
      (c) => changes[c.what as keyof typeof changes] + (c.on ? `, ${dateWords(c.on, shop.units.dates)}` : '') + (c.note ? ` (${c.note})` : ''),
    ),
    symptoms: [
      ...record.symptoms.map((s) => symptoms[s as keyof typeof symptoms]),
      ...(record.complaint.diesAfterS === undefined ? [] : [`dies after ${record.complaint.diesAfterS} s`]),
      ...(record.complaint.howOften ? [howOften[record.complaint.howOften as keyof typeof howOften]] : []),
      ...(record.complaint.message ? [`message “${record.complaint.message}”`] : []),
      ...(record.complaint.phone ? [`on the phone: ${record.complaint.phone.join('; ')}`] : []),
    ],
    condition: conditionWords(record.condition),
    system: {
      title: family.title,
      /** Whose numbers were used; another car's name is no name of this car's system. */
      numbers: profile?.title ?? null,
      source: (profile ?? family).source,
      checked: (profile ?? family).checked,
      pins: [record.family, ...(record.profile ? [record.profile] : [])],
    },
    abilities: shown.map((a) => abilities[a]),
    keys: record.keys.map((k) => ({
      ...k,
      cells: shown.map((a) => {
        const { told, before, now } = gridCell(entries, k.tag, a);
        return { told: told?.result ?? null, before: before?.result ?? null, now: (now ?? before)?.result ?? null };
      }),
    })),
    held: heldTags(record.custody),
    conclusion: conclusionOf(record, family),
    /** Minutes that were counted for tests and repairs. */
    minutes: Math.round([...record.evidence, ...record.repairActions].reduce((n, l) => n + (l.minutes ?? 0), 0)),
    shop: { name: shop.name, address: shop.address, phone: shop.phone, picture: await pictureSize(services.database.db) },
    currency: shop.currency,
    units: shop.units,
    lines,
    runs: runs.map((r) => ({
      id: r.id,
      title: r.procedure.title,
      status: r.status,
      pin: `${r.procedure.id} version ${r.procedure.version}`,
      source: r.procedure.source,
      numbers: numbersOf(r),
    })),
    advice: family.text.advice,
    demo: services.demo,
  };
}

/** The numbers that counted in a run, and since when those that were changed in it. */
function numbersOf(r: RunRecord) {
  const given = numbersGiven(r.events);
  const counted = formatParams(paramsAt(r.params, given), r.procedure.params);
  const began = new Map(formatParams(r.params, r.procedure.params).map((n) => [n.name, n]));
  const gone = new Set(r.events.flatMap((e) => (e.type === 'retracted' ? [e.event] : [])));
  return counted.map((n) => {
    const changes = r.events.flatMap((e) => (e.type === 'number' && e.name === n.name && !gone.has(e.id) ? [e] : []));
    const before = began.get(n.name)!;
    return {
      ...n,
      changes: changes.map((e, i) => ({
        at: e.occurredAt,
        by: e.actor.name,
        from: i === 0 ? before.value : paramWords(changes[i - 1]!.value, r.params[n.name]!.unit),
        fromTypical: i === 0 && before.status === 'typical',
        unusual: e.confirmed === true,
      })),
    };
  });
}

/** How the vehicle came in, as a list of short facts. */
export function conditionWords(c: Condition): string[] {
  return [
    c.arrived && arrivals[c.arrived],
    c.engineCanRun && (c.engineCanRun === 'yes' ? 'engine can run' : 'engine can’t run'),
    c.partsOff && `parts off: ${c.partsOff}`,
    c.lastRunning && `last known running: ${c.lastRunning}`,
    c.batteryVolts !== undefined && `battery as found ${c.batteryVolts} V`,
  ].filter((fact) => typeof fact === 'string');
}

function runLines(r: RunRecord): ReportLine[] {
  return tell(programOf(r.procedure), r.params, r.events).map((told): ReportLine => {
    const { what, detail } = say(r, told);
    return { at: told.event.occurredAt, what, detail, by: told.event.actor.name, gone: told.retracted, run: true };
  });
}

function say(r: RunRecord, { event, instruction, round, said }: ToldEvent): { what: string; detail: string } {
  const what = round && event.type === 'answered' ? `${instruction} (${round})` : instruction;
  switch (event.type) {
    case 'started':
      return { what: r.procedure.title, detail: `Run started with ${event.keys.map((k) => `tag ${k}`).join(', ')}` };
    case 'answered':
      return { what, detail: said + (event.remark ? ` (${remarks[event.remark]})` : '') };
    case 'waived':
      return { what, detail: `Waived: ${event.reason}` };
    case 'interrupted':
      return { what: 'Interrupted', detail: `${happened[event.what]}${event.note ? `: ${event.note}` : ''}` };
    case 'number':
      return { what: `Looked up: ${instruction}`, detail: `${said}, ${event.source}` };
    case 'battery':
      return { what: 'Battery', detail: said };
    case 'noted':
      return { what: event.late ? 'Answered without a connection, too late for the run' : `Note at: ${instruction}`, detail: event.note };
    case 'retracted':
      return { what: 'Undone', detail: 'the step before' };
    case 'stopped':
      return { what: 'Run stopped', detail: event.reason };
  }
}

/** Judgements made in one go are one line a key. */
function judgementLines(judgements: AbilityEntry[]): ReportLine[] {
  const groups = new Map<string, ReportLine>();
  for (const j of judgements) {
    const id = `${j.at} ${j.key} ${j.source}`;
    const said = `${abilities[j.ability as keyof typeof abilities]}: ${abilityResults[j.result]}`;
    const line = groups.get(id);
    if (line) line.detail += `, ${said}`;
    else
      groups.set(id, {
        at: j.at,
        what: `${j.source === 'told' ? 'Told' : 'Verified'}, tag ${j.key}`,
        detail: said,
        by: j.by,
        gone: false,
        run: false,
      });
  }
  return [...groups.values()];
}

/** A scan in one line: its codes as they are, who was heard, and whether they were cleared. */
function scanWords({ codes, coverage }: Scan, cleared: boolean, note: string): string {
  const code = (c: Scan['codes'][number]) =>
    [c.failureType === undefined ? c.code : `${c.code}-${c.failureType}`, c.module && scannedWords[c.module], c.status].filter(Boolean).join(' ');
  const heard = (of: Coverage) => Object.entries(coverage).flatMap(([module, c]) => (c === of ? [scannedWords[module as ScannedModule]] : []));
  const list = (say: string, names: readonly string[]) => (names.length === 0 ? '' : `${say}: ${names.join(', ')}`);
  return [
    codes.length === 0 ? 'no trouble codes' : codes.map(code).join(', '),
    list('answered', heard('answered')),
    list('silent', heard('silent')),
    list('not scanned', heard('notAsked')),
    cleared && 'cleared afterward',
    note,
  ]
    .filter(Boolean)
    .join('. ');
}
