import Joi from 'joi';
import { abilities, abilityResults, authorityKinds, changes, keyRoles, symptoms } from '../core/library';
import { parseWith } from '../core/library/parseWith';
import { interruptions, maxReason } from '../core/procedure';
import { Refused } from './expected';

/** Every form and command from a browser is parsed whole by one of these. */

const line = (max: number) => Joi.string().trim().max(max);
const optionalLine = (max: number) => line(max).allow('').default('');
const tag = Joi.string()
  .trim()
  .uppercase()
  .pattern(/^[A-Z][A-Z0-9]{0,2}$/, 'a short tag: a letter, then up to two letters or digits');
const many = (allowed: Record<string, string>) =>
  Joi.array()
    .items(Joi.string().valid(...Object.keys(allowed)))
    .single()
    .unique()
    .default([]);

export interface NewCase {
  vehicle: string;
  year?: number;
  identification: string;
  plate: string;
  customer: string;
  phone: string;
  words: string;
  symptoms: string[];
  changed: string[];
  changedNote: string;
  system: string;
  bay: string;
  keys: { tag: string; role: string; note: string; here: boolean }[];
  authority?: { kind?: string; note: string };
}

const keyRow = Joi.object({
  tag: tag.required(),
  role: Joi.string()
    .valid(...Object.keys(keyRoles))
    .default('unknown'),
  note: optionalLine(120),
  here: Joi.boolean().truthy('on').default(false),
});

const authorityForm = {
  kind: Joi.string()
    .valid(...Object.keys(authorityKinds))
    .required(),
  note: optionalLine(300),
};

const newCase = Joi.object({
  vehicle: line(120).required(),
  year: Joi.number().integer().min(1950).max(2100).empty(''),
  identification: Joi.string()
    .trim()
    .uppercase()
    .pattern(/^[A-HJ-NPR-Z0-9]{5,17}$/, '5 to 17 letters and digits, without I, O and Q, as they stand on the vehicle')
    .allow('')
    .default(''),
  plate: optionalLine(16),
  customer: optionalLine(80),
  phone: optionalLine(40),
  words: line(2000).required(),
  symptoms: many(symptoms),
  changed: many(changes),
  changedNote: optionalLine(500),
  system: Joi.string()
    .pattern(/^(family|profile):[a-z0-9-]+$/, 'one of the systems of the list')
    .required(),
  bay: line(40).allow('').default(''),
  keys: Joi.array().items(keyRow).max(12).unique('tag').default([]),
  authority: Joi.object({ kind: authorityForm.kind.optional().empty(''), note: authorityForm.note }),
});

export const parseNewCase = (data: unknown): NewCase => parseForm<NewCase>(newCase, data);

export const parseAuthority = (data: unknown) => parseForm<{ kind: string; note: string }>(Joi.object(authorityForm), data);

export interface NewEvidence {
  test: string;
  outcome: string;
  key?: string;
  note: string;
  replaces?: string;
}
const id = Joi.string().max(80);
export const parseEvidence = (data: unknown) =>
  parseForm<NewEvidence>(
    Joi.object({ test: id.required(), outcome: id.required(), key: tag.empty(''), note: optionalLine(500), replaces: id.empty('') }),
    data,
  );

export const parseVerification = (data: unknown) =>
  parseForm<{ results: Record<string, Record<string, string>> }>(
    Joi.object({
      results: Joi.object()
        .pattern(
          tag,
          Joi.object().pattern(
            Joi.string().valid(...Object.keys(abilities)),
            Joi.string()
              .valid(...Object.keys(abilityResults))
              .empty(''),
          ),
        )
        .default({}),
    }),
    data,
  );

export const parseClosing = (data: unknown) =>
  parseForm<{ outcome: string; reason: string }>(Joi.object({ outcome: line(500).required(), reason: optionalLine(500) }), data);

export const parseStartRun = (data: unknown) => parseForm<{ procedure: string }>(Joi.object({ procedure: id.required() }), data);

