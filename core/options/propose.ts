import { type Belief, type Spent, somethingElse, type Ways } from '../diagnosis';
import { type Effect, type Family, type FaultDefinition, gates } from '../library';
import type { BillEntry, PriceBook } from '../quote';
import {
  type AtHand,
  bothWays,
  holdsSomething,
  moduleWords,
  type ModuleName,
  type Origin,
  originWords,
  partOf,
  type Replacement,
  type ReplacementPlan,
  scanTool,
} from '../replacement';
import { inSentence } from '../units';
import { amountOf, type Option, optionBill, type Span } from './option';
import { sentences } from './sentences';
import { byOrigin, usual } from './warranty';

/** Everything that options follow from. */
export interface OptionFacts {
  family: Family;
  /** Null where the Library has nothing on replaced parts of this system type. */
  replacement: Replacement | null;
  book: PriceBook;
  /** Beliefs of the diagnosis, the likeliest first; empty where it has none. */
  beliefs: readonly Belief[];
  /** Null where nothing is weighed. */
  ways: Ways | null;
  /** A fix worked: there is nothing left to look for. */
  cured: boolean;
  keys: AtHand['keys'];
  tools: readonly string[];
  /** A part whose replacement is planned in the case, with its origins. */
  planned: readonly ModuleName[];
}

/** Below this a cause is not offered for a fix, above it needs no further test to be called the cause. Our own choices. */
const worthOffering = 0.1;
const clear = 0.9;
const mostFixes = 3;
/** Of 100 such cases so many cost no more than the upper end of a range. */
const share = 0.9;
const cutAndBlank = { minutes: 15, blank: 25, second: 20 };

const chance = (belief: Belief | undefined) => belief?.p ?? 0;

/** Every option that follows from what is known, the likeliest fix first; each at most once. */
export function proposeOptions(facts: OptionFacts): Option[] {
  const fixes = facts.cured ? [] : likely(facts);
  const parts = [...new Set([...fixes.flatMap(({ fault }) => fault.cure.part ?? []), ...facts.planned])];
  return [
    ...fixes.flatMap((f) => [...(f.fault.cure.part && facts.replacement ? [] : [fixOption(facts, f)]), ...otherFix(facts, f)]),
    ...parts.flatMap((part) => partOptions(facts, part, fixes)),
    ...keyOptions(facts, fixes),
    ...(facts.cured ? [] : [...sendOut(facts), ...testFurther(facts)]),
  ];
}

interface Likely {
  fault: FaultDefinition;
  belief: Belief;
}

function likely({ beliefs, family }: OptionFacts): Likely[] {
  return beliefs
    .flatMap((belief): Likely[] => {
      const fault = belief.fault === somethingElse ? undefined : family.faults?.find((f) => f.id === belief.fault);
      return fault && belief.p >= worthOffering ? [{ fault, belief }] : [];
    })
    .slice(0, mostFixes);
}

/** What comes on top in 90 of 100 such cases, where this fix is made first and holds; nothing where so many have this cause. */
function ifItIsNot({ ways, book }: OptionFacts, { fault, key }: Belief): Omit<Spent, 'p'> {
  const more = ways?.after[key === undefined ? fault : `${fault}@${key}`];
  return more ? spentAt(more, book, share) : { minutes: 0, money: 0 };
}

const work = (title: string, minutes: number): BillEntry[] => (minutes > 0 ? [{ kind: 'work', title, minutes }] : []);
const parts = (title: string, money: number, book: PriceBook): BillEntry[] =>
  money > 0 ? [{ kind: 'priced', title, amount: amountOf(money, book) }] : [];

/** Price from the option's own bill to the one with what may come on top. */
function priced(book: PriceBook, entries: readonly BillEntry[], more: { minutes: number; money: number }): Span {
  const low = optionBill(book, entries).total;
  if (more.minutes === 0 && more.money === 0) return { low, high: low };
  const high = optionBill(book, [...entries, ...work(sentences.testWork, more.minutes), ...parts(sentences.partsAfterTests, more.money, book)]).total;
  return { low, high: Math.max(low, high) };
}

const needsOf = (effects: readonly Effect[]): string[] => [
  ...(effects.some((e) => gates[e].authority) ? [sentences.needsAuthority] : []),
  ...(effects.some((e) => gates[e].allKeys) ? [sentences.needsKeys] : []),
];
const forgets = (effects: readonly Effect[]) => (effects.some((e) => gates[e].allKeys) ? [{ say: sentences.keysForgotten, p: null }] : []);
const unprovenFix = (p: number) => (p >= clear ? sentences.unprovenFix : sentences.unprovenUnlikely);

