import type { Checked, Condition } from '../library';
import type { TriageKind } from '../triage';

/** What a no-start may be, as far as one can say on the telephone. */
export const callCauses = ['refused', 'power', 'beyond'] as const;
export type CallCause = (typeof callCauses)[number];
export type ByCause = Record<CallCause, number>;

export interface CallAnswer {
  say: string;
  /** How often this answer comes when it is that cause; left out where the question says nothing of the cause. */
  p?: ByCause;
  /** What the intake takes over from it. */
  symptoms?: string[];
  changed?: string;
}
export interface CallQuestion {
  id: string;
  ask: string;
  /** System types that it makes no sense for. */
  without?: string[];
  values: Record<string, CallAnswer>;
}

/** The questions of a sheet that can be asked about a system type; all of them while it is not known. */
export const questionsFor = (sheet: Pick<CallSheet, 'questions'>, family: string | undefined): CallQuestion[] =>
  sheet.questions.filter((q) => family === undefined || !q.without?.includes(family));

/** A line that holds always, or when its condition does. Conditions ask for answers, and for what follows from them: `sounds`, `family`, `visit`. */
interface When {
  when?: Condition;
}
export type VisitKind = 'come' | 'tow' | 'drive' | 'ask';

/** The call sheet as content: questions, what answers say, and what follows. */
export interface CallSheet {
  kind: 'call';
  id: string;
  version: number;
  source: string;
  checked: Checked;
  before: ByCause;
  questions: CallQuestion[];
  /** What the immobilizer's word says, where the system is known. */
  immobilizer: Record<TriageKind, ByCause>;
  visit: ({ kind: VisitKind; say: string } & When)[];
  tries: ({ say: string } & When)[];
  bring: ({ who: 'caller' | 'us'; say: string } & When)[];
  /** Minutes of labour, from and to. */
  jobs: ({ title: string; minutes: [number, number] } & When)[];
}

/** Names that follow from the answers and may be asked for like them. */
export const derivedAnswers = ['sounds', 'family', 'visit'] as const;
