import Joi from 'joi';
import {
  abilities,
  type AbilityResult,
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
import type { AuthorityForm } from './authority';
import type { Closing } from './closing';
import { type CaseKind, type Complaint, conclusions, type Condition, type NewKeyPlan } from '../db/schema';
import { refused } from '../base/expected';
import { line, name, optionalLine, parseForm, quantity, text } from '../base/parseForm';

/** Forms of a case: intake, keys, parts, counters, authority, verification, photos, closing. */
import { date, empty, given, madeId, many, oneOf, tag } from '../base/fields';

export interface KeyForm {
  tag: string;
  role: string;
  kind: string;
  marks: string;
  colour: string;
  condition: string;
  cell: string;
  note: string;
  here: boolean;
  told: Record<string, AbilityResult>;
  toFit?: NewKeyPlan;
}
export type KeyChange = Omit<KeyForm, 'tag' | 'here' | 'told'>;

const newKeyPlan = Joi.object({
  extent: oneOf(keyExtents).required(),
  chip: optionalLine(60),
  band: optionalLine(30),
  memory: oneOf(chipMemories).default('unknown'),
  blade: optionalLine(60),
  cutBy: optionalLine(60),
  price: empty(quantity({ unit: '', min: 0, max: 1_000_000 })),
});
const described = {
  role: oneOf(keyRoles).default('unknown'),
  kind: oneOf(keyKinds).default('unknown'),
  marks: optionalLine(120),
  colour: optionalLine(40),
  condition: optionalLine(120),
  cell: optionalLine(40),
  note: optionalLine(120),
  toFit: newKeyPlan.empty(Joi.valid(null)),
};
const keyForm = Joi.object({
  tag: tag.required(),
  ...described,
  here: Joi.boolean().truthy('on').default(false),
  told: Joi.object().pattern(oneOf(abilities), oneOf(abilityResults).empty('')).custom(given).default({}),
});

export interface PartForm {
  tag: string;
  what: string;
  label: string;
  note: string;
}
const partForm = Joi.object({ tag: tag.required(), what: oneOf(partKinds).required(), label: optionalLine(120), note: optionalLine(300) });

export interface CounterForm {
  counter: string;
  unit: string;
  value: number;
}
const unitsOf = (counter: string): readonly string[] => (Object.hasOwn(counters, counter) ? counters[counter as keyof typeof counters].units : []);
const counterFields = {
  counter: oneOf(counters).required(),
  unit: Joi.string()
    .max(10)
    .required()
    .when('counter', { switch: Object.keys(counters).map((counter) => ({ is: counter, then: Joi.valid(...unitsOf(counter)) })) }),
  value: Joi.any()
    .required()
    .when('unit', {
      switch: ['mi', 'km', 'days', 'keys', '%'].map((unit) => ({ is: unit, then: quantity(counterQuantity(unit)) })),
      otherwise: quantity({ unit: '', min: 0, max: 10_000_000 }),
    }),
};
const counterForm = Joi.object(counterFields);

export const authorityFields = { kind: oneOf(authorityKinds).required(), note: optionalLine(300) };

/** What may be changed of an intake later as well. */
export interface IntakeFields {
  vehicle: string;
  year?: number;
  identification: string;
  plate: string;
  customer: string;
  phone: string;
  words: string;
  symptoms: string[];
  complaint: Complaint;
  changed: { what: string; note: string; on?: string }[];
  condition: Condition;
  bay: string;
}
export interface NewCase extends IntakeFields {
  kind: CaseKind;
  system: string;
  /** Answers of the identification. */
  seen: Record<string, string>;
  /** The call it was taken in from. */
  call?: number;
  keys: KeyForm[];
  parts: PartForm[];
  counters: CounterForm[];
  authority: AuthorityForm[];
}

const intakeFields = {
  year: empty(quantity({ unit: '', whole: true, min: 1950, max: 2100 })),
  identification: Joi.string()
    .trim()
    .uppercase()
    .replace(/[\s-]/g, '')
    .pattern(/^[A-HJ-NPR-Z0-9]{5,17}$/, '5 to 17 letters and digits, without I, O and Q, as on the vehicle')
    .allow('')
    .default(''),
  plate: optionalLine(16),
  customer: optionalLine(80),
  phone: optionalLine(40),
  words: text(2000).required(),
  symptoms: many(symptoms),
  complaint: Joi.object({
    diesAfterS: empty(quantity({ unit: 's', min: 0, max: 3600 })),
    howOften: empty(oneOf(howOften)),
    message: empty(line(120)),
  }).default({}),
  changed: Joi.array()
    .items(Joi.object({ what: oneOf(changes).required(), note: optionalLine(300), on: empty(date) }))
    .unique('what')
    .max(20)
    .default([]),
  condition: Joi.object({
    partsOff: empty(line(200)),
    engineCanRun: empty(Joi.string().valid('yes', 'no')),
    lastRunning: empty(line(80)),
    arrived: empty(oneOf(arrivals)),
    batteryVolts: empty(quantity({ unit: 'V', min: 0, max: 60 })),
  }).default({}),
  bay: name.allow('').default(''),
};

/** Answers of the identification; which questions there are is the library's. */
const seen = Joi.object()
  .pattern(/^[a-z][A-Za-z0-9]{0,59}$/, line(60))
  .max(60)
  .default({});
const system = Joi.string()
  .pattern(/^(family|profile):[A-Za-z0-9-]{1,60}$/, 'one of the system types in the list')
  .messages({ 'string.empty': 'Choose the system type from the list, or find it with the questions.' })
  .required();
export const parseIdentification = (data: unknown) => parseForm<{ seen: Record<string, string>; system: string }>(Joi.object({ seen, system }), data);

const newCase = Joi.object({
  ...intakeFields,
  kind: Joi.string().valid('vehicle', 'parts').default('vehicle'),
  vehicle: Joi.when('kind', { is: 'parts', then: optionalLine(120), otherwise: line(120).required() }),
  system,
  seen,
  call: empty(Joi.number().integer().min(1).max(999_999_999)),
  keys: Joi.array().items(keyForm).max(12).unique('tag').default([]),
  parts: Joi.when('kind', {
    is: 'parts',
    then: Joi.array().items(partForm).max(20).unique('tag').default([]),
    otherwise: Joi.array().max(0).default([]),
  }),
  counters: Joi.array().items(counterForm).max(6).unique('counter').default([]),
  authority: Joi.array().items(Joi.object(authorityFields)).max(2).default([]),
});

/** @throws Refused 400 with every problem */
export function parseNewCase(data: unknown): NewCase {
  const form = parseForm<NewCase>(newCase, data);
  if (form.kind === 'parts' && form.parts.length + form.keys.length === 0)
    throw refused(400, 'nothingCame', 'Nothing is listed. List each part and key that came in.', 'parts');
  const twice = form.parts.findIndex((p) => form.keys.some((k) => k.tag === p.tag));
  if (twice >= 0)
    throw refused(400, 'tagTaken', `Tag ${form.parts[twice]!.tag} is given to a key as well. Give the part another.`, `parts[${twice}].tag`);
  return form;
}

export const parseIntake = (data: unknown): IntakeFields =>
  parseForm<IntakeFields>(Joi.object({ ...intakeFields, vehicle: optionalLine(120) }), data);
export const parseKey = (data: unknown): KeyForm => parseForm<KeyForm>(keyForm, data);
export const parseKeyChange = (data: unknown): KeyChange => parseForm<KeyChange>(Joi.object(described), data);
export const parsePart = (data: unknown): PartForm => parseForm<PartForm>(partForm, data);
export const parseCounter = (data: unknown) =>
  parseForm<CounterForm & { phase: 'before' | 'after' }>(
    Joi.object({ ...counterFields, phase: Joi.string().valid('before', 'after').required() }),
    data,
  );

export interface CustodyForm {
  tag: string;
  act: 'received' | 'returned';
  /** Who gave or took it; empty: the case's customer. */
  person: string;
}
export const parseCustody = (data: unknown): CustodyForm =>
  parseForm<CustodyForm>(
    Joi.object({ tag: tag.required(), act: Joi.string().valid('received', 'returned').required(), person: optionalLine(80) }),
    data,
  );

export const parseChanged = (data: unknown): string[] => parseForm<{ changed: string[] }>(Joi.object({ changed: many(changes) }), data).changed;

/** Why a case is parked, taken up again or not done. */
export const parseReason = (data: unknown): string => parseForm<{ reason: string }>(Joi.object({ reason: text(500).min(3).required() }), data).reason;
export const parseNotDone = (data: unknown) =>
  parseForm<{ reason: string; returned: string[] }>(Joi.object({ reason: text(500).min(3).required(), returned }), data);
const returned = Joi.array().items(tag).single().unique().max(40).default([]);
export const parseClosing = (data: unknown) =>
  parseForm<Closing>(
    Joi.object({
      outcome: text(500).required(),
      reason: text(500).allow('').default(''),
      returned,
      conclusion: Joi.string()
        .valid(...conclusions)
        .empty(''),
      fault: line(80).empty(''),
      absentTold: Joi.boolean().truthy('on').default(false),
    }),
    data,
  );

export const parseAuthority = (data: unknown) => parseForm<{ kind: string; note: string }>(Joi.object(authorityFields), data);

export const parseVerification = (data: unknown) =>
  parseForm<{ results: Record<string, Record<string, string>> }>(
    Joi.object({
      results: Joi.object()
        .pattern(
          tag,
          Joi.object()
            .pattern(
              Joi.string().valid(...Object.keys(abilities)),
              Joi.string()
                .valid(...Object.keys(abilityResults))
                .empty(''),
            )
            .custom(given),
        )
        .default({}),
    }),
    data,
  );

export const parseDraftId = (data: unknown): string => parseForm<{ draft: string }>(Joi.object({ draft: madeId }), { draft: data }).draft;
/** What stands in a draft is not checked: it is what somebody is in the middle of typing. */
export const parseDraft = (data: unknown) =>
  parseForm<{ draft: string; fields: Record<string, unknown> }>(
    Joi.object({ draft: madeId, fields: Joi.object().unknown().max(60).required() }),
    data,
  );
export const parsePhoto = (data: unknown) =>
  parseForm<{ caption: string; key: string | null }>(Joi.object({ caption: optionalLine(120), key: tag.empty('').default(null) }), data);