function fixOption(facts: OptionFacts, { fault, belief }: Likely): Option {
  const { cure } = fault;
  const title = belief.key === undefined ? fault.title : sentences.withKey(fault.title, belief.key);
  const named = inSentence(title);
  const entries = [...work(sentences.fixWork(named), cure.minutes), ...parts(sentences.partsFor(named), cure.money ?? 0, facts.book)];
  const more = ifItIsNot(facts, belief);
  const effects: Effect[] = cure.effect === undefined || cure.effect === 'none' ? [] : [cure.effect];
  return {
    id: ['fix', fault.id, ...(belief.key === undefined ? [] : [belief.key])].join('.'),
    kind: 'fix',
    title: sentences.fix(named),
    what: cure.do,
    by: 'hand',
    effects,
    entries,
    price: priced(facts.book, entries, more),
    minutes: { low: cure.minutes, high: cure.minutes + more.minutes },
    days: (cure.money ?? 0) > 0 ? usual.partInStock.days : usual.here.days,
    needs: needsOf(effects),
    risks: [...(belief.p < 1 ? [{ say: sentences.notIt(title), p: 1 - belief.p }] : []), ...forgets(effects)],
    warranty: (cure.money ?? 0) > 0 ? usual.partInStock.warranty : usual.here.warranty,
    unproven: unprovenFix(belief.p),
    p: belief.p,
    fault: fault.id,
    ...(belief.key === undefined ? {} : { key: belief.key }),
  };
}

/** The other way that the content knows for a fault: a key repaired in place of a new one. */
function otherFix(facts: OptionFacts, { fault, belief }: Likely): Option[] {
  const { or } = fault.cure;
  if (!or) return [];
  const entries = [...work(or.title, or.minutes), ...parts(sentences.partsFor(inSentence(or.title)), or.money, facts.book)];
  const p = belief.p * or.holds;
  const more = ifItIsNot(facts, belief);
  return [
    {
      id: ['or', fault.id, ...(belief.key === undefined ? [] : [belief.key])].join('.'),
      kind: 'otherFix',
      title: or.title,
      what: or.do,
      by: 'hand',
      effects: [],
      entries,
      price: priced(facts.book, entries, more),
      minutes: { low: or.minutes, high: or.minutes + more.minutes },
      days: usual.otherFix.days,
      needs: [],
      risks: [{ say: or.risk, p: 1 - or.holds }, ...(belief.p < 1 ? [{ say: sentences.notIt(fault.title), p: 1 - belief.p }] : [])],
      warranty: usual.otherFix.warranty,
      unproven: unprovenFix(belief.p),
      p,
      fault: fault.id,
      ...(belief.key === undefined ? {} : { key: belief.key }),
    },
  ];
}

/** A part from where it may come, by hand and with a scan tool where both can be done. */
function partOptions(facts: OptionFacts, asked: ModuleName, fixes: readonly Likely[]): Option[] {
  const { replacement } = facts;
  if (!replacement) return [];
  const { name, part } = partOf(replacement, asked);
  if (!holdsSomething(part)) return [];
  const cause = fixes.find((f) => f.fault.cure.part === asked);
  return (['new', 'donor', 'remanufactured'] as const).flatMap((origin) => {
    const { byHand, withTool } = bothWays(replacement, {
      replaced: { [name]: origin },
      have: { tools: facts.tools, keys: facts.keys, facts: [] },
    });
    const ways = [
      ...(byHand.steps.length > 0 ? [{ way: 'byHand' as const, plan: byHand }] : []),
      ...(withTool.steps.some((s) => s.by === 'scanTool') ? [{ way: 'scanTool' as const, plan: withTool }] : []),
    ];
    return ways.map(({ way, plan }) => partOption(facts, { name, title: part.title, origin, way, plan, cause }));
  });
}

const effectsOf = (plan: ReplacementPlan): Effect[] => [...new Set(plan.steps.map((s) => s.effect))].filter((e) => e !== 'none');

