import { comesFirst } from './vocabulary';
import { sentences } from './sentences';

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
  none: { authority: false, allKeys: false, says: sentences.none },
  // A wait or a horn is a nuisance to be warned of; nobody's right is touched.
  lockout: { authority: false, allKeys: false, says: sentences.lockout },
  alarm: { authority: false, allKeys: false, says: sentences.alarm },
  replacesKeys: { authority: true, allKeys: true, says: sentences.replacesKeys },
  addsKey: { authority: true, allKeys: false, says: sentences.addsKey },
  writes: { authority: true, allKeys: false, says: sentences.writes },
  reveals: { authority: true, allKeys: false, says: sentences.reveals },
  standsIn: { authority: true, allKeys: false, says: sentences.standsIn },
  bypass: { authority: true, allKeys: false, says: sentences.bypass },
};

/** What each effect is called in a list to choose from. */
export const effectNames = Object.fromEntries(effects.map((e) => [e, sentences[`effect_${e}`]])) as Readonly<Record<Effect, string>>;

/** What is on record for the case, as far as a gate asks. */
export interface OnRecord {
  authority: boolean;
  /** Parts that came without a vehicle ask for more: who sent them is not on record yet. */
  senderMissing?: boolean;
  /** Tags of keys that are said to exist but are not here. */
  keysAbsent: readonly string[];
  /** The keys that are here, with their roles as told; left out where nobody asks. */
  keysHere?: readonly { tag: string; role: string }[];
  /** Tags of keys that are here and do not take part. */
  keysLeftOut?: readonly string[];
}

/** What is on record where only some of the keys that are here take part. */
export function withKeys(record: OnRecord, chosen: readonly string[]): OnRecord {
  const here = record.keysHere ?? [];
  const part = chosen.flatMap((tag) => here.filter((k) => k.tag === tag));
  return { ...record, keysHere: part, keysLeftOut: here.filter((k) => !chosen.includes(k.tag)).map((k) => k.tag) };
}

/** Reasons why the gate is shut, each ending in what to do; empty when it is open. */
export function closedBecause(effect: Effect, record: OnRecord): string[] {
  const gate = gates[effect];
  const reasons: string[] = [];
  if (gate.authority && !record.authority) {
    reasons.push(sentences.authorityMissing);
  }
  if (gate.authority && record.senderMissing) reasons.push(sentences.senderMissing);
  return reasons;
}

/** What to warn of before an open gate is passed; the person decides. In sequences that replace stored keys, what is not presented is lost. */
export function warnedBecause(effect: Effect, record: OnRecord): string[] {
  if (!gates[effect].allKeys) return [];
  const warnings: string[] = [];
  if (record.keysAbsent.length > 0) {
    const keys = record.keysAbsent.map((tag) => sentences.tag(tag)).join(', ');
    warnings.push(sentences.keysNotHere(keys));
  }
  const left = record.keysLeftOut ?? [];
  if (left.length > 0) warnings.push(sentences.keysLeftOut(left.map((tag) => sentences.tag(tag)).join(', ')));
  const here = record.keysHere ?? [];
  const [only] = here;
  if (only && here.length === 1) warnings.push(sentences.oneKeyLeft(only.tag));
  if (only && here.every((k) => k.role === 'valet')) warnings.push(sentences.onlyValet);
  else if (only && !here.some(comesFirst)) warnings.push(sentences.noMainKey(only.tag));
  return warnings;
}
