import type { Problem } from '../units';
import { lintSentences } from './lintSentences';

interface Danger {
  /** How an instruction tells of the act. */
  finds: RegExp;
  /** Cautions that stand before it: one of each group. */
  before: readonly (readonly string[])[];
  says: string;
}

/** What a sentence says must not be done, and parts that only bear the name of an act. */
const notDone =
  /\b(?:(?:do|does|did|would|will) not|(?:do|does|did|would)n[’']t|won[’']t|never|without|not yet|before you) (?:crank|start)\w*|\bstart (?:button|allowed|system|feed|signal|enabled?|over|a (?:long )?lockout)\b|\bfrom the start\b/gi;

/** Acts that can hurt a person or the vehicle: the one table of what must be warned of before each (craft.md, cautions). */
export const dangers = {
  start: {
    finds: /\bstart(?:s|ed|ing)?\b|\bcrank(?:s|ed|ing)?\b|\bengine run\b|\bpress the button\b/i,
    before: [['park'], ['people'], ['exhaust']],
    says: lintSentences.start,
  },
  lever: {
    finds: /\b(?:lever|selector|shift(?:er)?|neutral)\b[^]*\bstart|\bstart\b[^]*\b(?:lever|selector|shift(?:er)?|neutral)\b/i,
    before: [['brakeHeld']],
    says: lintSentences.lever,
  },
  column: {
    finds: /\bcolumn\b|\b(?:fit|mend|repair|renew|replace|seat)\b[^.]*\b(?:coil|lock|contact plate|fine wires?)\b/i,
    before: [['airbag']],
    says: lintSentences.column,
  },
  plug: { finds: /\bplugs?\b|\bunplug\w*|\bconnector\b/i, before: [['supplyOff', 'backProbe']], says: lintSentences.plug },
  board: {
    finds: /\b(?:re)?solder\w*|\bcircuit board\b|\bkey (?:being|is) opened\b|\bopening the key\b|\bopen the (?:key|module|box)\b|\bmemory chip\b/i,
    before: [['static'], ['hotTip']],
    says: lintSentences.board,
  },
  battery: {
    finds: /(?<!\b(?:fob|key)(?:[’']s)? )\bbatter(?:y|ies)\b|\bstarter(?:[’']s (?:own )?terminals| motor\b|, or its cable)|\bmain cable\b/i,
    before: [['battery']],
    says: lintSentences.battery,
  },
  fuel: {
    finds: /\bfuel (?:pressure|filter|line|pump)\b|\bpressure gauge\b|\bread the pressure\b/i,
    before: [['fuel']],
    says: lintSentences.fuel,
  },
  spark: { finds: /\bspark\b|\bignition coil\b/i, before: [['highTension']], says: lintSentences.spark },
  bridge: { finds: /\bfused (?:lead|jumper)\b|\bbridg(?:e|ing)\b/i, before: [['bridge'], ['battery']], says: lintSentences.bridge },
} as const satisfies Record<string, Danger>;
export type DangerName = keyof typeof dangers;
export const dangerNames = Object.keys(dangers) as DangerName[];

/**
 * Cautions that an instruction needs and does not have.
 * @param text what is to be done
 * @param cautions ids of those that stand before it
 * @param harmless acts that the text only names, as its author says
 */
export function missingCautions(
  text: string,
  cautions: readonly string[],
  harmless: readonly string[] = [],
): { act: DangerName; oneOf: readonly string[] }[] {
  const done = text.replace(notDone, ' ');
  return dangerNames.flatMap((act) => {
    const { finds, before }: Danger = dangers[act];
    if (harmless.includes(act) || !finds.test(done)) return [];
    return before.filter((oneOf) => !oneOf.some((c) => cautions.includes(c))).map((oneOf) => ({ act, oneOf }));
  });
}

/** The same as problems of a document. */
export function cautionProblems(path: string, id: string, text: string, cautions: readonly string[], harmless: readonly string[] = []): Problem[] {
  return missingCautions(text, cautions, harmless).map(({ act, oneOf }) => ({
    code: 'cautionMissing',
    path: `${path}.cautions`,
    message: lintSentences.cautionMissing(id, dangers[act].says, oneOf.map((c) => `"${c}"`).join(' or '), act),
  }));
}
