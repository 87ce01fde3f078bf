import {
  abilities,
  abilityResults,
  arrivals,
  authorityKinds,
  changes,
  chipMemories,
  counterQuantity,
  counters,
  howOften,
  keyExtents,
  keyKinds,
  keyRoles,
  partKinds,
  symptoms,
} from '../../core/library';
import { refused } from '../base/expected';
import {
  anything,
  choice,
  elseNull,
  type Field,
  flag,
  line,
  list,
  many,
  maybe,
  needed,
  oneOf,
  optionalLine,
  orElse,
  orEmpty,
  type Out,
  pattern,
  quantity,
  record,
  shape,
  text,
  verbatim,
  where,
} from '../base/field';
import { contentName, date, madeId, name, rowId, systemChoice, tag } from '../base/fields';
import { parseForm, parseWhole } from '../base/parseForm';
import { conclusions } from '../db/schema';

/** Forms of a case: intake, keys, parts, counters, authority, verification, photos, closing. */

const newKeyPlan = shape({
  extent: needed(oneOf(keyExtents)),
  chip: optionalLine(60),
  band: optionalLine(30),
  memory: orElse(oneOf(chipMemories), 'unknown'),
  blade: optionalLine(60),
  cutBy: optionalLine(60),
  price: maybe(quantity({ unit: '', min: 0, max: 1_000_000 })),
});
const described = {
  role: orElse(oneOf(keyRoles), 'unknown'),
  kind: orElse(oneOf(keyKinds), 'unknown'),
  marks: optionalLine(120),
  colour: optionalLine(40),
  condition: optionalLine(120),
  cell: optionalLine(40),
  note: optionalLine(120),
  toFit: newKeyPlan.empty(null),
};
const abilityResult = oneOf(abilityResults).empty('');
const keyForm = shape({
  tag: needed(tag),
  ...described,
  here: flag(),
  told: orElse(record(oneOf(abilities), abilityResult), {}),
});
export type KeyForm = Out<typeof keyForm>;

const partForm = shape({ tag: needed(tag), what: needed(oneOf(partKinds)), label: optionalLine(120), note: optionalLine(300) });
export type PartForm = Out<typeof partForm>;

const unitsOf = (counter: string): readonly string[] => (Object.hasOwn(counters, counter) ? counters[counter as keyof typeof counters].units : []);
const counterFields = {
  counter: needed(oneOf(counters)),
  unit: needed(verbatim(10)).when('counter', {
    switch: Object.keys(counters).map((counter) => ({ is: counter, then: choice(...unitsOf(counter)) })),
  }),
  value: needed(
    // What it may be depends on the unit; the last one stands for units that no counter has.
    ['mi', 'km', 'days', 'keys', '%'].reduce(
      (otherwise, unit) => where('unit', unit, quantity(counterQuantity(unit)), otherwise),
      quantity({ unit: '', min: 0, max: 10_000_000 }) as Field<number | undefined>,
    ),
  ),
};
const counterForm = shape(counterFields);
export type CounterForm = Out<typeof counterForm>;

export const authorityFields = { kind: needed(oneOf(authorityKinds)), note: optionalLine(300) };
const authorityForm = shape(authorityFields);
export type AuthorityForm = Out<typeof authorityForm>;

/** What may be changed of an intake later as well. */
const intakeFields = {
  year: maybe(quantity({ unit: '', whole: true, min: 1950, max: 2100 })),
  identification: orEmpty(
    pattern(/^[A-HJ-NPR-Z0-9]{5,17}$/, '5 to 17 letters and digits, without I, O and Q, as on the vehicle', (s) =>
      s.trim().uppercase().replace(/[\s-]/g, ''),
    ),
  ),
  plate: optionalLine(16),
  customer: optionalLine(80),
  phone: optionalLine(40),
  words: needed(text(2000)),
  symptoms: many(symptoms),
  complaint: orElse(
    shape({
      diesAfterS: maybe(quantity({ unit: 's', min: 0, max: 3600 })),
      howOften: maybe(oneOf(howOften)),
      message: maybe(line(120)),
    }),
    {},
  ),
  changed: orElse(
    list(shape({ what: needed(oneOf(changes)), note: optionalLine(300), on: maybe(date) }))
      .unique('what')
      .max(20),
    [],
  ),
  condition: orElse(
    shape({
      partsOff: maybe(line(200)),
      engineCanRun: maybe(choice('yes', 'no')),
      lastRunning: maybe(line(80)),
      arrived: maybe(oneOf(arrivals)),
      batteryVolts: maybe(quantity({ unit: 'V', min: 0, max: 60 })),
    }),
    {},
  ),
  bay: orEmpty(name),
};
const intakeForm = shape({ ...intakeFields, vehicle: optionalLine(120) });
export type IntakeFields = Out<typeof intakeForm>;

