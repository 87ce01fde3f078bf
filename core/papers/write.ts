import { type PaperSection, paperSections } from '../options';
import { inSentence } from '../units';
import { sentences } from './sentences';

/** What the record of a case says, as far as the papers ask. */
export interface PaperFacts {
  concern: string;
  /** Templates of the system type, where it has them. */
  templates: { found: string; proven: string } | null;
  advice: readonly string[];
  /** What it was, in the end; null: not closed yet or nobody said. */
  cause: { title: string; standing: 'proven' | 'likely' } | 'unknown' | 'elsewhere' | null;
  tests: { count: number; minutes: number };
  /** What the tests that were decisive for the cause showed. */
  decisive: readonly { what: string; result: string }[];
  /** What was done, in order: fixes by what the content calls them, runs, parts. */
  fixes: readonly string[];
  runs: readonly { title: string; finished: boolean }[];
  parts: readonly { title: string; origin: string }[];
  declined: readonly string[];
  keys: readonly { tag: string; here: boolean; isNew: boolean; role: string; lost: boolean; cellChanged: boolean }[];
  /** Keys stored beyond those that the case lists. */
  strange: number;
  verified: boolean;
  codesLeft: readonly string[];
  /** A cover or ornament was the cause, or was removed. */
  cover: boolean;
}

const list = (items: readonly string[]) => items.join(', ');

/** What the papers say in each part, from the record alone: no sentence without a fact behind it. */
export function writePapers(facts: PaperFacts): Record<PaperSection, string[]> {
  return { found: found(facts), done: done(facts), notDone: notDone(facts), advise: advise(facts) };
}

function found(f: PaperFacts): string[] {
  const concern = f.concern === '' ? [] : [sentences.concern(f.concern)];
  const decisive = f.decisive.map((d) => sentences.foundBy(d.what, inSentence(d.result)));
  if (f.cause === null) return [...concern, ...decisive];
  if (f.cause === 'unknown') return [...concern, ...decisive, sentences.causeUnknown];
  if (f.cause === 'elsewhere') return [...concern, ...decisive, sentences.elsewhere];
  const { title, standing } = f.cause;
  const said = standing === 'proven' ? sentences.causeProven(inSentence(title)) : sentences.causeLikely(inSentence(title));
  const cause = f.templates ? f.templates.found.replaceAll('$cause', () => said) : sentences.causePlain(said);
  return [...concern, cause, ...decisive];
}

function done(f: PaperFacts): string[] {
  const tried = f.keys.filter((k) => k.here).map((k) => k.tag);
  const proof =
    f.verified && tried.length > 0 ? [f.templates ? f.templates.proven.replaceAll('$keys', () => list(tried)) : sentences.keyProof(list(tried))] : [];
  const work = [
    ...f.fixes.map(sentences.fixed),
    ...f.parts.map((p) => sentences.replaced(p.title, p.origin)),
    ...f.runs.filter((r) => r.finished).map((r) => sentences.runDone(r.title)),
  ];
  const added = f.keys.filter((k) => k.isNew && k.here).map((k) => k.tag);
  return [
    ...(f.tests.count > 0 ? [sentences.tested(f.tests.count, Math.round(f.tests.minutes))] : []),
    ...(work.length > 0 ? work : [sentences.nothingDone]),
    ...(added.length > 0 ? [sentences.keysAdded(list(added))] : []),
    ...proof,
  ];
}

function notDone(f: PaperFacts): string[] {
  const left = [
    ...(f.declined.length > 0 ? [sentences.declined(list(f.declined.map((d) => `“${d}”`)))] : []),
    ...f.keys.filter((k) => !k.here && !k.isNew).map((k) => sentences.keyAway(k.tag)),
    ...(f.strange > 0 ? [sentences.keysStrange(f.strange)] : []),
    ...f.runs.filter((r) => !r.finished).map((r) => sentences.runStopped(r.title)),
    ...(f.codesLeft.length > 0 ? [sentences.codesLeft(list(f.codesLeft))] : []),
    ...(!f.verified && f.keys.some((k) => k.here) ? [sentences.notTried] : []),
  ];
  return left.length > 0 ? left : [sentences.nothingLeft];
}

function advise(f: PaperFacts): string[] {
  const working = f.keys.filter((k) => k.here).length;
  const lost = f.keys.filter((k) => k.lost).map((k) => k.tag);
  const cells = f.keys.filter((k) => k.cellChanged).map((k) => k.tag);
  return [
    ...(f.keys.length > 0 && working < 2 ? [sentences.spare] : []),
    ...(lost.length > 0 ? [sentences.lostKey(list(lost))] : []),
    ...(f.keys.some((k) => k.role === 'master') ? [sentences.master] : []),
    ...(cells.length > 0 ? [sentences.cell(list(cells))] : []),
    ...(f.cover ? [sentences.cover] : []),
    ...f.advice,
    sentences.comeBack,
  ];
}

/** The papers as they go out: what a person wrote over a part takes the place of what follows from the record. */
export const papersOf = (
  facts: PaperFacts,
  written: Partial<Record<PaperSection, string[]>>,
): Record<PaperSection, { lines: string[]; written: boolean }> => {
  const made = writePapers(facts);
  return Object.fromEntries(
    paperSections.map((s) => [s, written[s] ? { lines: written[s], written: true } : { lines: made[s], written: false }]),
  ) as Record<PaperSection, { lines: string[]; written: boolean }>;
};
