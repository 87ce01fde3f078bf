import type { Problem } from '../units';

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
    says: 'starts or cranks the engine',
  },
  lever: {
    finds: /\b(?:lever|selector|shift(?:er)?|neutral)\b[^]*\bstart|\bstart\b[^]*\b(?:lever|selector|shift(?:er)?|neutral)\b/i,
    before: [['brakeHeld']],
    says: 'starts with the lever in question',
  },
  column: {
    finds: /\bcolumn\b|\b(?:fit|mend|repair|renew|replace|seat)\b[^.]*\b(?:coil|lock|contact plate|fine wires?)\b/i,
    before: [['airbag']],
    says: 'works at the steering column',
  },
  plug: { finds: /\bplugs?\b|\bunplug\w*|\bconnector\b/i, before: [['supplyOff', 'backProbe']], says: 'parts a plug or measures at one' },
  board: {
    finds: /\b(?:re)?solder\w*|\bcircuit board\b|\bkey (?:being|is) opened\b|\bopening the key\b|\bopen the (?:key|module|box)\b|\bmemory chip\b/i,
    before: [['static'], ['hotTip']],
    says: 'opens a key or module, or solders',
  },
  battery: {
    finds: /(?<!\b(?:fob|key)(?:[’']s)? )\bbatter(?:y|ies)\b|\bstarter(?:[’']s (?:own )?terminals| motor\b|, or its cable)|\bmain cable\b/i,
    before: [['battery']],
    says: 'works at the battery or its cable',
  },
  fuel: {
    finds: /\bfuel (?:pressure|filter|line|pump)\b|\bpressure gauge\b|\bread the pressure\b/i,
    before: [['fuel']],
    says: 'works at the fuel system',
  },
  spark: { finds: /\bspark\b|\bignition coil\b/i, before: [['highTension']], says: 'works at the ignition' },
  bridge: { finds: /\bfused (?:lead|jumper)\b|\bbridg(?:e|ing)\b/i, before: [['bridge'], ['battery']], says: 'bridges a relay' },
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
    message: `"${id}" ${dangers[act].says}, and ${oneOf.map((c) => `"${c}"`).join(' or ')} is not before it. Add it; or, where the text only mentions the act, add harmless: [${act}].`,
  }));
}
