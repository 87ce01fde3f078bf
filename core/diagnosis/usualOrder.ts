import type { Outcome, TestDefinition } from '../library';
import type { Finding } from './beliefs';
import type { Compiled } from './compile';
import { accepts, asksImmobilizer } from './doableNow';
import type { Model } from './model';
import type { Choice } from './policy';

/** What was seen, with its test. */
interface Seen {
  test: TestDefinition;
  outcome: Outcome;
  key?: string;
}

/** What the order is decided from. */
export interface Standing {
  compiled: Pick<Compiled, 'tests' | 'hypotheses' | 'family'>;
  findings: readonly Finding[];
  model: Model;
  weights: Float64Array;
  /** Tests that can be made now. */
  open: readonly number[];
}

/** A choice; `ends`: a look that may well end the case, proposed whatever it costs. */
export interface Ordered extends Choice {
  ends?: true;
}

/**
 * The order that is ours where practitioners disagree: the immobilizer is asked first; a look that may well end the case comes before anything that takes
 * longer; and where the power is in doubt, such as by a light that stays dark or a voltage that sags, it comes before everything that needs it.
 * @param weighed choices of the policy, which leaves out tests that don't look promising at first sight; they are taken in where a rule names them
 */
export function usualFirst(weighed: readonly Choice[], standing: Standing): Ordered[] {
  const [best] = weighed;
  if (!best || best.action.kind === 'refer') return [...weighed];
  const { compiled, findings, open } = standing;
  const there = new Set(weighed.flatMap(({ action }) => (action.kind === 'test' ? [action.test] : [])));
  const others = open.flatMap((test): Choice[] => (there.has(test) ? [] : [{ action: { kind: 'test', test }, cost: Infinity }]));
  const outcomes = findings.flatMap((f): Seen[] => {
    const test = 'test' in f ? compiled.family.tests.find((t) => t.id === f.test) : undefined;
    const outcome = 'test' in f ? test?.outcomes[f.outcome] : undefined;
    return test && outcome ? [{ test, outcome, ...(f.key === undefined ? {} : { key: f.key }) }] : [];
  });
  // A car that ran has been accepted, whatever the light did.
  const asked = outcomes.some(({ test, outcome }) => asksImmobilizer(test) || outcome.provesAll === true);
  const inDoubt = powerInDoubt(outcomes);
  const isFirst = !asked
    ? immobilizerOf(compiled)
    : inDoubt
      ? powerOf(compiled)
      : wantsEngine(outcomes)
        ? engineOf(compiled, outcomes)
        : endingOf([...weighed, ...others], standing, outcomes);
  const ordered = equalInUsualOrder(weighed, compiled);
  const named = [...ordered, ...others].filter(isFirst).map((c) => (c.cost === Infinity ? { ...c, cost: best.cost } : c));
  const isLook = asked && !inDoubt && !wantsEngine(outcomes);
  const first = isLook ? named.map((c): Ordered => ({ ...c, ends: true })).sort((a, b) => placeOf(a, compiled) - placeOf(b, compiled)) : named;
  return [...first, ...ordered.filter((c) => !isFirst(c))];
}

/**
 * What costs as good as the same is done in the order of a sensible person: a look before what can't be undone, and looks in the family's own order. The
 * expected costs are off by more than this share of them, since they look only some steps ahead. Our own choice.
 */
const asGoodAs = 0.002;

/** A repair that can be undone. */
const isHarmless = (fault: number, { hypotheses }: Standing['compiled']): boolean => (hypotheses[fault]!.fault.cure.effect ?? 'none') === 'none';

/** Place in the order of a sensible person, from 0; repairs after every test. */
function placeOf({ action }: Choice, compiled: Standing['compiled']): number {
  if (action.kind === 'refer') return 3e6;
  if (action.kind === 'repair') return isHarmless(action.fault, compiled) ? 1e6 : 2e6;
  const at = compiled.family.fixed?.indexOf(compiled.tests[action.test]!.test.id) ?? -1;
  return at < 0 ? 1e5 : at;
}

function equalInUsualOrder(choices: readonly Choice[], compiled: Standing['compiled']): Choice[] {
  const [best] = choices;
  if (!best || best.action.kind === 'refer' || (best.action.kind === 'repair' && isHarmless(best.action.fault, compiled))) return [...choices];
  const least = Math.min(...choices.map((c) => c.cost));
  const equal = choices.filter((c) => c.cost <= least * (1 + asGoodAs));
  return [...equal.sort((a, b) => placeOf(a, compiled) - placeOf(b, compiled)), ...choices.filter((c) => !equal.includes(c))];
}

type Named = (choice: Choice) => boolean;

