import type { RouterContextProvider } from 'react-router';
import { here } from '../../server/http/requestContext';
import type { CaseRecord } from '../../server/record/cases';
import { parseRecordId } from '../../server/base/fields';
import { notThere } from '../respond.server';

const title = 'Case not found';

/** The case's id from the address, or a helpful 404. */
export function caseId(text: string): number {
  return (
    parseRecordId(text) ??
    notThere(title, `“${text.slice(0, 40)}” is not a case number. Case numbers are digits, such as 417. Use Find to look for the case.`)
  );
}

export function noCase(text: string): never {
  return notThere(title, `No case has the number ${text}. Use Find: plate, vehicle or the customer’s words.`);
}

/** The case that the address names. */
export async function caseOf(context: Readonly<RouterContextProvider>, text: string): Promise<CaseRecord> {
  return (await context.get(here).services.cases.one(caseId(text))) ?? noCase(text);
}
