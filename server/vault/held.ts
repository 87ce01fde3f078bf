import { and, eq } from 'drizzle-orm';
import { closedBecause } from '../../core/library';
import { refused } from '../base/expected';
import type { Db, Tx } from '../db/open';
import { sealed, type SealedKind } from '../db/schema';
import { loadCase, onRecord } from '../record/cases';
import { NotOpened, openBytes } from './envelope';
import { KeyGone, type KeyStore, OtherMaster } from './keyStore';
import type { VaultKeys } from './keys';

/** What the vault works with. */
export interface With {
  db: Db;
  keys: VaultKeys;
}

/** What came out of an envelope. */
export interface Opened {
  name: string;
  kind: SealedKind;
  file: string;
  bytes: Uint8Array;
}

/** The keys. @throws Refused 503 with what to do */
export function opened(keys: VaultKeys): KeyStore {
  if (!keys.open) throw refused(409, 'vaultClosed', `The vault is closed. ${keys.why}`);
  return keys.store;
}

/** Authority is on record. @throws Refused */
export async function withAuthority(tx: Tx, caseId: number): Promise<void> {
  const record = await loadCase(tx, caseId);
  if (!record) throw refused(404, 'noCase', 'This case was not found.');
  const shut = closedBecause('reveals', onRecord(record));
  if (shut.length > 0) throw refused(409, 'locked', shut.join(' '));
}

/** Where an envelope belongs. Another case, another item, another name or kind: it doesn't open. */
export const placeOf = (s: { caseId: number; id: string; kind: SealedKind; name: string }) =>
  JSON.stringify(['bloodstone', 1, s.caseId, s.id, s.kind, s.name]);

export type Row = typeof sealed.$inferSelect;

/** An item of this case, held until the transaction ends; the address of another case finds nothing. @throws Refused */
export async function itemOf(tx: Tx, caseId: number, id: string): Promise<Row> {
  const [row] = await tx
    .select()
    .from(sealed)
    .where(and(eq(sealed.id, id), eq(sealed.caseId, caseId)))
    .for('update');
  if (!row) throw refused(404, 'noItem', 'This item was not found in this case.');
  return row;
}

/** @throws Refused where its key is gone, or something was changed or exchanged */
export function plainFrom(store: KeyStore, row: Row): Uint8Array {
  if (row.destroyedAt !== null || row.envelope === null) throw refused(409, 'destroyed', 'This item was destroyed. Nobody can open it.');
  try {
    return openBytes(store.itemKey(row.caseId, row.id), new Uint8Array(row.envelope), placeOf(row));
  } catch (error) {
    if (error instanceof KeyGone)
      throw refused(409, 'keyGone', 'The key of this item is not here: it was destroyed, or this is a copy of the database without its keys.');
    if (error instanceof OtherMaster)
      throw refused(409, 'otherMaster', 'This item is locked by another master key. Put that one back, then start again.');
    if (error instanceof NotOpened)
      throw refused(409, 'changed', 'This item does not open: it was changed, or exchanged with another one. Keep the database and look for a copy.');
    throw error;
  }
}
