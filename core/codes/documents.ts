import type { Checked } from '../library';

/**
 * What a code has to do with a no-start around the immobilizer. `about`: this is it. `may`: it may be part of it. `later`: it counts once the engine
 * cranks or the start is enabled. `not`: something else.
 */
export const relevances = ['about', 'may', 'later', 'not'] as const;
export type Relevance = (typeof relevances)[number];

/** What a scan shows of a start that is refused: the outcomes of the test that a scan answers by itself, most telling first. */
export const codeFindings = ['key', 'immobilizer', 'lost', 'power', 'switches', 'starter', 'memory'] as const;
export type CodeFinding = (typeof codeFindings)[number];

/** What codes are about: a part of the start chain or what lies beyond it. */
export interface Topic {
  title: string;
  relevance: Relevance;
  /** Why it stands in its group. */
  why: string;
  /** What it shows of a start that is refused; others show nothing of it. */
  finding?: CodeFinding;
  /** Tests that look at the same thing, most telling first; a system type may not have all of them. */
  tests: string[];
}

/** A list of codes with their meaning in our own words. */
export interface CodeList {
  kind: 'codes';
  id: string;
  version: number;
  source: string;
  checked: Checked;
  title: string;
  /** The maker whose own codes these are; public codes have none. */
  maker?: string;
  /** Profiles of that maker. */
  profiles: string[];
  topics: Record<string, Topic>;
  /** Stretches of codes whose topic is known though not each one of them. Ends included; a listed code counts before them, the first stretch before the next. */
  ranges: { from: string; to: string; topic: string; title: string }[];
  codes: Record<string, { text: string; topic: string }>;
}