/** The test that asks the immobilizer: it takes seconds and saves hours. */
const immobilizerOf =
  ({ tests }: Standing['compiled']): Named =>
  ({ action }) =>
    action.kind === 'test' && asksImmobilizer(tests[action.test]!.test);

/**
 * Every key that was tried is accepted, nobody has looked yet what the engine does, and nothing else is named as the trouble, such as the steering lock:
 * then the engine says which half of the chain is left.
 */
function wantsEngine(outcomes: readonly Seen[]): boolean {
  const lights = outcomes.filter(({ test }) => asksImmobilizer(test));
  return (
    lights.length > 0 &&
    lights.every(({ outcome }) => accepts(outcome) && !namesTrouble(outcome)) &&
    !outcomes.some(({ test, outcome }) => isEngine(test) || outcome.provesAll === true)
  );
}
const namesTrouble = (outcome: Outcome): boolean => outcome.says.some((s) => s.state !== 'holds' && s.weight === 'direct' && !s.when);
const isEngine = (test: TestDefinition): boolean => test.triage?.includes('engine') ?? false;
/** What the engine does, with the key that is accepted. */
const engineOf =
  ({ tests }: Standing['compiled'], outcomes: readonly Seen[]): Named =>
  ({ action }) => {
    const key = outcomes.findLast(({ test }) => asksImmobilizer(test))?.key;
    if (action.kind !== 'test') return false;
    const doable = tests[action.test]!;
    return isEngine(doable.test) && (key === undefined || doable.key === undefined || doable.key === key);
  };

/** A look of a minute without a tool that ends the case this often comes first. Our own choice: one time in ten. */
const endsOften = 0.1;

/** The looks that end the case often enough: with a key that the immobilizer does not take, or by setting the car free. */
function endingOf(choices: readonly Choice[], { compiled, model, weights }: Standing, outcomes: readonly Seen[]): Named {
  const lights = outcomes.filter((o) => asksImmobilizer(o.test));
  const isTaken = (key: string | undefined) => accepts(lights.findLast((l) => key === undefined || l.key === undefined || l.key === key)?.outcome);
  const ends = ({ action }: Choice): number => {
    if (action.kind !== 'test') return 0;
    const { test, key } = compiled.tests[action.test]!;
    if (asksImmobilizer(test) || test.minutes > 1 || test.tools.length > 0 || test.effect !== 'none' || !test.triage?.includes('cheap')) return 0;
    const { p, outcomes } = model.tests[action.test]!;
    // A key that is taken can't be taken by a look; the car can still be set free by one.
    const goesOn = (o: Outcome) => o.frees === true || (accepts(o) && !isTaken(key));
    return outcomes.reduce(
      (n, id, o) => (goesOn(test.outcomes[id]!) ? n + weights.reduce((m, w, f) => m + w * p[o * weights.length + f]!, 0) : n),
      0,
    );
  };
  const total = weights.reduce((a, b) => a + b, 0);
  const found = new Set(choices.flatMap((c) => (c.action.kind === 'test' && ends(c) / total >= endsOften ? [c.action.test] : [])));
  return (c) => c.action.kind === 'test' && found.has(c.action.test);
}

const powerLinks: ReadonlySet<string> = new Set(['power', 'ignitionFeed']);
const ofPower = (outcome: Outcome) => outcome.says.filter((s) => powerLinks.has(s.link) && !s.when);

/** What looks at the power or mends it. */
const powerOf =
  ({ tests, hypotheses }: Standing['compiled']): Named =>
  ({ action }) => {
    if (action.kind === 'repair') return powerLinks.has(hypotheses[action.fault]!.fault.link);
    return action.kind === 'test' && !asksImmobilizer(tests[action.test]!.test) && showsPower(tests[action.test]!.test);
  };

/**
 * A test that shows of itself whether the power is there: one outcome speaks for it and one directly against it. A question to a module about the key
 * is none, though the module is silent without power.
 */
function showsPower(test: TestDefinition): boolean {
  if (Object.values(test.outcomes).some(accepts)) return false;
  const says = Object.values(test.outcomes).flatMap(ofPower);
  return says.some((s) => s.state === 'holds') && says.some((s) => s.state !== 'holds' && s.weight === 'direct');
}

/** What was said last of the power: by the immobilizer's light, or directly by another test. */
function powerInDoubt(outcomes: readonly Seen[]): boolean {
  const last = outcomes.findLast(({ test, outcome }) => ofPower(outcome).some((s) => asksImmobilizer(test) || s.weight === 'direct'));
  return last !== undefined && ofPower(last.outcome).some((s) => s.state !== 'holds');
}
