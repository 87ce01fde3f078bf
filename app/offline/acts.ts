import type { Problem } from '../../core/units';
import type { Queued, Unsent } from './queue';

/** An act of a page that the server has not answered, or has refused. */
export interface KeptAct extends Queued {
  /** Id of the act: the server does it once. */
  id: string;
  /** When it was done, by the shop's clock, ms. */
  at: number;
  /** Address that takes it. */
  address: string;
  fields: Readonly<Record<string, unknown>>;
  /** What it is about: one that comes later takes its place as long as it waits. */
  subject: string;
  /** What was done, in words: "Case 0417: Battery at rest, 12.5 V or more". */
  say: string;
  /** Address of the page on which it can be done again, where it was refused. */
  page: string;
  /** Why the server did not take it. It lies here until somebody has read it. */
  problems?: readonly Problem[];
}

/** What pages see of it. */
export interface ActsHere {
  waiting: readonly KeptAct[];
  refused: readonly KeptAct[];
  /** Arrived since the page was loaded, with the address at which it is found. */
  arrived: readonly { id: string; say: string; at: string }[];
  unsent: Unsent | null;
}
export const noActs: ActsHere = { waiting: [], refused: [], arrived: [], unsent: null };
