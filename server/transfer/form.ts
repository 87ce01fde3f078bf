import Joi from 'joi';
import type { DocumentBody, DocumentKind } from '../../content/reader';
import { abilities, abilityResults, counters, keyKinds, type ResolvedParam } from '../../core/library';
import { interruptions, maxReason, type RunEvent } from '../../core/procedure';
import {
  type caseFile,
  type caseKey,
  conclusions,
  repairActionKinds,
  type lampLook,
  type lampReading,
  type LineKind,
  type measurement,
  type part,
  type stepTry,
} from '../db/schema';
import { lookFields } from '../ledger/forms';
import { tag } from '../base/fields';
import { keptMeasurement } from '../ledger/measurements/form';
import type { Kept } from '../record/measured';
import { line, optionalLine, text } from '../base/parseForm';

/** Version of the form of an exported case. A change that older shops could not read raises it. 1: ids of before they were renamed (core/library/renamed.ts). */
export const formVersion = 2;
const formVersions = [1, formVersion] as const;
export const formName = 'bloodstone case';

/** Moments are milliseconds since 1970. */
const moment = Joi.number().integer().min(0).max(4_102_444_800_000);
const person = line(80);
const longText = text(4000).allow('');
const rows = (row: Joi.PartialSchemaMap, max: number) => Joi.array().items(Joi.object(row)).max(max).required();
const pin = Joi.object({
  id: line(60).required(),
  version: Joi.number().integer().min(1).required(),
  hash: Joi.string().hex().length(64).required(),
});
const by = { by: person.required(), at: moment.required() };
const id = line(80);

const event = Joi.object({
  id: id.required(),
  seq: Joi.number().integer().min(0).required(),
  actor: Joi.object({ id: id.required(), name: line(80).required() }).required(),
  occurredAt: moment.required(),
  receivedAt: moment.required(),
  type: Joi.string().valid('started', 'answered', 'waived', 'interrupted', 'number', 'retracted', 'stopped').required(),
  keys: Joi.array().items(tag).max(12),
  step: id,
  answer: id,
  value: Joi.alternatives(Joi.number(), line(60)),
  name: line(60),
  source: text(maxReason),
  confirmed: Joi.boolean().valid(true),
  remark: line(20),
  reason: text(maxReason).allow(''),
  what: Joi.string().valid(...interruptions),
  policy: line(20),
  note: text(maxReason).allow(''),
  event: id,
});

