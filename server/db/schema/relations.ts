// What belongs to a case, so that a case is read whole in one statement (server/record/cases.ts).
import { relations } from 'drizzle-orm';
import {
  authority,
  caseFile,
  caseKey,
  counterReading,
  custody,
  customer,
  identification,
  offer,
  part,
  photo,
  replacement,
  scan,
  stateChange,
} from './cases';
import { lampLook, lampReading, measurement } from './instruments';
import { ability, evidence } from './ledger';
import { person } from './people';
import { run } from './runs';
import { bay } from './shop';

/** Every table that a case is read from. */
export const caseTables = [
  ability,
  authority,
  bay,
  caseFile,
  caseKey,
  counterReading,
  custody,
  customer,
  evidence,
  identification,
  lampLook,
  lampReading,
  measurement,
  offer,
  part,
  person,
  photo,
  replacement,
  run,
  scan,
  stateChange,
] as const;

export const caseFileRelations = relations(caseFile, ({ one, many }) => ({
  bay: one(bay, { fields: [caseFile.bayId], references: [bay.id] }),
  customer: one(customer, { fields: [caseFile.customerId], references: [customer.id] }),
  keys: many(caseKey),
  parts: many(part),
  custody: many(custody),
  counters: many(counterReading),
  scans: many(scan),
  replacement: many(replacement),
  offers: many(offer),
  photos: many(photo),
  states: many(stateChange),
  authority: many(authority),
  identifications: many(identification),
  evidence: many(evidence),
  abilities: many(ability),
  looks: many(lampLook),
  measurements: many(measurement),
  runs: many(run),
}));

export const caseKeyRelations = relations(caseKey, ({ one }) => ({ case: one(caseFile, { fields: [caseKey.caseId], references: [caseFile.id] }) }));
export const partRelations = relations(part, ({ one }) => ({ case: one(caseFile, { fields: [part.caseId], references: [caseFile.id] }) }));
export const custodyRelations = relations(custody, ({ one }) => ({
  case: one(caseFile, { fields: [custody.caseId], references: [caseFile.id] }),
  contact: one(customer, { fields: [custody.contactId], references: [customer.id] }),
}));
export const counterReadingRelations = relations(counterReading, ({ one }) => ({
  case: one(caseFile, { fields: [counterReading.caseId], references: [caseFile.id] }),
}));
export const scanRelations = relations(scan, ({ one }) => ({ case: one(caseFile, { fields: [scan.caseId], references: [caseFile.id] }) }));
export const replacementRelations = relations(replacement, ({ one }) => ({
  case: one(caseFile, { fields: [replacement.caseId], references: [caseFile.id] }),
}));
export const offerRelations = relations(offer, ({ one }) => ({
  case: one(caseFile, { fields: [offer.caseId], references: [caseFile.id] }),
}));
export const photoRelations = relations(photo, ({ one }) => ({ case: one(caseFile, { fields: [photo.caseId], references: [caseFile.id] }) }));
export const stateChangeRelations = relations(stateChange, ({ one }) => ({
  case: one(caseFile, { fields: [stateChange.caseId], references: [caseFile.id] }),
}));
export const authorityRelations = relations(authority, ({ one }) => ({
  case: one(caseFile, { fields: [authority.caseId], references: [caseFile.id] }),
}));
export const identificationRelations = relations(identification, ({ one }) => ({
  case: one(caseFile, { fields: [identification.caseId], references: [caseFile.id] }),
}));
export const evidenceRelations = relations(evidence, ({ one }) => ({
  case: one(caseFile, { fields: [evidence.caseId], references: [caseFile.id] }),
}));
export const abilityRelations = relations(ability, ({ one }) => ({ case: one(caseFile, { fields: [ability.caseId], references: [caseFile.id] }) }));
export const lampLookRelations = relations(lampLook, ({ one, many }) => ({
  case: one(caseFile, { fields: [lampLook.caseId], references: [caseFile.id] }),
  readings: many(lampReading),
}));
export const lampReadingRelations = relations(lampReading, ({ one }) => ({
  look: one(lampLook, { fields: [lampReading.lookId], references: [lampLook.id] }),
}));
export const measurementRelations = relations(measurement, ({ one }) => ({
  case: one(caseFile, { fields: [measurement.caseId], references: [caseFile.id] }),
}));
export const runRelations = relations(run, ({ one }) => ({ case: one(caseFile, { fields: [run.caseId], references: [caseFile.id] }) }));
