import type { Coverage } from './coverage';
import type { FoundCode } from './inText';
import type { ScannedModule } from './modules';

/** A code of a scan, without its place in the text it came from. */
export type ScannedCode = Pick<FoundCode, 'code' | 'failureType' | 'status' | 'statusByte' | 'module' | 'freezeFrame'>;

/** What a scan said. */
export interface Scan {
  codes: ScannedCode[];
  /** By module; one that isn't here was not asked, as far as anyone noted. */
  coverage: Partial<Record<ScannedModule, Coverage>>;
}

/** Codes of a text as a scan keeps them: each once for its module and failure type, the first time it stands there. */
export function scanOf(found: readonly FoundCode[], coverage: Scan['coverage']): Scan {
  const codes = new Map<string, ScannedCode>();
  for (const { at: _at, line: _line, ...code } of found) {
    const name = nameOf(code);
    if (!codes.has(name)) codes.set(name, code);
  }
  // A module whose codes were read has answered, whatever was ticked.
  const heard = Object.fromEntries([...codes.values()].flatMap((c) => (c.module === undefined ? [] : [[c.module, 'answered' as const]])));
  return { codes: [...codes.values()], coverage: { ...coverage, ...heard } };
}

const nameOf = (c: ScannedCode): string => `${c.module ?? ''} ${c.code} ${c.failureType ?? ''}`;

export interface ComparedScans {
  gone: ScannedCode[];
  still: ScannedCode[];
  added: ScannedCode[];
  /** Gone only in so far as its module was not heard again: nobody knows. */
  unknown: ScannedCode[];
}

/**
 * Two scans side by side. A code is the same by its five characters and failure type, and by its module where both scans name one. A code of a module that
 * the later scan did not hear is neither gone nor still there.
 */
export function compareScans(before: Scan, after: Scan): ComparedScans {
  const same = (a: ScannedCode) => (b: ScannedCode) =>
    a.code === b.code && a.failureType === b.failureType && (a.module === undefined || b.module === undefined || a.module === b.module);
  const unheard = (c: ScannedCode) => c.module !== undefined && (after.coverage[c.module] ?? 'notAsked') !== 'answered';
  const lost = before.codes.filter((c) => !after.codes.some(same(c)));
  return {
    gone: lost.filter((c) => !unheard(c)),
    unknown: lost.filter(unheard),
    still: after.codes.filter((c) => before.codes.some(same(c))),
    added: after.codes.filter((c) => !before.codes.some(same(c))),
  };
}

/** What a scan says by who was heard. */
export type CoverageNote = 'immobilizerNotAsked' | 'engineNotAsked' | 'immobilizerSilent' | 'engineSilent' | 'allSilent' | 'noCodes';

/**
 * What who answered and who didn't means for power and network.
 * @param immobilizer the module that is the immobilizer of this vehicle, as a scan names it
 */
export function coverageNotes({ codes, coverage }: Scan, immobilizer: ScannedModule): CoverageNote[] {
  const of = (module: ScannedModule): Coverage => coverage[module] ?? 'notAsked';
  const asked = Object.values(coverage).filter((c) => c !== 'notAsked');
  if (asked.length > 1 && asked.every((c) => c === 'silent')) return ['allSilent'];
  const notes: CoverageNote[] = [];
  if (of(immobilizer) === 'notAsked') notes.push('immobilizerNotAsked');
  if (of(immobilizer) === 'silent') notes.push('immobilizerSilent');
  if (immobilizer !== 'engine') {
    if (of('engine') === 'notAsked') notes.push('engineNotAsked');
    if (of('engine') === 'silent') notes.push('engineSilent');
  }
  if (codes.length === 0) notes.push('noCodes');
  return notes;
}

/** The test of every system type that a scan answers by itself. */
export const whoAnswersTest = 'whoAnswers';

/**
 * The outcome of that test which a scan shows: only where both the immobilizer and the ECM were asked and at least one of them answered, since a scan in
 * which nobody answers speaks of the connector or the battery.
 */
export function whoAnswered(
  { coverage }: Pick<Scan, 'coverage'>,
  immobilizer: ScannedModule,
): 'all' | 'immobilizerMissing' | 'engineMissing' | undefined {
  const [of, ecm] = [coverage[immobilizer] ?? 'notAsked', coverage.engine ?? 'notAsked'];
  if (of === 'notAsked' || ecm === 'notAsked') return undefined;
  if (of === 'answered') return ecm === 'answered' ? 'all' : 'engineMissing';
  return ecm === 'answered' ? 'immobilizerMissing' : undefined;
}