/** Everything of an exported case, whole. docs/formats.md tells it in words. */
export const caseForm = Joi.object({
  form: Joi.string().valid(formName).required(),
  version: Joi.number()
    .valid(...formVersions)
    .required(),
  exportedAt: Joi.string().isoDate().required(),
  people: rows({ id: person.required(), name: line(80).required() }, 100),
  documents: rows(
    {
      kind: Joi.string().valid('family', 'profile', 'procedure', 'ladder').required(),
      id: line(60).required(),
      version: Joi.number().integer().min(1).required(),
      hash: Joi.string().hex().length(64).required(),
      body: Joi.object().unknown().required(),
    },
    40,
  ),
  case: Joi.object({
    uid: Joi.string().guid().required(),
    number: line(12).required(),
    kind: Joi.string().valid('vehicle', 'parts').required(),
    state: Joi.string().valid('open', 'parked', 'closed').required(),
    vehicle: optionalLine(120),
    year: Joi.number().integer().min(1950).max(2100).allow(null).required(),
    identification: optionalLine(17),
    plate: optionalLine(16),
    words: text(2000).required(),
    symptoms: Joi.array().items(line(40)).max(30).required(),
    complaint: Joi.object()
      .pattern(line(40), Joi.alternatives(Joi.number(), line(200)))
      .required(),
    condition: Joi.object()
      .pattern(line(40), Joi.alternatives(Joi.number(), line(200)))
      .required(),
    changed: Joi.array()
      .items(Joi.object({ what: line(40).required(), note: optionalLine(500), on: line(10) }))
      .max(30)
      .required(),
    family: pin.required(),
    profile: pin.allow(null).required(),
    openedAt: moment.required(),
    openedBy: person.required(),
    closedAt: moment.allow(null).required(),
    closedBy: person.allow(null).required(),
    outcome: longText.allow(null).required(),
    closing: Joi.string().valid('done', 'notDone').allow(null).required(),
    // Files of before there were conclusions have none.
    conclusion: Joi.string()
      .valid(...conclusions)
      .allow(null)
      .default(null),
    conclusionFault: id.allow(null).default(null),
    customer: Joi.object({ name: optionalLine(80), phone: optionalLine(40), erasedAt: moment.allow(null).required() })
      .allow(null)
      .required(),
  }).required(),
  keys: rows(
    {
      tag: tag.required(),
      code: Joi.string()
        .pattern(/^[A-Z0-9]{6,12}$/, 'a code of 6 to 12 letters and digits')
        .required(),
      role: line(20).required(),
      kind: Joi.string()
        .valid(...Object.keys(keyKinds))
        .required(),
      marks: optionalLine(120),
      colour: optionalLine(40),
      condition: optionalLine(120),
      cell: optionalLine(40),
      note: optionalLine(120),
      present: Joi.boolean().required(),
      toFit: Joi.object({
        extent: line(20),
        chip: optionalLine(60),
        band: optionalLine(30),
        memory: line(20),
        blade: optionalLine(60),
        cutBy: optionalLine(60),
        price: Joi.number(),
      })
        .allow(null)
        .required(),
    },
    40,
  ),
  parts: rows({ tag: tag.required(), what: line(20).required(), label: optionalLine(120), note: optionalLine(300) }, 40),
  authority: rows({ kind: line(20).required(), note: optionalLine(300), ...by }, 40),
  custody: rows({ tag: tag.required(), act: Joi.string().valid('received', 'returned').required(), contact: optionalLine(80), ...by }, 400),
  counters: rows(
    {
      counter: Joi.string()
        .valid(...Object.keys(counters))
        .required(),
      unit: line(10).required(),
      phase: Joi.string().valid('before', 'after').required(),
      value: Joi.number().required(),
      ...by,
    },
    200,
  ),
  states: rows({ state: Joi.string().valid('open', 'parked', 'closed').required(), reason: longText.required(), ...by }, 200),
  abilities: rows(
    {
      key: tag.required(),
      ability: Joi.string()
        .valid(...Object.keys(abilities))
        .required(),
      result: Joi.string()
        .valid(...Object.keys(abilityResults))
        .required(),
      source: Joi.string().valid('told', 'seen').required(),
      ...by,
    },
    4000,
  ),
  runs: rows(
    {
      id: Joi.number().integer().min(1).required(),
      procedure: pin.required(),
      params: Joi.object().unknown().required(),
      status: Joi.string().valid('running', 'finished', 'stopped').required(),
      startedAt: moment.required(),
      endedAt: moment.allow(null).required(),
      events: Joi.array().items(event).min(1).max(5000).required(),
    },
    100,
  ),
  // Files of before the second look existed have none.
  identifications: rows(
    {
      seen: Joi.object().pattern(line(60), line(60)).max(60).required(),
      family: pin.required(),
      profile: pin.allow(null).required(),
      carried: Joi.array().items(id).max(5000).required(),
      proven: Joi.object().pattern(id, Joi.number().integer().min(0)).max(100).default({}),
      ...by,
    },
    100,
  )
    .optional()
    .default([]),
  // Nor of before lamps were read.
  looks: rows(
    {
      id: id.required(),
      key: tag.allow(null).required(),
      origin: Joi.string().valid('tapped', 'file', 'film', 'eye').required(),
      file: optionalLine(160),
      ...lookFields,
      ...by,
      readings: Joi.array()
        .items(
          Joi.object({
            family: pin.required(),
            state: Joi.string().valid('decided', 'pair', 'more', 'unclear').required(),
            pattern: id.required(),
            p: Joi.number().min(0).max(1).allow(null).required(),
            verdict: text(2000).required(),
            at: moment.required(),
          }),
        )
        .max(50)
        .required(),
    },
    1000,
  )
    .optional()
    .default([]),
  // Nor of before there were instruments.
  measurements: rows(
    {
      id: id.required(),
      key: tag.allow(null).required(),
      ...keptMeasurement,
      verdict: text(4000).required(),
      steps: Joi.array().items(Joi.number().integer().allow(null)).max(2).allow(null).default(null),
      simulated: Joi.boolean().required(),
      ...by,
    },
    2000,
  )
    .optional()
    .default([]),
  stepTries: rows(
    {
      id: id.required(),
      ladder: pin.required(),
      step: Joi.number().integer().min(0).max(9999).required(),
      resistor: line(120).required(),
      result: Joi.string().valid('refused', 'accepted').allow(null).required(),
      replaces: id.allow(null).required(),
      ...by,
    },
    1000,
  )
    .optional()
    .default([]),
  evidence: rows(
    {
      id: id.required(),
      seq: Joi.number().integer().min(1).required(),
      kind: Joi.string()
        .valid('test', ...repairActionKinds)
        .default('test'),
      test: id.required(),
      outcome: id.allow(null).required(),
      key: tag.allow(null).required(),
      note: optionalLine(500),
      replaces: id.allow(null).required(),
      run: Joi.number().integer().allow(null).required(),
      event: id.allow(null).required(),
      look: id.allow(null).default(null),
      measurement: id.allow(null).default(null),
      minutes: Joi.number().min(0).max(1440).allow(null).default(null),
      familyHash: Joi.string().hex().length(64).required(),
      by: person.required(),
      occurredAt: moment.required(),
      receivedAt: moment.required(),
    },
    5000,
  ),
  photos: rows(
    {
      file: Joi.string()
        .pattern(/^photos\/[0-9a-f-]{36}\.(jpg|png)$/, 'a file in photos/')
        .required(),
      key: tag.allow(null).required(),
      caption: optionalLine(120),
      ...by,
    },
    60,
  ),
});

