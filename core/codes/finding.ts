import { readCode } from './code';
import { type CodeFinding, codeFindings, type CodeList } from './documents';
import { explainCode } from './explain';
import type { Scan } from './scan';

/** The test of every system type that the trouble codes of a scan answer by themselves. */
export const codesReadTest = 'codesRead';
export type CodesRead = CodeFinding | 'onlyStored' | 'none';

/**
 * How often a scan shows nothing that matters, over the faults of a system type: the least and the most, 0 to 1. It says how little such a scan tells.
 * @param rows chances of the outcomes by fault, as the content has them; `default` for those without a row
 */
export function noneShare(rows: Readonly<Record<string, unknown>>, faults: readonly string[]): { least: number; most: number } {
  const of = (name: string) => {
    const row = (Object.hasOwn(rows, name) ? rows[name] : rows.default) as Record<string, number>;
    return row.none ?? 0;
  };
  const shares = faults.map(of);
  return { least: Math.min(...shares), most: Math.max(...shares) };
}

/**
 * What the codes of a scan show of a start that is refused: the most telling subject of which a code is present now or pending; where all such codes are only
 * stored, just that; else none. A code whose status nobody told counts as present. A scan in which neither the immobilizer nor the ECM answered shows nothing.
 * @param immobilizer the module that is the immobilizer here
 */
export function codesRead(
  { codes, coverage }: Scan,
  immobilizer: keyof Scan['coverage'],
  lists: readonly CodeList[],
  profile?: string,
): CodesRead | undefined {
  if (coverage[immobilizer] !== 'answered' && coverage.engine !== 'answered') return undefined;
  const found = codes.flatMap((c) => {
    const { finding } = explainCode(c.code, lists, profile === undefined ? {} : { profile })!;
    return finding === undefined ? [] : [{ finding, stored: c.status === 'stored' }];
  });
  const now = codeFindings.find((f) => found.some((c) => c.finding === f && !c.stored));
  return now ?? (found.length > 0 ? 'onlyStored' : 'none');
}

/** What a scan says of communication: the codes of the network that are there now, each once. One whose status nobody told counts as there. */
export function communicationCodes({ codes }: Pick<Scan, 'codes'>): string[] {
  return [...new Set(codes.filter((c) => readCode(c.code)?.system === 'network' && c.status !== 'stored').map((c) => c.code))];
}
