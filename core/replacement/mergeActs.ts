import { failed, ok, type Problem, type Result } from '../units';
import type { Replacement, SharedActs } from './documents';
import { lintSentences } from './lintSentences';

/**
 * Puts the shared acts that a system type uses behind its own; what it does itself before anything is unplugged comes after what is always done then. An
 * act that it defines itself takes the place of the shared one.
 * @returns the document with its acts, or a problem for each reference that leads nowhere or to another version
 */
export function mergeActs(document: Replacement, find: (id: string) => SharedActs | undefined): Result<Replacement> {
  const problems: Problem[] = [];
  const acts = document.acts.filter((a) => a.stage !== 'before');
  const causes = [...document.causes];
  const left = new Set(document.without);
  document.use.forEach((reference, i) => {
    const [id, version] = reference.split('@') as [string, string];
    const shared = find(id);
    if (shared?.version !== Number(version)) {
      problems.push({ code: 'unknownName', path: `use[${i}]`, message: lintSentences.unknownShared(reference, shared && `${id}@${shared.version}`) });
      return;
    }
    causes.push(...shared.causes.filter((c) => !causes.some((own) => own.id === c.id)));
    for (const act of shared.acts) {
      const own = document.acts.find((a) => a.id === act.id);
      if (left.delete(act.id)) continue;
      if (own === undefined) acts.push(act);
      else if (!acts.includes(own)) acts.push(own);
    }
  });
  for (const id of left) problems.push({ code: 'unknownName', path: 'without', message: lintSentences.unknownWithout(id) });
  acts.push(...document.acts.filter((a) => !acts.includes(a)));
  return problems.length > 0 ? failed(...problems) : ok({ ...document, use: [], without: [], acts, causes });
}
