import { type CodeSystem, readCode } from './code';
import type { CodeFinding, CodeList, Relevance, Topic } from './documents';
import { failureTypes } from './vocabulary';
import { sentences } from './sentences';

export interface ExplainedCode {
  code: string;
  system: CodeSystem;
  /** Its meaning is given by the public standard, not by a maker. */
  generic: boolean;
  failureType?: string;
  /** What the failure type says; nothing is invented for one that isn't known. */
  failureText?: string;
  text: string;
  /** Its text stands in a list; else it is explained by its structure only. */
  known: boolean;
  relevance: Relevance;
  /** Why it stands in that group. */
  why: string;
  /** What it shows of a start that is refused. */
  finding?: CodeFinding;
  tests: string[];
}

export interface ExplainFor {
  /** The vehicle's profile, whose maker's own codes count. */
  profile?: string;
  /** Tests of its system type; left out: those of any. */
  tests?: ReadonlySet<string>;
}

/**
 * What a code says, from the lists; a code that stands in none is explained by its structure and never given a meaning.
 * @param text as written, such as `P0562-16`
 * @returns undefined where it is no code
 */
export function explainCode(text: string, lists: readonly CodeList[], { profile, tests }: ExplainFor = {}): ExplainedCode | undefined {
  const read = readCode(text);
  if (!read) return undefined;
  const { code, system, owner, failureType } = read;
  const mine = lists.filter((l) => l.maker === undefined || (profile !== undefined && l.profiles.includes(profile)));
  const listed = mine.map((l) => (Object.hasOwn(l.codes, code) ? l.codes[code] : undefined)).find((c) => c !== undefined);
  const range = mine.flatMap((l) => l.ranges).find((r) => r.from <= code && code <= r.to);
  const topicName = listed?.topic ?? range?.topic;
  const topic: Topic | undefined = topicName === undefined ? undefined : lists.map((l) => l.topics[topicName]).find((t) => t !== undefined);
  const failure = failureType === undefined ? undefined : failureTypes[failureType];
  return {
    code,
    system,
    generic: owner !== 'maker',
    ...(failureType === undefined ? {} : { failureType, failureText: failure ?? sentences.failureUnknown(failureType) }),
    text: listed?.text ?? structureOf(code, system, owner, range?.title),
    known: listed !== undefined,
    relevance: topic?.relevance ?? 'may',
    why: topic?.why ?? sentences.whyUnknown,
    ...(topic?.finding === undefined ? {} : { finding: topic.finding }),
    tests: (topic?.tests ?? []).filter((t) => tests === undefined || tests.has(t)),
  };
}

/** What can be said of a code by its form alone. */
function structureOf(code: string, system: CodeSystem, owner: string, range: string | undefined): string {
  if (owner === 'reserved') return sentences.reserved(code);
  if (owner === 'maker') return sentences.makers(sentences[`system_${system}`]);
  return range === undefined ? sentences.publicUnknown(sentences[`system_${system}`]) : sentences.publicRange(sentences[`system_${system}`], range);
}
