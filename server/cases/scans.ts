import {
  type CodeList,
  compareScans,
  coverages,
  coverageNotes,
  explainCode,
  findCodes,
  mostScanText,
  type Scan,
  type ScannedCode,
  type ScannedModule,
  scannedModules,
  scannedWords,
  scanOf,
  whoAnswered,
  whoAnswersTest,
  codesRead,
  codesReadTest,
} from '../../core/codes';
import type { Library } from '../../content/reader';
import { holdsSomething, type Job, partOf, type Replacement } from '../../core/replacement';
import { jobOf } from '../replacement/job';
import { type Act, actOnce } from '../acts/commands';
import { notify } from '../acts/live';
import { refused } from '../base/expected';
import { choice, flag, maybe, needed, optionalLine, orElse, orEmpty, record, text } from '../base/field';
import { parseForm } from '../base/parseForm';
import type { Db } from '../db/open';
import { scan } from '../db/schema';
import { appendTest } from '../ledger/ledger';
import type { Documents } from '../library/documents';
import { openCaseForChange, type ScanLine } from '../record/cases';

/** Most codes of one scan. */
const mostCodes = 500;
/** Stands at a line of the record that a scan brought. */
const scanNote = 'by the scan of this case';
/** Most scans of a case; a file of an exported case holds as many. */
const mostScans = 100;

const scanForm = {
  text: orEmpty(text(mostScanText)),
  phase: needed(choice('before', 'after')),
  coverage: orElse(record(choice(...scannedModules), maybe(choice(...coverages))), {}),
  cleared: flag(),
  /** Cleared although it was questioned. */
  knowing: flag(),
  note: optionalLine(300),
};
export const parseScan = (data: unknown) => parseForm(scanForm, data);
export type ScanForm = ReturnType<typeof parseScan>;

/**
 * Records a scan: the codes of its text, once each, and which modules were heard, as ticked, else as a file with fields says. The text itself is not kept: it may name people and vehicles. Where
 * both the immobilizer and the ECM were asked, the scan answers the test of who answers; where one of them answered, that of what the codes show.
 * @returns the titles of the tests that it answered
 */
export async function recordScan(
  { db, documents, library }: { db: Db; documents: Documents; library: Library },
  act: Act,
  caseId: number,
  form: ScanForm,
): Promise<string[]> {
  const read = findCodes(form.text);
  const found = scanOf(read.codes, { ...read.coverage, ...form.coverage });
  if (found.codes.length > mostCodes)
    throw refused(
      400,
      'tooMany',
      `${found.codes.length} trouble codes are more than the ${mostCodes} of one scan. Paste one report at a time.`,
      'text',
    );
  if (found.codes.length === 0 && !Object.values(found.coverage).some((c) => c !== 'notAsked'))
    throw refused(
      400,
      'nothing',
      'There is no trouble code in it, and no module is marked as answered or silent. Paste the report, or mark who answered.',
      'text',
    );
  const { phase, cleared, knowing, note } = form;
  const detail = { phase, codes: found.codes.length, cleared };
  return actOnce(db, act, { right: 'recordEvidence', action: 'scan recorded', payload: [caseId, form], caseId, detail }, async (tx) => {
    const record = await openCaseForChange(tx, caseId);
    if (record.scans.length >= mostScans) throw refused(409, 'tooMany', `A case holds ${mostScans} scans at most.`, 'text');
    const family = await documents.family(record.family, tx);
    const immobilizer = immobilizerOf(library.replacements.get(family.id));
    const [question] = cleared && !knowing ? unwise(found, immobilizer, jobOf(record, family), library.replacements.get(family.id)) : [];
    if (question !== undefined) throw refused(409, 'unwise', question, 'cleared');
    const shows = [
      { id: whoAnswersTest, outcome: whoAnswered(found, immobilizer) },
      { id: codesReadTest, outcome: codesRead(found, immobilizer, library.codes, record.profile?.id) },
    ];
    await tx.insert(scan).values({ caseId, phase, found, cleared, note, by: act.actor.id, at: act.now });
    const titles: string[] = [];
    for (const { id, outcome } of shows) {
      const test = family.tests.find((t) => t.id === id);
      if (!test || outcome === undefined) continue;
      await appendTest(tx, record, family, act, { test: id, outcome, note: scanNote });
      titles.push(test.title);
    }
    await notify(tx, { what: 'case', id: caseId });
    return titles;
  });
}

/** Why clearing the trouble codes after this scan was not wise: what it wiped unread, or a module that a scan tool must not meet yet. */
function unwise({ coverage }: Scan, immobilizer: ScannedModule, job: Job | null, content: Replacement | undefined): string[] {
  const early = job?.parts.find(({ part }) => {
    const origin = job.plan.replaced[part];
    const here = content?.parts[part];
    return (origin === 'donor' || origin === 'remanufactured') && here !== undefined && holdsSomething(here) && here.learnsFirst === true;
  });
  const learned = !job?.steps.some((s) => s.step.back === 'relearned' && s.step.stage !== 'after' && s.state !== 'done');
  return [
    ...(early && !learned
      ? [
          `${early.title}: used or remanufactured, and it has not learned this car yet. No scan tool may meet it before. If the trouble codes were cleared anyway, confirm that below.`,
        ]
      : []),
    ...((coverage[immobilizer] ?? 'notAsked') === 'notAsked'
      ? ['The immobilizer was not scanned, so its trouble codes were cleared unread. Scan it first; if they were cleared anyway, confirm that below.']
      : []),
  ];
}