/** What the run screen sends; times are checked here, their meaning in core. */
export type RunCommand = { id: string; expectedSeq: number; occurredAt: number } & (
  | { type: 'answer'; step: string; answer: string; value?: number }
  | { type: 'waive'; step: string; reason: string }
  | { type: 'interrupt'; what: (typeof interruptions)[number]; note?: string }
  | { type: 'takeBack'; event: string }
  | { type: 'stop'; reason: string }
);
const envelope = { id: id.required(), expectedSeq: Joi.number().integer().min(1).required(), occurredAt: Joi.number().min(0).required() };
const step = id.required();
const reason = Joi.string().max(maxReason).allow('').required();
const runForms: Record<string, Joi.ObjectSchema> = {
  answer: Joi.object({ ...envelope, type: Joi.any(), step, answer: id.required(), value: Joi.number() }),
  waive: Joi.object({ ...envelope, type: Joi.any(), step, reason }),
  interrupt: Joi.object({
    ...envelope,
    type: Joi.any(),
    what: Joi.string()
      .valid(...interruptions)
      .required(),
    note: optionalLine(maxReason),
  }),
  takeBack: Joi.object({ ...envelope, type: Joi.any(), event: id.required() }),
  stop: Joi.object({ ...envelope, type: Joi.any(), reason }),
};
const runCommand = Object.entries(runForms).reduce<Joi.Schema>(
  (otherwise, [type, form]) => Joi.alternatives().conditional('.type', { is: type, then: form, otherwise }),
  Joi.object({
    type: Joi.string()
      .valid(...Object.keys(runForms))
      .required(),
  }).unknown(),
);
export const parseRunCommand = (data: unknown): RunCommand => parseForm<RunCommand>(runCommand, data);

/** Browser-made id of an act: long enough not to collide, nothing that could be anything else. */
export const parseCommandId = (data: unknown): string =>
  parseForm<{ commandId: string }>(
    Joi.object({
      commandId: Joi.string()
        .pattern(/^[A-Za-z0-9-]{8,64}$/, 'an id of 8 to 64 letters, digits and hyphens')
        .required(),
    }),
    { commandId: data },
  ).commandId;

/** Records of the database have small whole numbers as ids; anything else names nothing. */
export function parseRecordId(text: string | undefined): number | undefined {
  return text !== undefined && /^[1-9][0-9]{0,8}$/.test(text) ? Number(text) : undefined;
}

function parseForm<T>(schema: Joi.Schema, data: unknown): T {
  const parsed = parseWith<T>(schema, data);
  if (!parsed.ok) throw new Refused(400, parsed.problems);
  return parsed.value;
}

/** More fields than any form has. */
const maxFields = 400;

/**
 * A submitted form as nested data: `key.0.tag` becomes `keys`-like lists, a repeated name becomes a list. Files are not taken here.
 * @throws Refused when there are more fields than any form has, or a name tries to reach a prototype
 */
export function fieldsOf(form: FormData): Record<string, unknown> {
  const root: Record<string, unknown> = Object.create(null);
  let count = 0;
  for (const [name, value] of form) {
    count += 1;
    if (count > maxFields || typeof value !== 'string')
      throw new Refused(400, [
        { code: 'form', path: '', message: 'This form was not filled in on its own page. Reload the page and fill it in there.' },
      ]);
    const parts = name.split('.').slice(0, 4);
    let at = root;
    for (const part of parts.slice(0, -1)) at = (at[part] ??= Object.create(null)) as Record<string, unknown>;
    const last = parts.at(-1)!;
    const before = at[last];
    at[last] = before === undefined ? value : Array.isArray(before) ? [...(before as unknown[]), value] : [before, value];
  }
  return plain(root) as Record<string, unknown>;
}

/** Objects whose names are 0, 1, 2 … become lists. */
function plain(value: unknown): unknown {
  if (Array.isArray(value) || typeof value !== 'object' || value === null) return value;
  const entries = Object.entries(value).map(([k, v]) => [k, plain(v)] as const);
  return entries.length > 0 && entries.every(([k]) => /^\d{1,3}$/.test(k))
    ? entries.sort(([a], [b]) => Number(a) - Number(b)).map(([, v]) => v)
    : Object.fromEntries(entries.filter(([k]) => k !== '__proto__'));
}
