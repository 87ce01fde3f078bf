import type { CaseRecord } from '../record/cases';
import type { Ahead } from './ahead';

export interface Who {
  id: string;
  name: string;
}

/** A lane before it is planned: where, what is in it, and what is ahead there. */
export interface Place {
  bay: string;
  record: CaseRecord | null;
  /** What is said of the vehicle; empty where it is not to be seen. */
  vehicle: string;
  bayId: string;
  promisedAt: number | null;
  technician: Who | null;
  ahead: Ahead | null;
}

/** A lane without a case. */
export const empty: Place = { bay: '', record: null, vehicle: '', bayId: '', promisedAt: null, technician: null, ahead: null };

export const noBay = 'No bay';
/** Its name in the plan. */
export const idOf = (p: Place): string => String(p.record!.id);

/** Bay and vehicle, as far as there are both and both may be seen. */
export function whereIs({ bay, bayId, vehicle, record }: Place): string {
  const words = [bayId === '' && bay === noBay ? '' : bay, vehicle].filter((part) => part !== '').join(', ');
  return words || `Case ${record!.number}`;
}
