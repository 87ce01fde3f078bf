import {
  factWords,
  holdsSomething,
  type Lack,
  lackWords,
  type ModuleName,
  moduleNames,
  originWords,
  type Replacement,
  type ReplacementPlan,
  toolsOf,
  warningWords,
} from '../../core/replacement';
import type { KeyHere } from '../../core/procedure';
import { keysAtHand, waysOf } from './plan';
import type { ReplacementQuery } from './query';

/** A part that can be chosen as replaced. */
export interface ChosenPart {
  name: ModuleName;
  title: string;
  /** Chosen origin, empty where it isn't replaced. */
  origin: string;
  installed: boolean;
  /** Nothing was saved of the old one, and nothing can be. */
  unread: boolean;
  /** It holds something, so that it matters where it comes from. */
  holds: boolean;
}

/** Everything that the page of a replacement shows. */
export function viewReplacement(content: Replacement, query: ReplacementQuery, keys: readonly KeyHere[]) {
  const known = toolsOf(content);
  const parts = moduleNames.flatMap((name): ChosenPart[] => {
    const part = content.parts[name];
    // What is another part here is chosen there; what isn't there can't be replaced.
    if ('absent' in part || 'same' in part) return [];
    return [
      {
        name,
        title: part.title,
        origin: query.replaced[name] ?? '',
        installed: query.installed.includes(name),
        unread: query.unread.includes(name),
        holds: holdsSomething(part),
      },
    ];
  });
  const replaced = Object.fromEntries(parts.filter((p) => p.origin !== '').map((p) => [p.name, query.replaced[p.name]!]));
  const tools = query.asked ? known.filter((t) => query.tools.includes(t)) : known;
  const { withTool, byHand } = waysOf(content, { ...query, replaced, tools }, keys);
  const chosen = Object.keys(replaced).length > 0;
  return {
    parts,
    origins: Object.entries(originWords).map(([id, say]) => ({ id, say })),
    tools: known.map((name) => ({ name, here: tools.includes(name) })),
    keys: keysAtHand(keys),
    checked: content.checked !== null,
    // Without a scan tool both ways are the same one.
    plans: !chosen ? null : tools.includes('scan tool') ? [shown(content, withTool), shown(content, byHand)] : [shown(content, byHand)],
  };
}

export type PlanShown = ReturnType<typeof shown>;

/** A plan as its page says it. */
function shown(content: Replacement, plan: ReplacementPlan) {
  const titleOf = (id: string) => content.acts.find((a) => a.id === id.split('.')[0])!.title;
  const place = new Map(plan.steps.map((s, i) => [s.id, i + 1]));
  return {
    minutes: plan.minutes,
    attended: plan.attended,
    money: plan.money,
    risks: plan.steps.filter((s) => s.risk !== undefined).length,
    steps: plan.steps.map(({ id, title, why, part, by, minutes, money, effect, procedure, risk, after }) => ({
      id,
      title,
      why,
      part: part === undefined ? null : partTitle(content, part),
      by,
      minutes,
      money,
      effect,
      procedure: procedure ?? null,
      risk: risk ?? null,
      after: after.map((s) => place.get(s)!),
    })),
    lost: plan.lost.map(factWords),
    cannot: plan.cannot.map((c) => factWords(c.fact)),
    because: [...new Set(rootsOf(plan).map((lack) => lackWords(lack, titleOf)))],
    then: [...new Set(plan.cannot.map((c) => c.then).filter((t) => t !== ''))],
    warnings: plan.warnings.map((w) => ({ id: w.id, say: w.say ?? warningWords[w.id as keyof typeof warningWords] })),
    plain: plan.plain.map((p) => p.say),
  };
}

/** What is really missing: an act that waits for something which is in the same list lacks nothing of its own. */
function rootsOf({ cannot }: ReplacementPlan): Lack[] {
  const missing = new Set(cannot.map((c) => c.fact));
  return cannot.flatMap((c) => c.because.filter((lack) => lack.code !== 'waitsFor' || !missing.has(lack.fact)));
}

function partTitle(content: Replacement, name: ModuleName): string {
  const part = content.parts[name];
  return 'title' in part ? part.title : name;
}
