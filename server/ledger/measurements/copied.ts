import type { Alphabet } from '../../../core/copycheck';
import { resolveParams } from '../../../core/library';
import { paramsAt } from '../../../core/procedure';
import type { CaseRecord } from '../../record/cases';
import { caseNumbers } from '../numbers';
import type { Services } from '../../services/services';

/** Something of a vehicle that is copied by hand, with the number of its characters. */
export interface Copied {
  name: string;
  label: string;
  alphabet: Alphabet;
  length: number;
  /** Looked up for this vehicle. */
  known: boolean;
}

/** Secrets and labels of a case's vehicle: of which alphabet its family says, how long its profile where the number was looked up. */
export async function copiedOf({ documents, database }: Services, record: Pick<CaseRecord, 'id' | 'family' | 'profile'>): Promise<Copied[]> {
  const family = await documents.family(record.family);
  const profile = record.profile ? await documents.profile(record.profile) : undefined;
  const params = paramsAt(resolveParams(family, profile), await caseNumbers(database.db, record.id));
  return Object.values(params).flatMap((p) => {
    const param = family.params[p.name];
    const alphabet = param && 'copied' in param ? param.copied : undefined;
    return alphabet && typeof p.value === 'number'
      ? [{ name: p.name, label: p.label, alphabet, length: p.value, known: p.status === 'verified' }]
      : [];
  });
}
