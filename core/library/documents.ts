import type { LinkState } from '../chain';
import type { Condition } from './condition';
import type { Effect } from './gates';
import type { ParamValue } from './expression';

/** Who checked a document against a source, and when (ISO date); null: nobody has, and every screen says so. */
export type Checked = { by: string; on: string } | null;

export interface NumberParam {
  label: string;
  unit: string;
  /** The usual range, ends included. */
  min: number;
  max: number;
  default: number;
}
export interface ChoiceParam {
  label: string;
  oneOf: string[];
  default: string;
}
export type Param = NumberParam | ChoiceParam;

export interface LinkDefinition {
  id: string;
  title: string;
  /** Judged for each key as well as for the vehicle. */
  perKey: boolean;
  when?: Condition;
  how: string;
}

/** A stretch of lamp behaviour: lit or dark for some seconds, or a group that repeats. */
export type LampSegment = { on: number } | { off: number } | { repeat: LampSegment[] };
export type LampMoment = 'key-out' | 'key-in' | 'ignition-on' | 'after-attempt';

export interface LampPattern {
  id: string;
  title: string;
  moment: LampMoment;
  segments: LampSegment[];
  /** How long one must look to be able to decide, in seconds. */
  decisiveS: number;
  means?: { test: string; outcome: string };
}

/** What an outcome says of one link. `direct` evidence overrules hints; among direct ones the latest counts. */
export interface Statement {
  link: string;
  state: Exclude<LinkState, 'unproven'>;
  weight: 'direct' | 'hint';
  when?: Condition;
}

export interface Outcome {
  say: string;
  lamp?: string;
  says: Statement[];
  /** The engine ran on this key: every link held at that moment. */
  provesAll?: boolean;
}

export interface TestDefinition {
  id: string;
  title: string;
  do: string;
  minutes: number;
  /** Whether the outcome belongs to one key. */
  perKey: boolean;
  tools: string[];
  effect: Effect;
  cautions: string[];
  outcomes: Record<string, Outcome>;
}

export interface Verdict {
  id: string;
  when: Condition;
  kind: 'leave' | 'act' | 'look' | 'cured' | 'unknown';
  say: string;
}

/** A rule of what comes next; the first whose condition holds and that is not done yet is proposed. */
export type NextRule = { why: string; when?: Condition } & ({ test: string; again?: boolean } | { procedure: string } | { verify: true });

export interface Family {
  kind: 'family';
  id: string;
  version: number;
  title: string;
  source: string;
  checked: Checked;
  text: { what: string; how: string; advice: string[] };
  params: Record<string, Param>;
  chain: LinkDefinition[];
  lamps: LampPattern[];
  tests: TestDefinition[];
  verdicts: Verdict[];
  next: NextRule[];
}

/** A family with the numbers of one vehicle model. */
export interface Profile {
  kind: 'profile';
  id: string;
  version: number;
  title: string;
  family: string;
  source: string;
  checked: Checked;
  /** Numbers someone looked up; what is missing stays at the family's typical value. */
  values: Record<string, { value: ParamValue; source: string; by: string }>;
}

export interface Caution {
  id: string;
  /** The hazard in one line. */
  say: string;
  /** A person can be hurt: it must be confirmed before the act. */
  confirm: boolean;
}

export interface CautionList {
  kind: 'cautions';
  id: string;
  version: number;
  source: string;
  checked: Checked;
  cautions: Caution[];
}

/** Names one immutable version of one document. */
export interface DocumentPin {
  id: string;
  version: number;
  hash: string;
}
