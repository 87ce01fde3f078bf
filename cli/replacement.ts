import {
  bothWays,
  type FactName,
  factWords,
  holdsSomething,
  lackWords,
  type ModuleName,
  moduleNames,
  type Origin,
  origins,
  partOf,
  planReplacement,
  type PlanStep,
  type PlanWarning,
  readAtHand,
  readReplaced,
  type Replacement,
  type ReplacementPlan,
  warningWords,
} from '../core/replacement';
import type { Result } from '../core/units';
import { CannotUse } from './fail';
import { library } from './library';

export interface PlanOptions {
  profile: string;
  replaced: string;
  have?: string;
  byHand?: boolean;
}

export interface PlannedReplacement {
  steps: Pick<PlanStep, 'id' | 'title' | 'why' | 'by' | 'minutes' | 'effect' | 'procedure' | 'after'>[];
  warnings: { id: string; text: string }[];
  cannot: { fact: FactName; text: string; because: string[]; then: string }[];
  plain: { part: string; text: string }[];
  minutes: number;
  attendedMinutes: number;
}

/** `replacement plan`: what to do after parts were replaced, in order; without --have everything is at hand. */
export function replacementPlan(folders: string[], options: PlanOptions): PlannedReplacement {
  const read = library(folders);
  const profile = read.profiles.get(options.profile);
  if (!profile) throw new CannotUse(`--profile: "${options.profile}" does not exist. Use one of: ${[...read.profiles.keys()].join(', ')}.`);
  const content = read.replacements.get(profile.family);
  if (!content) throw new CannotUse(`--profile: nothing is known of what the modules of "${profile.family}" hold. Choose another profile.`);
  const replaced = used('--replaced', readReplaced(options.replaced));
  const have = options.have === undefined ? undefined : used('--have', readAtHand(options.have, content));
  const plan = planReplacement(content, { replaced, ...(have ? { have } : {}), ...(options.byHand ? { byHand: true } : {}) });
  return inWords(content, plan);
}

function used<T>(option: string, result: Result<T>): T {
  if (result.ok) return result.value;
  throw new CannotUse(`${option}: ${result.problems[0]!.message}`);
}

const warningText = (w: PlanWarning): string => w.say ?? warningWords[w.id as keyof typeof warningWords];

function inWords(content: Replacement, plan: ReplacementPlan): PlannedReplacement {
  const titleOf = (id: string) => content.acts.find((a) => a.id === id.split('.')[0])!.title;
  return {
    steps: plan.steps.map(({ id, title, why, by, minutes, effect, procedure, after }) => ({
      id,
      title,
      why,
      by,
      minutes,
      effect,
      ...(procedure === undefined ? {} : { procedure }),
      after,
    })),
    warnings: plan.warnings.map((w) => ({ id: w.id, text: warningText(w) })),
    cannot: plan.cannot.map((c) => ({ fact: c.fact, text: factWords(c.fact), because: c.because.map((l) => lackWords(l, titleOf)), then: c.then })),
    plain: plan.plain.map((p) => ({ part: p.part, text: p.say })),
    minutes: plan.minutes,
    attendedMinutes: plan.attended,
  };
}

/** What every plan begins and ends with: left out of the table. */
const always = [
  'readOld',
  'noteOld',
  'compareVariant',
  'findCause',
  'swapModule',
  'fitPart',
  'checkNewKey',
  'resetValues',
  'clearAndScan',
  'everyKey',
];

/** `replacement table`: each system type, part and origin with its plan, or why there is none, as docs/replacement.md has it. */
export function replacementTable(folders: string[]): string[] {
  const read = library(folders);
  return [...read.replacements.values()].flatMap((content) => [
    `### ${read.families.get(content.id)!.title} (\`${content.id}\`)`,
    '',
    '| part | from | with a scan tool | without one |',
    '| --- | --- | --- | --- |',
    ...moduleNames.flatMap((name) => rowsOf(content, name)),
    '',
  ]);
}

function rowsOf(content: Replacement, name: ModuleName): string[] {
  const part = content.parts[name];
  const wide = (text: string) => [`| ${name} | any | ${text} | |`];
  if ('same' in part) return wide(`Here it is the same as ${part.same}.`);
  if ('absent' in part) return wide(part.absent);
  if ('plain' in part) return wide(part.plain);
  return origins.map((origin) => {
    const { byHand, withTool } = bothWays(content, { replaced: { [name]: origin } });
    return `| ${name} | ${origin} | ${cellOf(content, withTool, name, origin)} | ${cellOf(content, byHand, name, origin)} |`;
  });
}

function cellOf(content: Replacement, plan: ReplacementPlan, name: ModuleName, origin: Origin): string {
  if (plan.steps.length === 0) {
    const { part } = partOf(content, name);
    const missing = missingOf(plan, name);
    return `No: ${missing}. ${holdsSomething(part) ? part.otherwise : ''}`;
  }
  const own = plan.steps.map((s) => s.id).filter((id) => !always.includes(id.split('.')[0]!));
  const lost = plan.cannot.length > 0 ? `; stays lost: ${missingOf(plan, name)}` : '';
  return `${own.length > 0 ? own.join(', ') : origin === 'repaired' ? 'it kept everything' : 'nothing to bring back'} (${plan.minutes} min)${lost}`;
}

/** What can't be brought back: items of the part itself by their name, others with their part. */
const missingOf = (plan: ReplacementPlan, name: ModuleName): string => plan.cannot.map((c) => c.fact.replace(`${name}.`, '')).join(', ');
