import { type Family, resolveParams, valuesOf } from '../library';
import { compile } from './compile';
import { rowOf } from './rows';
import { divergence, tellableBits } from './tellable';
import { lintSentences } from './lintSentences';

/** What a person who edits the faults of a family should look at. */
export interface FaultFigures {
  family: string;
  faults: number;
  /** Tests with chances. */
  tests: number;
  /** Share of rows, a row for each test and fault, that nobody wrote for the fault or for what it shows. */
  atDefault: number;
  /** Share of rows that are the same as the row of a vehicle without a fault. */
  identical: number;
  /** Pairs of faults that all tests together do not tell apart. */
  untold: [string, string][];
  /** Faults whose prior nobody has given a source for. */
  unsourced: number;
  /** Why the family is not finished; empty when it is. */
  unfinished: string[];
}

const fewest = 12;
const mostAtDefault = 0.5;

/** With one key and the family's typical parameters. */
export function faultFigures(family: Family): FaultFigures {
  const params = valuesOf(resolveParams(family));
  const faults = family.faults ?? [];
  const tests = family.tests.filter((t) => t.p);
  const rows = tests.flatMap((test) => {
    const healthy = rowOf(test, null, params).p;
    return faults.map((fault) => {
      const { p, origin } = rowOf(test, fault, params);
      return { origin, same: p.every((x, o) => Math.abs(x - healthy[o]!) < 1e-9) };
    });
  });
  const share = (of: (row: (typeof rows)[number]) => boolean) => (rows.length === 0 ? 0 : rows.filter(of).length / rows.length);
  const atDefault = share((r) => r.origin === 'default');
  const untold: [string, string][] = [];
  if (faults.length > 0) {
    const compiled = compile(family, params, { told: [], keys: ['A', 'B'], ratePerMinute: 1 });
    const first = compiled.hypotheses.flatMap((h, i) => (h.key === undefined || h.key === 'A' ? [i] : []));
    for (const [i, a] of first.entries())
      for (const b of first.slice(i + 1))
        if (divergence(compiled, a, b) < tellableBits) untold.push([compiled.hypotheses[a]!.fault.id, compiled.hypotheses[b]!.fault.id]);
  }
  return {
    family: family.id,
    faults: faults.length,
    tests: tests.length,
    atDefault,
    identical: share((r) => r.same),
    untold,
    unsourced: faults.filter((f) => f.priorSource === undefined).length,
    unfinished: [
      ...(faults.length < fewest ? [lintSentences.faultsFewerThan(faults.length, fewest)] : []),
      ...(tests.length < fewest ? [lintSentences.testsWithChancesFewerThan(tests.length, fewest)] : []),
      ...(atDefault > mostAtDefault ? [lintSentences.ofRowsAtDefaultMore(Math.round(atDefault * 100), mostAtDefault * 100)] : []),
    ],
  };
}