/** Answers of the identification; which questions there are is the library's. */
const seen = orElse(record(contentName, line(60)).max(60), {});
const system = needed(systemChoice.messages({ 'string.empty': 'Choose the system type from the list, or find it with the questions.' }));
export const parseIdentification = (data: unknown) => parseForm({ seen, system }, data);

const parts = list(partForm).unique('tag');
const newCase = shape({
  ...intakeFields,
  kind: orElse(choice('vehicle', 'parts'), 'vehicle'),
  vehicle: where('kind', 'parts', optionalLine(120), needed(line(120))),
  system,
  seen,
  /** The call it was taken in from. */
  call: maybe(rowId),
  keys: orElse(list(keyForm).max(12).unique('tag'), []),
  parts: where('kind', 'parts', orElse(parts.max(20), []), orElse(parts.max(0), [])),
  counters: orElse(list(counterForm).max(6).unique('counter'), []),
  authority: orElse(list(authorityForm).max(2), []),
});
export type NewCase = Out<typeof newCase>;

/** @throws Refused 400 with every problem */
export function parseNewCase(data: unknown): NewCase {
  const form = parseWhole(newCase, data);
  if (form.kind === 'parts' && form.parts.length + form.keys.length === 0)
    throw refused(400, 'nothingCame', 'Nothing is listed. List each part and key that came in.', 'parts');
  const twice = form.parts.findIndex((p) => form.keys.some((k) => k.tag === p.tag));
  if (twice >= 0)
    throw refused(400, 'tagTaken', `Tag ${form.parts[twice]!.tag} is given to a key as well. Give the part another.`, `parts[${twice}].tag`);
  return form;
}

export const parseIntake = (data: unknown): IntakeFields => parseWhole(intakeForm, data);
export const parseKey = (data: unknown): KeyForm => parseWhole(keyForm, data);
export const parseKeyChange = (data: unknown) => parseForm(described, data);
export type KeyChange = ReturnType<typeof parseKeyChange>;
export const parsePart = (data: unknown): PartForm => parseWhole(partForm, data);
export const parseCounter = (data: unknown) => parseForm({ ...counterFields, phase: needed(choice('before', 'after')) }, data);

export const parseCustody = (data: unknown) =>
  // Who gave or took it; empty: the case's customer.
  parseForm({ tag: needed(tag), act: needed(choice('received', 'returned')), person: optionalLine(80) }, data);
export type CustodyForm = ReturnType<typeof parseCustody>;

export const parseChanged = (data: unknown) => parseForm({ changed: many(changes) }, data).changed;

/** Why a case is parked, taken up again or not done. */
const reason = needed(text(500).min(3));
export const parseReason = (data: unknown): string => parseForm({ reason }, data).reason;
/** Tags given back to the customer at this moment. */
const returned = orElse(list(tag).single().unique().max(40), []);
export const parseNotDone = (data: unknown) => parseForm({ reason, returned }, data);
export const parseClosing = (data: unknown) =>
  parseForm(
    {
      outcome: needed(text(500)),
      reason: orEmpty(text(500)),
      returned,
      /** How well the cause is known, and which it was; left out where the family has no faults or the case has no vehicle. */
      conclusion: choice(...conclusions).empty(''),
      fault: line(80).empty(''),
      /** The customer knows of the keys that were not here to be tried. */
      absentTold: flag(),
    },
    data,
  );
export type Closing = ReturnType<typeof parseClosing>;

export const parseAuthority = (data: unknown): AuthorityForm => parseWhole(authorityForm, data);

export const parseVerification = (data: unknown) => parseForm({ results: orElse(record(tag, record(oneOf(abilities), abilityResult)), {}) }, data);

export const parseDraftId = (data: unknown): string => parseForm({ draft: madeId }, { draft: data }).draft;
/** What stands in a draft is not checked: it is what somebody is in the middle of typing. */
export const parseDraft = (data: unknown) => parseForm({ draft: madeId, fields: needed(anything().max(60)) }, data);
export const parsePhoto = (data: unknown) => parseForm({ caption: optionalLine(120), key: elseNull(tag.empty('')) }, data);

/** A vehicle that came back: what the customer says now, and which of its keys came with it. */
const cameBackForm = { words: needed(text(2000)), keys: orElse(list(tag).single().unique().max(40), []) };
export const parseCameBack = (data: unknown) => parseForm(cameBackForm, data);
export type CameBack = ReturnType<typeof parseCameBack>;