export type Pin = { id: string; version: number; hash: string };
type By = { by: string; at: number };
/** A case as it stands in the file; rows go into tables of the same fields. */
export interface CaseFileForm {
  version: number;
  people: { id: string; name: string }[];
  documents: (Pin & { kind: DocumentKind; body: DocumentBody })[];
  case: Omit<typeof caseFile.$inferSelect, 'id' | 'domain' | 'bayId' | 'customerId' | 'search' | `family${string}` | `profile${string}`> & {
    number: string;
    family: Pin;
    profile: Pin | null;
    customer: { name: string; phone: string; erasedAt: number | null } | null;
  };
  keys: Omit<typeof caseKey.$inferSelect, 'caseId'>[];
  parts: Omit<typeof part.$inferSelect, 'caseId'>[];
  authority: ({ kind: string; note: string } & By)[];
  custody: ({ tag: string; act: 'received' | 'returned'; contact: string } & By)[];
  counters: ({ counter: string; unit: string; phase: 'before' | 'after'; value: number } & By)[];
  states: ({ state: 'open' | 'parked' | 'closed'; reason: string } & By)[];
  abilities: ({ key: string; ability: string; result: 'yes' | 'no'; source: 'told' | 'seen' } & By)[];
  runs: {
    id: number;
    procedure: Pin;
    params: Record<string, ResolvedParam>;
    status: 'running' | 'finished' | 'stopped';
    startedAt: number;
    endedAt: number | null;
    events: RunEvent[];
  }[];
  identifications: ({ seen: Record<string, string>; family: Pin; profile: Pin | null; carried: string[]; proven: Record<string, number> } & By)[];
  looks: (Omit<typeof lampLook.$inferSelect, 'caseId' | 'keyTag'> & {
    key: string | null;
    readings: Omit<typeof lampReading.$inferSelect, 'id' | 'lookId'>[];
  })[];
  measurements: (Omit<typeof measurement.$inferSelect, 'caseId' | 'keyTag' | 'raw'> & { key: string | null; raw: Kept })[];
  stepTries: Omit<typeof stepTry.$inferSelect, 'caseId'>[];
  evidence: {
    id: string;
    seq: number;
    kind: LineKind;
    test: string;
    outcome: string | null;
    key: string | null;
    note: string;
    replaces: string | null;
    minutes: number | null;
    run: number | null;
    event: string | null;
    look: string | null;
    measurement: string | null;
    familyHash: string;
    by: string;
    occurredAt: number;
    receivedAt: number;
  }[];
  photos: ({ file: string; key: string | null; caption: string } & By)[];
}
