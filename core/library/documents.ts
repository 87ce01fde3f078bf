import type { LinkState } from '../chain';
import type { Condition } from './condition';
import type { DangerName } from './dangers';
import type { Effect } from './gates';
import type { Expression, ParamValue } from './expression';
import type {
  Ability,
  Aspect,
  ChipMemory,
  FaultGroup,
  InstrumentKind,
  KeyKind,
  LampMoment,
  ModuleHold,
  PartName,
  ProofKind,
  TestPlace,
  TriageRole,
} from './vocabulary';

/** Who checked a document against a source, and when (ISO date); null: nobody has, and every screen says so. */
export type Checked = { by: string; on: string } | null;

export interface NumberParam {
  label: string;
  unit: string;
  /** The usual range, ends included. */
  min: number;
  max: number;
  default: number;
  /** It counts the characters of something that is copied by hand, made of this alphabet. */
  copied?: 'hex' | 'decimal';
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

/** A stretch of lamp behaviour: lit or dark for some seconds, a group that goes on for ever, or flashes of a number. Numbers may be parameters. */
export type LampSegment = { on: Expression } | { off: Expression } | { repeat: LampSegment[] } | { flashes: LampSegment[]; times: Expression };

export interface LampPattern {
  id: string;
  title: string;
  moment: LampMoment;
  /** What the lamp does; or `message`, what the cluster writes instead. */
  segments?: LampSegment[];
  message?: string;
  /** How long one must look to be able to decide, in seconds. */
  decisiveS: number;
  /** What it says in this family; the same picture may mean the opposite in another. */
  meaning?: string;
  /** What to do then. */
  act?: string;
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
  /** The engine ran on this key: every link good at that moment. */
  provesAll?: boolean;
  /** The check itself set the car free: it is found and gone at once, such as a wheel that was rocked. */
  frees?: boolean;
  /** What it shows of the key it was seen with. */
  abilities?: Partial<Record<Ability, 'yes' | 'no'>>;
}

export interface TestDefinition {
  id: string;
  title: string;
  do: string;
  minutes: number;
  /** Whether the outcome belongs to one key. */
  perKey: boolean;
  /** Where it is made; a test of before may not say. */
  where?: TestPlace;
  /** Its place in the triage; most tests have none. */
  triage?: TriageRole[];
  tools: string[];
  effect: Effect;
  cautions: string[];
  /** Acts that the text only names, so that no caution need stand before them. */
  harmless?: DangerName[];
  outcomes: Record<string, Outcome>;
  /**
   * How often each outcome is seen: for a fault by its id, or for a state of one aspect as `immobilizer.refuses`; `default` for what is left. Outcomes that
   * a row leaves out are never seen. Without it the test is made and recorded, and changes no belief.
   */
  p?: Record<string, ChanceRow>;
  /** How often a person takes one outcome for another, 0 to 0.4; 0.02 if not given. */
  humanError?: number;
  /** Each time counts anew, with the chances of one trial; else a repetition takes the place of the one before. */
  independent?: boolean;
  /** Money it costs each time beside the minutes. */
  money?: number;
  /** What its hazard or effect weighs, in money. */
  penalty?: number;
  needs?: TestNeeds;
  /** The instrument of the bench that answers it. */
  instrument?: TestInstrument;
  /** It is only written down, by what else stands in the case; nobody is sent to make it. */
  recorded?: true;
  /** A value of live data that is read off a scan tool; the case has them side by side, each with the links it speaks of. */
  live?: true;
  /** It looks at the same as another test, so the two never count twice for one key. */
  same?: string;
}

/** Chances of the outcomes; or several such rows, of which the first whose condition on the parameters holds counts. */
export type ChanceRow = Record<string, number> | { when?: Condition; p: Record<string, number> }[];

/** Which instrument answers a test, and what its verdicts are as outcomes; a verdict that is left out is no answer. */
export interface TestInstrument {
  kind: InstrumentKind;
  as: Record<string, string>;
  /** Trials only: what a hit is called. */
  hit?: string;
  /** Trials only: so many are needed before none or all of them hit says it. */
  atLeast?: number;
}

export interface TestNeeds {
  /** `second`: a key that is not the first one. */
  keys?: 'second';
  /** Tests that must have been made before; `detectorProven.works` where it must have come out so. */
  after?: string[];
  /** Outcomes after which it has nothing to show, as `lamp.accepted`; with the same key where both belong to a key. */
  unless?: string[];
}

/** States by aspect: one, or several with their shares. */
export type Showing = Partial<Record<Aspect, string | Record<string, number>>>;

export interface FaultDefinition {
  id: string;
  title: string;
  link: string;
  group: FaultGroup;
  /** How often it is the cause, against the other faults of the same family; only the ratio counts. */
  prior: number;
  /** Who or what the prior comes from; nobody has said where it is left out. */
  priorSource?: string;
  /** Factors on the prior for what changed lately and for what the customer tells. */
  lifts?: Record<string, number>;
  /** A picture that several faults share; `shows` overrules it aspect by aspect. */
  like?: string;
  shows?: Showing;
  /** Only one key has it: with another key the vehicle works as it should. */
  perKey?: boolean;
  looks: string;
  /** `effect`: what it does to keys and memory beyond the mending; its gate stands before it. */
  cure: {
    do: string;
    minutes: number;
    money?: number;
    penalty?: number;
    procedure?: string;
    /** The part of the vehicle that it replaces; how, and what that needs, stands in the replacement content of the system type. */
    part?: PartName;
    /** Another way that some customers prefer: a key repaired in place of a new one, say. `holds`: how often it lasts, an estimate of 0 to 1. */
    or?: { title: string; do: string; minutes: number; money: number; holds: number; risk: string };
    /** One of these tests comes before the fix is made, whatever it would cost to do without. */
    after?: { tests: string[]; why: string };
    effect?: Effect;
    /** Ids of the cautions that stand before it. */
    cautions?: string[];
    harmless?: DangerName[];
    /** Outcomes after which there is nothing for it to do, as `keysApart.none`: then it is not made, whatever chance the fault has left. */
    unless?: string[];
  };
  prove: Prove;
}

/** How a fix is confirmed. Documents of before `how` say only whether the cause is put back. */
export interface Prove {
  say: string;
  how?: ProofKind;
  putBack?: boolean;
  /** How many tries in a row without a miss confirm it, with whatever key: starts, mostly. Each key is tried once anyway. */
  starts?: number;
  /** Minutes that must pass after the repair before a start confirms it. */
  waitMin?: number;
}

/** Whether the suspected cause is put back once, to see it fail, and taken away again. */
export const isPutBack = (prove: Prove): boolean => prove.how === 'putBack' || prove.putBack === true;

/** A statement of the customer, and how often it would be made under each fault, as far as it is to be trusted. */
export interface CustomerStatement {
  symptom: string;
  /** How much of it is the vehicle's and not chance, 0 to 1. */
  reliability: number;
  /** Chance that it is said, by fault or by state of an aspect, as in the chances of a test. */
  p: Record<string, number | { when?: Condition; p: number }[]>;
}

export interface Verdict {
  id: string;
  when: Condition;
  kind: 'leave' | 'act' | 'look' | 'cured' | 'unknown';
  say: string;
  /** What is done about it, in this order; each is left out once it was done. */
  steps?: VerdictStep[];
}

export interface VerdictStep {
  /** As an order that goes on in a sentence: "measure the battery". */
  do: string;
  /** Tests of which one, once made, does it; `anotherKey`: a second key at the light. Left out: it is said as long as the verdict is. */
  until?: string[];
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
  /** Common parts that were merged in, as name@version. */
  use: string[];
  /** `misses`: what a superficial reader misses. */
  text: {
    what: string;
    how: string;
    advice: string[];
    misses: string[];
    /** For the customer's paper, in plain words: `$cause` stands for what it was, `$keys` for the keys that were tried. Types of before have none. */
    papers?: { found: string; proven: string };
  };
  params: Record<string, Param>;
  chain: LinkDefinition[];
  lamps: LampPattern[];
  tests: TestDefinition[];
  verdicts: Verdict[];
  next: NextRule[];
  /** Abilities in which every key is judged before the hand-over. */
  verify: Ability[];
  /** What a new key must be; null: nobody has said. */
  newKey: NewKeySpec | null;
  /** Control modules and what each holds: lost when it is replaced. */
  modules: Record<string, { title: string; holds: ModuleHold[] }>;
  /** For each question of the feature list: how often each value is found on vehicles of this family; a value that is left out is never found. */
  features: Record<string, Record<string, number>>;
  /** What may be wrong. Families of before faults were written have none. */
  faults?: FaultDefinition[];
  /** Priors of common faults that differ in this family; 0: not here. */
  often?: Record<string, number>;
  /** Common faults, by their ids, that a procedure of this family fixes. */
  fixedBy?: Record<string, string>;
  /** Common tests that make no sense on these vehicles. */
  without?: string[];
  /** What a statement of the customer says for and against each fault; a symptom that is not here lifts the faults that name it. */
  statements?: CustomerStatement[];
  /** The trouble is none of the faults: how often, and what handing it on costs. */
  elsewhere?: { prior: number; minutes: number; money: number };
  /** Tests in the order of a sensible person without help: the yardstick of the engine. */
  fixed?: string[];
}

/** One thing that can be seen, heard or looked up without a tool. */
export interface Feature {
  id: string;
  ask: string;
  /** How often an answer is mistaken, 0 to 1. */
  error: number;
  /** It is read in the service information, not found on the vehicle. */
  lookedUp: boolean;
  /** Answers by id, as the person reads them. */
  values: Record<string, string>;
}

export interface FeatureList {
  kind: 'features';
  id: string;
  version: number;
  source: string;
  checked: Checked;
  features: Feature[];
}

/** Tests and faults that several families share. */
export interface CommonParts {
  kind: 'common';
  id: string;
  version: number;
  source: string;
  checked: Checked;
  use: string[];
  tests: TestDefinition[];
  faults?: FaultDefinition[];
  pictures?: Record<string, Showing>;
  statements?: CustomerStatement[];
}

/** What a new key must be to fit. A list that is left out is not known, and the check says so. */
export interface NewKeySpec {
  kinds?: KeyKind[];
  chips?: string[];
  bands?: string[];
  memories?: ChipMemory[];
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
  /** What this model says more exactly than its family. */
  newKey?: NewKeySpec;
  /** What can be seen of this vehicle: answers to the questions of the feature list, those that are known. */
  seen?: Record<string, string>;
  /** The ladder of its resistor keys. */
  ladder?: string;
}

export interface Caution {
  id: string;
  /** The hazard in one line. */
  say: string;
  /** A person can be hurt: it must be confirmed before the act. */
  confirm: boolean;
  /** Not everybody is trained for it: the work, in a word or two ("airbags"). Left out where anybody in the trade is. */
  training?: string;
}

/** Where a number comes from and who looked it up. */
export type KnownValue = Profile['values'][string];

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
