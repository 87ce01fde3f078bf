import {
  type Act,
  type FactName,
  type HoldingPart,
  holdsSomething,
  type Item,
  marks,
  moduleNames,
  type ModuleName,
  networkQuiet,
  type Origin,
  type PartKind,
  type Replacement,
  stages,
} from './documents';

/** What is at hand. */
export interface AtHand {
  /** As acts name them: `scan tool`, `programming tool`. */
  tools: readonly string[];
  /** Keys that the vehicle knows, and how many of them are main, valet or master keys. */
  keys: { learned: number; main: number; valet: number; master: number };
  /** What is there already: `engine.identity` of a part that came programmed, `engine.saved`, `engine.installed`. */
  facts: readonly FactName[];
  /** Parts that came out, or can't be read any more, without anything having been saved of them. */
  unread?: readonly ModuleName[];
}

/** What is taken to be at hand where nobody says; of tools all that are needed. */
export const everything: AtHand = { tools: [], keys: { learned: 2, main: 1, valet: 0, master: 1 }, facts: [] };

export interface Situation {
  replaced: Readonly<Partial<Record<ModuleName, Origin>>>;
  /** Left out: every tool, and two learned keys, of which one is a main and one a master key. */
  have?: AtHand;
  /** Only what needs no scan tool. */
  byHand?: boolean;
}

/** An act as it is made here: its part named, everything it waits for written out. */
export interface GroundAct extends Omit<Act, 'id'> {
  id: string;
  /** The act of the content that it comes from. */
  of: string;
  part?: ModuleName;
}

export interface Grounded {
  /** Acts in their order: by stage, then as the content has them, then by part. */
  acts: GroundAct[];
  /** What is so before anything is done. */
  start: ReadonlySet<FactName>;
  /** What must be so in the end: items of every part, and that what is replaced is in. */
  goals: FactName[];
  /** Items that are gone with what is replaced. */
  lost: FactName[];
}

const used = (origin: Origin): boolean => origin === 'donor' || origin === 'remanufactured';

/** The part that a name stands for in this system type. */
export function partOf(content: Replacement, name: ModuleName): { name: ModuleName; part: Replacement['parts'][ModuleName] } {
  const part = content.parts[name];
  return 'same' in part ? { name: part.same, part: content.parts[part.same] } : { name, part };
}

/** What is replaced, each under the name of the part that it is here, without what isn't there. */
export function replacedParts(content: Replacement, replaced: Situation['replaced']): Map<ModuleName, Origin> {
  const parts = new Map<ModuleName, Origin>();
  for (const name of moduleNames) {
    const origin = replaced[name];
    if (origin === undefined) continue;
    const here = partOf(content, name);
    if (!('absent' in here.part)) parts.set(here.name, origin);
  }
  return parts;
}

/** Whether a part is of a kind that acts are made for. */
function isOf(kind: PartKind, name: ModuleName, content: Replacement): boolean {
  const part = content.parts[name];
  if (name === 'key') return false;
  if (kind === 'vehicle') return true;
  if (!holdsSomething(part)) return kind === 'mechanical';
  switch (kind) {
    case 'electronic':
      return part.electronic;
    case 'mechanical':
      return !part.electronic;
    case 'holding':
      return true;
    case 'counting':
      return part.holds.counters !== undefined;
  }
}

const holdingParts = (content: Replacement): [ModuleName, HoldingPart][] =>
  moduleNames.flatMap((name) => {
    const part = content.parts[name];
    return holdsSomething(part) ? [[name, part] as const] : [];
  }) as [ModuleName, HoldingPart][];

const factsOfItems = (content: Replacement): [FactName, ModuleName, Item][] =>
  holdingParts(content).flatMap(([name, part]) =>
    (Object.keys(part.holds) as Item[]).map((item) => [`${name}.${item}`, name, item] as [FactName, ModuleName, Item]),
  );

/** What is so at the start: items that are still there, and what follows from where each part comes from. */
function startFacts(content: Replacement, replaced: ReadonlyMap<ModuleName, Origin>, have: readonly FactName[]): Set<FactName> {
  const facts = new Set<FactName>(have);
  const all = factsOfItems(content);
  for (const [fact, name, item] of all) {
    const origin = replaced.get(name);
    const hold = (content.parts[name] as HoldingPart).holds[item]!;
    if (origin === undefined || origin === 'repaired' || hold.kept.includes(origin)) facts.add(fact);
  }
  // What was made with something that is gone is void, and so is what was made with that.
  for (let changed = true; changed;) {
    changed = false;
    for (const [fact, name, item] of all) {
      const hold = (content.parts[name] as HoldingPart).holds[item]!;
      if (!facts.has(fact) || have.includes(fact) || hold.with.every((f) => facts.has(f))) continue;
      facts.delete(fact);
      changed = true;
    }
  }
  for (const name of moduleNames) {
    const part = content.parts[name];
    const origin = replaced.get(name);
    const learnsFirst = holdsSomething(part) && part.learnsFirst === true;
    if (origin === undefined || !used(origin)) facts.add(`${name}.clean`);
    if (origin === undefined || !used(origin) || !learnsFirst) facts.add(`${name}.toolFree`);
    if (origin === undefined || name === 'key') facts.add(`${name}.installed`);
    if (origin === undefined) facts.add(`${name}.read`);
    if (origin === 'new') facts.add(`${name}.empty`);
    if (origin !== undefined) facts.add(`${name}.out`);
  }
  const silent = [...replaced].some(([name, origin]) => origin !== 'repaired' && isOf('electronic', name, content));
  if (!silent) facts.add(networkQuiet);
  return facts;
}

