import type { Problem } from '../units';
import { type Act, holdsSomething, type Item, items, moduleNames, type ModuleName, type Replacement } from './documents';
import { lintSentences } from './lintSentences';

/** What a document's acts and parts must know of outside it. */
export interface KnownNames {
  families: ReadonlySet<string>;
  procedures: ReadonlySet<string>;
}

/** Names that lead nowhere, items that nothing brings back, and acts for parts that this system type hasn't. */
export function lintReplacement(document: Replacement, known: KnownNames): Problem[] {
  const problems: Problem[] = [];
  const add = (path: string, message: string) => problems.push({ code: 'unknownName', path, message });
  if (!known.families.has(document.id)) add('id', lintSentences.unknownFamily(document.id));
  for (const name of moduleNames) {
    const part = document.parts[name];
    if ('same' in part && !holdsSomething(document.parts[part.same])) add(`parts.${name}.same`, lintSentences.sameHoldsNothing(part.same));
    if (!holdsSomething(part)) continue;
    for (const [item, hold] of Object.entries(part.holds)) {
      hold.with.forEach((fact, i) => {
        if (!holdsFact(document, fact)) add(`parts.${name}.holds.${item}.with[${i}]`, lintSentences.holdsNot(fact));
      });
      const always = (['new', 'donor', 'remanufactured'] as const).every((origin) => hold.kept.includes(origin));
      if (!always && !document.acts.some((act) => brings(act, name, item as Item)))
        add(`parts.${name}.holds.${item}`, lintSentences.nothingBrings(name, item));
    }
  }
  document.acts.forEach((act, i) => {
    const path = (field: string) => `acts[${i}].${field}`;
    if (act.procedure !== undefined && !known.procedures.has(act.procedure)) add(path('procedure'), lintSentences.unknownProcedure(act.procedure));
    if (act.insteadOf !== undefined && !document.acts.some((a) => a.id === act.insteadOf))
      add(path('insteadOf'), lintSentences.unknownAct(act.insteadOf));
    for (const field of ['needs', 'gives', 'takes'] as const)
      act[field].forEach((fact, k) => {
        if (act.each === undefined && fact.startsWith('$part')) add(`${path(field)}[${k}]`, lintSentences.partWithoutEach);
      });
  });
  return problems;
}

/** Whether an act brings an item of a part; one for each part brings it to any of them. */
const brings = (act: Act, part: ModuleName, item: Item): boolean => act.gives.includes(`${part}.${item}`) || act.gives.includes(`$part.${item}`);

function holdsFact(document: Replacement, fact: string): boolean {
  const [name, item] = fact.split('.') as [ModuleName, Item];
  const part = document.parts[name];
  return items.includes(item) && holdsSomething(part) && part.holds[item] !== undefined;
}
