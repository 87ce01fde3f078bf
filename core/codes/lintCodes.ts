import type { Problem } from '../units';
import type { CodeList } from './documents';
import { lintSentences } from './lintSentences';

export interface KnownNames {
  tests: ReadonlySet<string>;
  profiles: ReadonlySet<string>;
}

/** Names that lead nowhere, and public codes that stand in two lists. Topics of one list may be used by the others. */
export function lintCodes(list: CodeList, all: readonly CodeList[], known: KnownNames): Problem[] {
  const problems: Problem[] = [];
  const add = (path: string, message: string) => problems.push({ code: 'unknownName', path, message });
  const topics = new Set(all.flatMap((l) => Object.keys(l.topics)));
  for (const [name, topic] of Object.entries(list.topics))
    topic.tests.forEach((test, i) => {
      if (!known.tests.has(test)) add(`topics.${name}.tests[${i}]`, lintSentences.unknownTest(test));
    });
  list.ranges.forEach(({ topic }, i) => {
    if (!topics.has(topic)) add(`ranges[${i}].topic`, lintSentences.unknownTopic(topic));
  });
  list.profiles.forEach((profile, i) => {
    if (!known.profiles.has(profile)) add(`profiles[${i}]`, lintSentences.unknownProfile(profile));
  });
  for (const [code, { topic }] of Object.entries(list.codes)) {
    if (!topics.has(topic)) add(`codes.${code}.topic`, lintSentences.unknownTopic(topic));
    const twin = all.find((l) => l !== list && l.maker === list.maker && Object.hasOwn(l.codes, code));
    if (twin) add(`codes.${code}`, lintSentences.twice(code, twin.id));
  }
  return problems;
}
