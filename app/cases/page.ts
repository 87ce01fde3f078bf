import type { CasePage as Read } from '../../server/cases/caseView';
import type { TriageKind } from '../../core/triage';

/** Everything the page of a case shows, and what the person who looks may do with it. */
export type CasePage = Omit<Read, 'triage'> & {
  /** Null: nothing was asked in it yet. */
  triage: TriageKind | null;
  may: { otherAuthority: boolean; exportPersonal: boolean; erase: boolean; editLibrary: boolean };
};

/** What the page of its triage shows. */
export type TriagePage = Read;
/** What both have in common. */
export type CaseView = Omit<Read, 'triage'>;