/** An act for one part, or for none: names filled in, and everything written out that it waits for without saying so. */
function groundAct(act: Act, part: ModuleName | undefined, content: Replacement, replaced: ReadonlyMap<ModuleName, Origin>): GroundAct {
  const name = (fact: FactName) => (part === undefined ? fact : fact.replace('$part', part));
  const gives = act.gives.map(name);
  if (act.back === 'transferred')
    // The vehicle's own data is back, so what other parts have from it counts again.
    for (const [fact, owner, item] of factsOfItems(content)) {
      const made = (content.parts[owner] as HoldingPart).holds[item]!.with;
      if (!replaced.has(owner) && made.length > 0 && made.some((f) => gives.includes(f))) gives.push(fact);
    }
  const needs = new Set(act.needs.map(name));
  if (act.stage !== 'before') {
    const touched = new Set(
      gives.flatMap((fact) => {
        const [owner, what] = fact.split('.') as [ModuleName, string];
        return replaced.has(owner) && what !== 'installed' && what !== 'out' ? [owner] : [];
      }),
    );
    const whole = act.afterItems.length > 0;
    for (const [owner, origin] of replaced) {
      if (whole) {
        needs.add(`${owner}.installed`);
        const holds = content.parts[owner];
        if (origin !== 'repaired' && holdsSomething(holds)) for (const item of act.afterItems) if (holds.holds[item]) needs.add(`${owner}.${item}`);
      }
      if (touched.has(owner)) needs.add(act.bench ? `${owner}.out` : `${owner}.installed`);
      if (act.by === 'scanTool' && (whole || touched.has(owner))) needs.add(`${owner}.toolFree`);
    }
  }
  return {
    ...act,
    id: part === undefined ? act.id : `${act.id}.${part}`,
    of: act.id,
    ...(part === undefined ? {} : { part }),
    needs: [...needs],
    gives,
    takes: act.takes.map(name),
  };
}

/** What can be done here, what is so at the start, and what must be so in the end; tools and keys are not looked at. */
export function groundSituation(content: Replacement, situation: Situation): Grounded {
  const replaced = replacedParts(content, situation.replaced);
  const have = situation.have?.facts ?? [];
  const acts: GroundAct[] = [];
  for (const act of content.acts) {
    if (act.replaced && !Object.entries(act.replaced).some(([name, from]) => from.includes(replaced.get(name as ModuleName)!))) continue;
    if (act.together.some((name) => !replaced.has(name) || !act.origins.includes(replaced.get(name)!))) continue;
    if (act.unlessReplaced.some((name) => replaced.has(name))) continue;
    const parts = [...replaced].filter(([name, origin]) => isOf(act.each ?? act.any ?? 'vehicle', name, content) && act.origins.includes(origin));
    const installed = (name: ModuleName) => have.includes(`${name}.installed`);
    const unread = (name: ModuleName) => act.gives.includes('$part.saved') && (situation.have?.unread ?? []).includes(name);
    if (act.each !== undefined) {
      for (const name of inOrder(parts.map(([p]) => p)))
        if (!(act.untilInstalled && installed(name)) && !unread(name)) acts.push(groundAct(act, name, content, replaced));
    } else if ((act.any === undefined || parts.length > 0) && !(act.untilInstalled && [...replaced.keys()].every(installed)))
      acts.push(groundAct(act, undefined, content, replaced));
  }
  const start = startFacts(content, replaced, have);
  const itemFacts = factsOfItems(content).map(([fact]) => fact);
  return {
    acts: stages.flatMap((stage) => acts.filter((a) => a.stage === stage)),
    start,
    goals: [...itemFacts, ...[...replaced.keys()].map((name) => `${name}.installed`)],
    lost: itemFacts.filter((f) => !start.has(f)),
  };
}

/** The immobilizer's side before the engine's: it has to know the keys before anything is paired with it. */
const order: readonly ModuleName[] = ['immobilizer', 'cluster', 'body', 'lock', 'steering', 'engine', 'reader', 'key'];
const inOrder = (names: readonly ModuleName[]): ModuleName[] => order.filter((name) => names.includes(name));

/** A fact as part and item, where it is an item of a part. */
export function itemOf(fact: FactName): { part: ModuleName; item: Item } | undefined {
  const [part, item] = fact.split('.') as [ModuleName, string | undefined];
  return item === undefined || (marks as readonly string[]).includes(item) ? undefined : { part, item: item as Item };
}
