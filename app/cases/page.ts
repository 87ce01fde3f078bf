import type { CasePage as Read } from '../../server/cases/caseView';

/** Everything the page of a case shows, and what the person who looks may do with it. */
export type CasePage = Read & { may: { otherAuthority: boolean; exportPersonal: boolean; erase: boolean; editLibrary: boolean } };

/** The same without what the person at the page may do. */
export type { CasePage as CaseView } from '../../server/cases/caseView';
