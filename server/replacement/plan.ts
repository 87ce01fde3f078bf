import {
  bothWays,
  holdsSomething,
  type JobEntry,
  partOf,
  type PlanEntry,
  type Replacement,
  replacedParts,
  type Savable,
  warningWords,
} from '../../core/replacement';
import type { KeyHere } from '../../core/procedure';
import { refused } from '../base/expected';
import { type CaseRecord, keysHere } from '../record/cases';
import type { PlanForm } from './forms';
import type { AtHand } from '../../core/replacement';

/** The keys that are here, by what they can do in a relearn. Where no main or master key is told, those whose role nobody knows may be one. */
export function keysAtHand(keys: readonly KeyHere[]): AtHand['keys'] {
  const learned = keys.filter((k) => !k.isNew);
  const of = (role: string) => learned.filter((k) => k.role === role).length;
  const orUnknown = (role: string) => of(role) || of('unknown');
  return { learned: learned.length, main: orUnknown('main'), valet: of('valet'), master: orUnknown('master') };
}

type Chosen = Pick<PlanForm, 'replaced' | 'installed' | 'unread' | 'tools'>;

/** The same replacement with what is at hand and by hand. */
export const waysOf = (content: Replacement, { replaced, installed, unread, tools }: Chosen, keys: readonly KeyHere[]) =>
  bothWays(content, {
    replaced,
    have: {
      tools,
      keys: keysAtHand(keys),
      facts: installed.map((name) => `${partOf(content, name).name}.installed`),
      unread: unread.map((name) => partOf(content, name).name),
    },
  });

/** What is to be saved of a module, from what it holds. Who answered, and what codes it had, is worth keeping of any. */
function toSave(content: Replacement, name: PlanEntry['parts'][number]['part']): Savable[] {
  const part = content.parts[name];
  if (!holdsSomething(part) || !part.electronic) return [];
  const { holds } = part;
  return [
    ...(holds.identity ? (['identity'] as const) : []),
    ...(holds.configuration ? (['configuration'] as const) : []),
    ...(holds.counters ? (['counters'] as const) : []),
    ...(holds.keyList ? (['keyCount'] as const) : []),
    'codes',
  ];
}

/** A plan as a case keeps it. @throws Refused where there is nothing to do, or not everything can be restored */
export function planEntry(content: Replacement, form: PlanForm, record: CaseRecord): PlanEntry & JobEntry {
  const { byHand, withTool } = waysOf(content, form, keysHere(record));
  const plan = form.byHand ? byHand : withTool;
  if (plan.steps.length === 0)
    throw refused(
      409,
      'noPlan',
      plan.cannot.length > 0 ? 'Not everything can be restored this way, so don’t start it.' : 'Nothing has to be done for this.',
      'replaced',
    );
  return {
    kind: 'plan',
    replaced: form.replaced,
    installed: form.installed,
    unread: form.unread,
    tools: form.tools,
    byHand: form.byHand,
    steps: plan.steps,
    warnings: plan.warnings.map((w) => w.say ?? warningWords[w.id as keyof typeof warningWords]),
    parts: [...replacedParts(content, form.replaced).keys()].map((part) => {
      const here = content.parts[part];
      return {
        part,
        title: 'title' in here ? here.title : part,
        save: form.unread.includes(part) ? [] : toSave(content, part),
        otherwise: holdsSomething(here) ? here.otherwise : '',
        causes: content.causes.filter((c) => c.of.includes(part)).map(({ id, say }) => ({ id, say })),
      };
    }),
  };
}
