import { parseRecordId } from '../../server/forms';
import { notThere } from '../respond.server';

/** The case's id from the address, or a helpful 404. */
export function caseId(text: string): number {
  return (
    parseRecordId(text) ??
    notThere(
      'There is no such case',
      `“${text.slice(0, 40)}” is not a case number. Case numbers are digits, such as 0417. Look for the case with find.`,
    )
  );
}
