import { failed, ok, type Problem, type Result } from '../units';
import { holdsSomething, items, marks, type ModuleName, moduleNames, type Origin, origins, type Replacement } from './documents';
import { sentences } from './sentences';
import { scanTool } from './vocabulary';
import { type AtHand, everything, partOf, type Situation } from './situation';

const roles = ['learned', 'main', 'valet', 'master'] as const;
/** More keys than any list takes. */
const mostKeys = 99;

/**
 * What was replaced, from a text such as `engine=new,immobilizer=donor`.
 * @returns the parts with their origins, or what is wrong with the first entry that can't be used
 */
export function readReplaced(text: string): Result<Situation['replaced']> {
  const replaced: Partial<Record<ModuleName, Origin>> = {};
  for (const entry of entriesOf(text)) {
    const [name, origin] = entry.split('=').map((s) => s.trim()) as [string, string | undefined];
    const refused = (message: string) => failed({ code: 'unknownName', path: entry, message });
    if (!isOneOf(moduleNames, name)) return refused(sentences.unknownPart(name, moduleNames.join(', ')));
    if (origin === undefined || !isOneOf(origins, origin)) return refused(sentences.unknownOrigin(name, origins.join(', ')));
    if (replaced[name] !== undefined) return refused(sentences.twice(name));
    replaced[name] = origin;
  }
  return Object.keys(replaced).length > 0 ? ok(replaced) : failed({ code: 'empty', path: '', message: sentences.nothingReplaced });
}

/**
 * What is at hand, from a text such as `scan tool,programming tool,learned=2,main=1,engine.identity`. Tools are those that the acts name, keys are counted
 * by role, and what is there already is named by part and item; `engine.saved` is what was read from the old one, `engine.installed` that it is in. Where no
 * keys are named there are two learned ones, of which one is a main and one a master key.
 */
export function readAtHand(text: string, content: Replacement): Result<AtHand> {
  const tools = toolsOf(content);
  const keysNamed = entriesOf(text).some((entry) => entry.includes('='));
  const have = {
    tools: [] as string[],
    keys: keysNamed ? { learned: 0, main: 0, valet: 0, master: 0 } : { ...everything.keys },
    facts: [] as string[],
  };
  const problems: Problem[] = [];
  for (const entry of entriesOf(text)) {
    const refuse = (message: string) => problems.push({ code: 'unknownName', path: entry, message });
    const [name, count] = entry.split('=').map((s) => s.trim()) as [string, string | undefined];
    if (count !== undefined) {
      if (!isOneOf(roles, name)) refuse(sentences.unknownRole(name, roles.join(', ')));
      else if (!/^\d{1,2}$/.test(count)) refuse(sentences.keyCount(name, mostKeys));
      else have.keys[name] = Number(count);
    } else if (name.includes('.')) {
      const [part, what] = name.split('.') as [string, string];
      const isFact = isOneOf(moduleNames, part) && (isOneOf(items, what) || isOneOf(marks, what)) && holdsSomething(partOf(content, part).part);
      if (!isFact) refuse(sentences.unknownFact(name));
      else have.facts.push(`${partOf(content, part).name}.${what}`);
    } else {
      const tool = name.replaceAll(/[-_]/g, ' ').toLowerCase();
      if (!tools.includes(tool)) refuse(sentences.unknownTool(name, tools.join(', ')));
      else have.tools.push(tool);
    }
  }
  return problems.length > 0 ? failed(...problems) : ok(have);
}

/** Every tool that an act of this system type may need, the scan tool first. */
export const toolsOf = (content: Replacement): string[] => [...new Set([scanTool, ...content.acts.flatMap((a) => a.tools)])];

const entriesOf = (text: string): string[] =>
  text
    .split(',')
    .map((s) => s.trim())
    .filter((s) => s !== '');

const isOneOf = <T extends string>(list: readonly T[], name: string): name is T => (list as readonly string[]).includes(name);