function partOption(
  facts: OptionFacts,
  {
    name,
    title,
    origin,
    way,
    plan,
    cause,
  }: { name: ModuleName; title: string; origin: Origin; way: 'byHand' | 'scanTool'; plan: ReplacementPlan; cause: Likely | undefined },
): Option {
  const { book } = facts;
  const part = inSentence(title);
  const from = byOrigin[origin];
  const cost = (cause?.fault.cure.money ?? usualPart) * from.priceFactor;
  const entries = [
    ...work(sentences.partWork(part), plan.attended),
    ...parts(sentences.partItself(title, inSentence(originWords[origin])), cost, book),
    ...parts(sentences.outsideOf(part), plan.money, book),
  ];
  const p = cause ? chance(cause.belief) : null;
  const more = cause ? ifItIsNot(facts, cause.belief) : { minutes: 0, money: 0 };
  const tools = [...new Set(plan.steps.flatMap((s) => (s.by === 'scanTool' ? [scanTool] : [])))];
  const outside = plan.steps.some((s) => s.by === 'outside');
  return {
    id: ['part', name, origin, way].join('.'),
    kind: 'part',
    title: sentences.replacePart(part, inSentence(originWords[origin]), way === 'byHand' ? sentences.byHand : sentences.byScanTool),
    what: sentences.planOf(plan.steps.length, inSentence(plan.steps[0]!.title)),
    by: outside ? 'outside' : way === 'byHand' ? 'hand' : 'scanTool',
    effects: effectsOf(plan),
    entries,
    price: priced(book, entries, more),
    minutes: { low: plan.minutes, high: plan.minutes + more.minutes },
    days: from.days,
    needs: [...tools.map(sentences.needsTool), ...(outside ? [sentences.needsOutside] : []), ...needsOf(effectsOf(plan))],
    risks: [
      ...(cause && cause.belief.p < 1 ? [{ say: sentences.notIt(cause.fault.title), p: 1 - cause.belief.p }] : []),
      ...[...new Set(plan.steps.flatMap((s) => s.risk ?? []))].map((say) => ({ say, p: null })),
      ...plan.cannot.map((c) => ({ say: c.then, p: null })),
    ],
    warranty: from.warranty,
    unproven: sentences.unprovenPart,
    p,
    part: name,
    origin,
    ...(cause ? { fault: cause.fault.id } : {}),
  };
}

/** What a new part is taken to cost where no cause says it, in money of the content. Our own estimate. */
const usualPart = 250;

/** One key or two, learned, and a clone where a key works and chips allow it. */
function keyOptions(facts: OptionFacts, fixes: readonly Likely[]): Option[] {
  const { replacement, book, keys, family } = facts;
  const wanted = keys.learned < 2 || fixes.some((f) => f.fault.group === 'key');
  if (!wanted || !replacement) return [];
  const { byHand, withTool } = bothWays(replacement, { replaced: { key: 'new' }, have: { tools: facts.tools, keys, facts: [] } });
  const plan = withTool.steps.length > 0 ? withTool : byHand;
  if (plan.steps.length === 0) return [];
  const outside = plan.steps.some((s) => s.by === 'outside');
  const tool = plan.steps.some((s) => s.by === 'scanTool');
  const learned = [1, 2].map((n): Option => {
    const extra = (n - 1) * cutAndBlank.second;
    const entries = [
      ...work(sentences.keyWork, plan.attended + cutAndBlank.minutes),
      ...work(sentences.secondKeyWork, extra),
      ...parts(sentences.keyBlanks(n), n * cutAndBlank.blank, book),
      ...parts(sentences.outsideOf(inSentence(moduleWords.key)), plan.money, book),
    ];
    const minutes = plan.minutes + cutAndBlank.minutes + extra;
    return {
      id: `key.new.${n}`,
      kind: 'key',
      title: n === 1 ? sentences.newKey : sentences.twoKeys,
      what: sentences.newKeyWhat,
      by: outside ? 'outside' : tool ? 'scanTool' : 'hand',
      effects: effectsOf(plan),
      entries,
      price: priced(book, entries, { minutes: 0, money: 0 }),
      minutes: { low: minutes, high: minutes },
      days: usual.newKey.days,
      needs: [sentences.needsAuthority, ...(tool ? [sentences.needsTool(scanTool)] : []), ...(outside ? [sentences.needsOutside] : [])],
      risks: [...forgets(effectsOf(plan)), ...[...new Set(plan.steps.flatMap((s) => s.risk ?? []))].map((say) => ({ say, p: null }))],
      warranty: usual.newKey.warranty,
      unproven: sentences.unprovenKey,
      p: null,
      part: 'key',
      origin: 'new',
    };
  });
  const copies = keys.learned > 0 && (family.newKey?.memories?.includes('blank') ?? false) && (family.newKey?.chips !== undefined || hasChip(family));
  return copies ? [...learned, clone(book)] : learned;
}

const hasChip = (family: Family): boolean => family.newKey?.kinds?.some((k) => k === 'chipHead' || k === 'buttonHead') ?? false;

