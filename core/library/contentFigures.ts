import { comparisonsIn, type Condition, subjectOf } from './condition';
import type { CommonParts, Family } from './documents';
import { parseExpression } from './expression';
import { lampTimeline } from './lampTimeline';
import { lampExpressions } from './lintFamily';
import { resolveParams } from './params';
import { type LaidLamp, resolveLamps } from './resolveLamps';
import { serves } from './serves';
import { verdictText } from './verdictText';

/** What a person who edits content should look at; none of it stops a start. */
export interface ContentFigures {
  family: string;
  lamps: number;
  tests: number;
  params: number;
  /** Parameters that no procedure and no condition of the family uses yet. */
  unusedParams: string[];
  /** Pairs of patterns of one moment that a person can't tell apart in the shorter of their two times to decide. */
  alike: [string, string][];
  /** Texts that tell what is, and not what to do: a verdict without an act at its end, a lamp or cluster text without `act`. */
  withoutAct: string[];
  /** Texts that also stand in another family, word for word. */
  copied: string[];
}

/**
 * Two lengths of time that differ by less than this factor look the same without a stop-watch. Our own, cautious choice: practised observers tell
 * durations apart that differ by a tenth or less (Grondin, "Timing and time perception", 2010), a person in a workshop is not practised.
 */
const tellableRatio = 1.35;

/** Verbs with which an act is told; the last sentence of a verdict must hold one. */
const acts =
  /\b(ask|begin|charge|check|choose|clear|continue|clean|compare|connect|count|find|free|go|hand|leave|listen|look|measure|move|press|put|read|relearn|see|silence|start|stop|take|teach|tell|touch|try|turn|unlock|verify|wait|walk|work|write)\b/i;
const lastSentence = (text: string): string =>
  text
    .replace(/[.!?]+$/, '')
    .split(/[.!?:]\s+/)
    .at(-1) ?? text;

/** Whether two patterns look the same for as long as one must look. Texts of the cluster are read, not timed. */
export function areAlike(a: LaidLamp, b: LaidLamp): boolean {
  if (!a.segments || !b.segments) return a.message !== undefined && a.message === b.message;
  const window = Math.min(a.decisiveS, b.decisiveS);
  const [first, second] = [lampTimeline(a.segments, window), lampTimeline(b.segments, window)];
  return (
    first.length === second.length &&
    first.every((span, i) => {
      const other = second[i]!;
      return span.lit === other.lit && Math.max(span.seconds, other.seconds) / Math.min(span.seconds, other.seconds) < tellableRatio;
    })
  );
}

function conditionsOf(family: Family): Condition[] {
  return [
    ...family.chain.map((l) => l.when),
    ...family.tests.flatMap((t) => Object.values(t.outcomes).flatMap((o) => o.says.map((s) => s.when))),
    ...family.verdicts.map((v) => v.when),
    ...family.next.map((n) => n.when),
  ].filter((c) => c !== undefined);
}

/** Texts of a family's own, without those of common parts. */
function textsOf(family: Family, common: ReadonlySet<string>): string[] {
  return [
    family.text.what,
    family.text.how,
    ...family.text.advice,
    ...family.text.misses,
    ...family.chain.map((l) => l.how),
    ...family.lamps.flatMap((l) => [l.meaning ?? '', l.act ?? '']),
    ...family.tests.filter((t) => !common.has(t.id)).map((t) => t.do),
    ...family.verdicts.map((v) => verdictText(v.say, v.steps)),
    ...family.next.map((n) => n.why),
  ].filter((t) => t !== '');
}

/** Of procedures only their family and the parameters they use count, of common parts the tests that families share. */
export function contentFigures(
  families: readonly Family[],
  procedures: readonly { family: string; params: readonly string[] }[],
  parts: readonly CommonParts[],
): ContentFigures[] {
  const common = new Set(parts.flatMap((c) => c.tests.map((t) => t.id)));
  const owners = new Map<string, Set<string>>();
  for (const family of families) for (const text of textsOf(family, common)) owners.set(text, (owners.get(text) ?? new Set()).add(family.id));
  return families.map((family) => {
    const used = new Set(procedures.filter((p) => serves(p, family.id)).flatMap((p) => p.params));
    for (const condition of conditionsOf(family))
      for (const comparison of comparisonsIn(condition)) {
        const { subject, name } = subjectOf(comparison);
        if (subject === 'param') used.add(name);
      }
    for (const e of family.lamps.flatMap((l) => lampExpressions(l))) {
      const param = parseExpression(e.expression)?.param;
      if (param) used.add(param);
    }
    const lamps = resolveLamps(family.lamps, resolveParams(family));
    return {
      family: family.id,
      lamps: family.lamps.length,
      tests: family.tests.length,
      params: Object.keys(family.params).length,
      unusedParams: Object.keys(family.params).filter((p) => !used.has(p)),
      alike: lamps.flatMap((a, i) =>
        lamps
          .slice(i + 1)
          .filter((b) => a.moment === b.moment && areAlike(a, b))
          .map((b): [string, string] => [a.id, b.id]),
      ),
      withoutAct: [
        ...family.verdicts.filter((v) => !acts.test(lastSentence(verdictText(v.say, v.steps)))).map((v) => `verdicts.${v.id}`),
        ...family.lamps.filter((l) => l.act === undefined).map((l) => `lamps.${l.id}`),
      ],
      copied: [...new Set(textsOf(family, common))].filter((t) => owners.get(t)!.size > 1),
    };
  });
}
