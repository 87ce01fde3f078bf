import type { CaseRecord } from '../../server/record/cases';
import type { SlotsRaw } from '../../server/record/measured';
import { may, type Person } from '../../server/acts/rights';
import type { MemoryCase } from './memory/SaveSlots';

/** What a page that reads a memory needs of its case: the keys that are here, and the identities that the last saved reading knows of them. */
export function memoryCase({ id, number, keys, measurements }: CaseRecord, person: Person): MemoryCase {
  const last = measurements.findLast((m) => m.kind === 'slots')?.raw as SlotsRaw | undefined;
  const here = keys.filter((k) => k.present).map((k) => k.tag);
  return { id, number, keys: here, inHand: (last?.inHand ?? []).filter((k) => here.includes(k.tag)), maySeal: may(person, 'sealSecrets') };
}
