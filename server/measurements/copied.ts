import { resolveParams } from '../../core/library';
import { paramsAt } from '../../core/procedure';
import type { CaseRecord } from '../cases';
import { caseNumbers } from '../numbers';
import type { Services } from '../services';

/** Something of a vehicle that is copied by hand, with the number of its characters. */
export interface Copied {
  name: string;
  label: string;
  length: number;
  /** Looked up for this vehicle. */
  known: boolean;
}

/** Secrets and labels of a case's vehicle whose length its family or profile says: parameters without a unit that count digits. */
export async function copiedLengths({ documents, database }: Services, record: Pick<CaseRecord, 'id' | 'family' | 'profile'>): Promise<Copied[]> {
  const family = await documents.family(record.family);
  const profile = record.profile ? await documents.profile(record.profile) : undefined;
  const params = paramsAt(resolveParams(family, profile), await caseNumbers(database.db, record.id));
  return Object.values(params).flatMap((p) =>
    /(Length|Digits)$/.test(p.name) && p.unit === '' && typeof p.value === 'number'
      ? [{ name: p.name, label: p.label, length: p.value, known: p.status === 'verified' }]
      : [],
  );
}