/** The module that is the immobilizer of a system type, as scans name it. */
export function immobilizerOf(content: Replacement | undefined): ScannedModule {
  if (!content) return 'immobilizer';
  const { name, part } = partOf(content, 'immobilizer');
  return holdsSomething(part) && (scannedModules as readonly string[]).includes(name) ? (name as ScannedModule) : 'immobilizer';
}

/** Modules whose answer matters to a start, in the order in which one asks. */
export function modulesToAsk(content: Replacement | undefined): ScannedModule[] {
  const immobilizer = immobilizerOf(content);
  const others = (['engine', 'body', 'cluster', 'lock', 'steering'] as const).filter(
    (name) =>
      name !== immobilizer && (name === 'engine' || name === 'body' || name === 'cluster' || (content && holdsSomething(content.parts[name]))),
  );
  return [immobilizer, ...others];
}

export interface ExplainFor {
  profile?: string;
  /** Titles of the tests of the system type, by id. */
  tests: ReadonlyMap<string, string>;
}

/** A code as pages show it: what it says, its group and why, and what to test. */
export function explained(code: ScannedCode, lists: readonly CodeList[], { profile, tests }: ExplainFor) {
  const said = explainCode(code.failureType === undefined ? code.code : `${code.code}-${code.failureType}`, lists, {
    ...(profile === undefined ? {} : { profile }),
    tests: new Set(tests.keys()),
  })!;
  return {
    ...said,
    tests: said.tests.map((t) => tests.get(t)!),
    module: code.module ?? null,
    status: code.status ?? null,
    freezeFrame: code.freezeFrame ?? [],
  };
}
export type ShownCode = ReturnType<typeof explained>;

/** Scans as a page shows them, the newest first, and the last one after the work against the last one before it. */
export function viewScans(scans: readonly ScanLine[], content: Replacement | undefined, lists: readonly CodeList[], on: ExplainFor) {
  const immobilizer = immobilizerOf(content);
  const show = (codes: readonly ScannedCode[]) => codes.map((c) => explained(c, lists, on));
  const last = (phase: 'before' | 'after'): Scan | undefined => scans.findLast((s) => s.phase === phase)?.found;
  const [before, after] = [last('before'), last('after')];
  const compared = before && after ? compareScans(before, after) : null;
  return {
    scans: scans.toReversed().map(({ id, phase, found, cleared, note, by, at }) => ({
      id,
      phase,
      cleared,
      note,
      by,
      at,
      coverage: Object.entries(found.coverage).map(([module, coverage]) => ({ module: scannedWords[module as ScannedModule], coverage: coverage! })),
      notes: coverageNotes(found, immobilizer),
      shows: codesRead(found, immobilizer, lists, on.profile) ?? null,
      codes: show(found.codes),
    })),
    compared: compared && { gone: show(compared.gone), still: show(compared.still), added: show(compared.added), unknown: show(compared.unknown) },
  };
}

/** Columns of the table of a case's scans. */
export const scanColumns = [
  'scanned',
  'phase',
  'by',
  'module',
  'coverage',
  'code',
  'failure type',
  'status',
  'status byte',
  'freeze frame',
  'cleared',
  'note',
] as const;

/** A line for each code of each scan; a module without a code has one too, so that who was heard is in the table. */
export function scanRows(scans: readonly ScanLine[]): string[][] {
  return scans.flatMap(({ at, phase, by, found, cleared, note }) => {
    const row = (module: ScannedModule | undefined, code?: ScannedCode): string[] => [
      new Date(at).toISOString(),
      phase,
      by,
      module ?? '',
      module === undefined ? '' : (found.coverage[module] ?? ''),
      code?.code ?? '',
      code?.failureType ?? '',
      code?.status ?? '',
      code?.statusByte ?? '',
      code?.freezeFrame?.join('; ') ?? '',
      cleared ? 'yes' : 'no',
      note,
    ];
    const without = (Object.keys(found.coverage) as ScannedModule[]).filter((module) => !found.codes.some((c) => c.module === module));
    return [...found.codes.map((c) => row(c.module, c)), ...without.map((module) => row(module))];
  });
}

/** The scans of a case as they are kept, for another program; pasted again, all of it is found. */
export const scansAsJson = (scans: readonly ScanLine[]): string =>
  JSON.stringify(
    scans.map(({ at, by, phase, cleared, note, found }) => ({ at: new Date(at).toISOString(), by, phase, cleared, note, ...found })),
    null,
    2,
  );