function clone(book: PriceBook): Option {
  const minutes = 25;
  const entries = [...work(sentences.cloneWork, minutes), ...parts(sentences.keyBlanks(1), cutAndBlank.blank, book)];
  return {
    id: 'key.clone',
    kind: 'clone',
    title: sentences.clone,
    what: sentences.cloneWhat,
    by: 'hand',
    effects: [],
    entries,
    price: priced(book, entries, { minutes: 0, money: 0 }),
    minutes: { low: minutes, high: minutes },
    days: usual.clone.days,
    needs: [sentences.needsWorkingKey, sentences.needsAuthority],
    risks: [
      { say: sentences.cloneAlike, p: 1 },
      { say: sentences.cloneRefused, p: null },
    ],
    warranty: usual.clone.warranty,
    unproven: sentences.unprovenClone,
    p: null,
    part: 'key',
  };
}

function sendOut({ family, book, beliefs }: OptionFacts): Option[] {
  const { minutes, money } = family.elsewhere ?? { minutes: 60, money: 150 };
  const entries = [...work(sentences.sendOutWork, minutes), ...parts(sentences.sendOutItself, money, book)];
  return [
    {
      id: 'sendOut',
      kind: 'sendOut',
      title: sentences.sendOut,
      what: sentences.sendOutWhat,
      by: 'outside',
      effects: [],
      entries,
      price: priced(book, entries, { minutes: 0, money: 0 }),
      minutes: { low: minutes, high: minutes },
      days: usual.sendOut.days,
      needs: [sentences.needsOutside],
      risks: [{ say: sentences.outsideLonger, p: null }],
      warranty: usual.sendOut.warranty,
      unproven: sentences.unprovenSendOut,
      p: chance(beliefs.find((b) => b.fault === somethingElse)) || null,
    },
  ];
}

function testFurther({ ways, book, beliefs }: OptionFacts): Option[] {
  const best = beliefs[0];
  if (!ways || ways.test.length === 0 || !best || best.p >= clear) return [];
  const [low, , high] = spreadOf(ways.test, book);
  const at = spentAt(ways.test, book, 0.5);
  const entries = [...work(sentences.testWork, at.minutes), ...parts(sentences.partsAfterTests, at.money, book)];
  return [
    {
      id: 'test',
      kind: 'test',
      title: sentences.testFurther,
      what: sentences.testWhat,
      by: 'hand',
      effects: [],
      entries,
      price: { low: low!, high: Math.max(low!, high!) },
      minutes: { low: spentAt(ways.test, book, 0.1).minutes, high: spentAt(ways.test, book, 0.9).minutes },
      days: { low: 0, high: 1 },
      needs: [],
      risks: [{ say: sentences.testsNoAnswer, p: beliefs.find((b) => b.fault === somethingElse)?.p ?? null }],
      warranty: usual.here.warranty,
      unproven: sentences.unprovenTest,
      p: null,
    },
  ];
}

/** What a way costs in its case at a share of all, by what the customer pays. */
function spentAt(spent: readonly Spent[], book: PriceBook, part: number): Spent {
  const sorted = spent.map((s) => ({ ...s, total: totalOf(s, book) })).sort((a, b) => a.total - b.total);
  let sum = 0;
  for (const s of sorted) {
    sum += s.p;
    if (sum >= part - 1e-9) return s;
  }
  return sorted.at(-1)!;
}

const totalOf = ({ minutes, money }: Omit<Spent, 'p'>, book: PriceBook) =>
  optionBill(book, [...work(sentences.testWork, minutes), ...parts(sentences.partsAfterTests, money, book)]).total;

/** What the customer pays in 10, 50 and 90 of 100 such cases, with tax. */
export const spreadOf = (spent: readonly Spent[], book: PriceBook): [number, number, number] =>
  [0.1, 0.5, 0.9].map((part) => totalOf(spentAt(spent, book, part), book)) as [number, number, number];

/** A way to go on as the page shows it: its mean and what 10, 50, 90 of 100 such cases don't pass. Sums with tax, whole smallest units. */
export interface WayCost {
  mean: number;
  p10: number;
  p50: number;
  p90: number;
}

export function wayCost(spent: readonly Spent[], book: PriceBook): WayCost | null {
  if (spent.length === 0) return null;
  const [p10, p50, p90] = spreadOf(spent, book);
  return { mean: Math.round(spent.reduce((n, s) => n + s.p * totalOf(s, book), 0)), p10, p50, p90 };
}
