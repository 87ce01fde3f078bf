import { comesFirst } from './vocabulary';

/** What a test or procedure does to the vehicle beyond looking (product.md, "Effect"). */
export const effects = ['none', 'lockout', 'alarm', 'replacesKeys', 'addsKey', 'writes', 'reveals', 'standsIn', 'bypass'] as const;
export type Effect = (typeof effects)[number];

interface Gate {
  /** Proof of authority must be on record. Nobody waives it. */
  authority: boolean;
  /** Every key said to exist must be present, since keys not presented are lost. */
  allKeys: boolean;
  says: string;
}

/** The one table: effect → what must be on record before it. */
export const gates: Readonly<Record<Effect, Gate>> = {
  none: { authority: false, allKeys: false, says: 'No lasting effect.' },
  // A wait or a horn is a nuisance to be warned of; nobody's right is touched.
  lockout: { authority: false, allKeys: false, says: 'May start a lockout: wait for it to end before the next try.' },
  alarm: { authority: false, allKeys: false, says: 'May set off the alarm; programming is refused until it is quiet.' },
  replacesKeys: { authority: true, allKeys: true, says: 'Replaces the stored keys: a key that is not presented is erased.' },
  addsKey: { authority: true, allKeys: false, says: 'Adds a key.' },
  writes: { authority: true, allKeys: false, says: 'Writes to a module’s memory.' },
  reveals: { authority: true, allKeys: false, says: 'Reveals a secret.' },
  standsIn: { authority: true, allKeys: false, says: 'Takes the place of the immobilizer’s input.' },
  bypass: { authority: true, allKeys: false, says: 'Bypasses the immobilizer.' },
};

/** What is on record for the case, as far as a gate asks. */
export interface OnRecord {
  authority: boolean;
  /** Parts that came without a vehicle ask for more: who sent them is not on record yet. */
  senderMissing?: boolean;
  /** Tags of keys that are said to exist but are not here. */
  keysAbsent: readonly string[];
  /** The keys that are here, with their roles as told; left out where nobody asks. */
  keysHere?: readonly { tag: string; role: string }[];
}

/** Reasons why the gate is shut, each ending in what to do; empty when it is open. */
export function closedBecause(effect: Effect, record: OnRecord): string[] {
  const gate = gates[effect];
  const reasons: string[] = [];
  if (gate.authority && !record.authority) {
    reasons.push('No authority is on record. Check the registration and the person’s ID, then record what you saw.');
  }
  if (gate.authority && record.senderMissing)
    reasons.push('The parts came without a vehicle, and the sender’s identity is not on record. Check it, then record it.');
  return reasons;
}

/** What to warn of before an open gate is passed; the person decides. In sequences that replace stored keys, what is not presented is lost. */
export function warnedBecause(effect: Effect, record: OnRecord): string[] {
  if (!gates[effect].allKeys) return [];
  const warnings: string[] = [];
  if (record.keysAbsent.length > 0) {
    const keys = record.keysAbsent.map((tag) => `tag ${tag}`).join(', ');
    warnings.push(`Not here: ${keys}. A key that is not presented will no longer start the vehicle. Wait for it, or tell the customer first.`);
  }
  const here = record.keysHere ?? [];
  const [only] = here;
  if (only && here.length === 1) warnings.push(`Only tag ${only.tag} will be left. Ask for every other key, and recommend a second one.`);
  if (only && here.every((k) => k.role === 'valet'))
    warnings.push('Only a valet key is here. Without a main key this vehicle may not learn again. Ask for the main key.');
  else if (only && !here.some(comesFirst))
    warnings.push(`No key is marked as main or master; tag ${only.tag} would be first. Check marks and colors before you start.`);
  return warnings;
}
