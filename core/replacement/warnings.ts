import { holdsSomething, type Item, type ModuleName, type Origin, type Replacement } from './documents';
import { scanTool } from './vocabulary';
import type { GroundAct, Situation } from './situation';

export interface PlanWarning {
  id: string;
  /** Said by the content; without it the id is one of the core's own (sentences.ts). */
  say?: string;
}

/** What makes a key known: with two such modules gone at once, nothing left knows the keys. */
const knowsKeys: readonly Item[] = ['keyList', 'secret', 'pairing'];

/** What a plan warns of: the core's own warnings by their codes, then those of the content. */
export function warningsOf(
  content: Replacement,
  situation: Situation,
  replaced: ReadonlyMap<ModuleName, Origin>,
  acts: readonly GroundAct[],
): PlanWarning[] {
  const { have, byHand } = situation;
  const holding = [...replaced].flatMap(([name, origin]) => {
    const part = content.parts[name];
    return holdsSomething(part) && origin !== 'repaired' ? [{ name, origin, part }] : [];
  });
  const warnings: PlanWarning[] = [];
  const warn = (id: string, when: boolean) => when && warnings.push({ id });
  warn(
    'usedBeforeTool',
    holding.some(({ part, origin }) => part.learnsFirst === true && (origin === 'donor' || origin === 'remanufactured')),
  );
  warn('bothAtOnce', holding.filter(({ part }) => knowsKeys.some((item) => part.holds[item])).length > 1);
  warn(
    'mileage',
    holding.some(({ part }) => part.holds.counters?.mileage === true),
  );
  if (have) {
    const { learned, valet } = have.keys;
    const valetOnly = content.mainKeys && learned > 0 && valet >= learned;
    warn('valetOnly', valetOnly);
    warn('singleKey', learned === 1 && !valetOnly);
    warn('noKey', learned === 0);
  }
  warn(
    'keysForgotten',
    acts.some((a) => a.effect === 'replacesKeys'),
  );
  const noTool = byHand === true || (have !== undefined && !have.tools.includes(scanTool));
  warn('noScan', noTool && acts.length > 0 && holding.some(({ name }) => name !== 'key'));
  for (const { part, origin } of holding)
    for (const { id, origins, say } of part.warns ?? []) if (origins.includes(origin)) warnings.push({ id, say });
  for (const act of acts) if (act.warns) warnings.push(act.warns);
  return warnings;
}
