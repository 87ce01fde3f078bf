import Joi from 'joi';
import { longestLookS } from '../core/lamp';
import { isForbiddenName } from '../core/library/bounds';
import { abilities, abilityResults, type LampMoment, lampMoments } from '../core/library';
import { type CommandBody, interruptions, maxReason } from '../core/procedure';
import type { CallForm } from './calls';
import { type RepairActionKind, repairActionKinds } from './db/schema';
import { Refused } from './expected';
import { authorityFields, given, tag } from './intake';
import { line, optionalLine, parseForm, quantity, text } from './parseForm';
import type { NewProfile, ProfileForm } from './profiles';
import type { ShopKind } from './shopDocuments';

/** Every form and command from a browser is parsed whole by one of these. */

export const parseAuthority = (data: unknown) => parseForm<{ kind: string; note: string }>(Joi.object(authorityFields), data);

export interface NewEvidence {
  test: string;
  outcome: string;
  key?: string;
  note: string;
  replaces?: string;
  /** How long it took. */
  minutes?: number;
}
const id = line(80);
/** A tenth of a minute is as fine as anybody counts, and a day is longer than any test. */
const minutes = quantity({ unit: 'min', min: 0, max: 1440 })
  .custom((n: number) => Math.round(n * 10) / 10)
  .empty('');
export const parseEvidence = (data: unknown) =>
  parseForm<NewEvidence>(
    Joi.object({ test: id.required(), outcome: id.required(), key: tag.empty(''), note: optionalLine(500), replaces: id.empty(''), minutes }),
    data,
  );

/** Something done about a fault. */
export interface NewRepairAction {
  kind: RepairActionKind;
  fault: string;
  key?: string;
  result: 'works' | 'fails' | 'done';
  note: string;
  replaces?: string;
  minutes?: number;
}
export const parseRepairAction = (data: unknown) =>
  parseForm<NewRepairAction>(
    Joi.object({
      kind: Joi.string()
        .valid(...repairActionKinds)
        .required(),
      fault: id.required(),
      key: tag.empty(''),
      result: Joi.string()
        .when('kind', { is: 'repair', then: Joi.valid('works', 'fails', 'done'), otherwise: Joi.valid('works', 'fails') })
        .required(),
      note: optionalLine(500),
      replaces: id.empty(''),
      minutes,
    }),
    data,
  );

/** A lamp that was watched, as the bench sends it. Without lights and length it was judged by eye to be none of the family's patterns. */
export interface NewLook {
  case: number;
  key?: string;
  moment: LampMoment;
  origin: 'tapped' | 'file' | 'eye';
  file: string;
  lit: [number, number][];
  litAtEnd: boolean;
  lengthS: number;
}
/** More lights than a look that was kept can hold. */
const mostLights = 3000;
/** Lights of a new look: each is weighed under every pattern of every system, on the thread that answers pages. Flashing four times a second these are 100 s. */
const mostNewLights = 400;
const seconds = Joi.number().min(0).max(longestLookS);
const lights = (most: number) => Joi.array().items(Joi.array().ordered(seconds.required(), seconds.required()).length(2)).max(most).default([]);
export const lookFields = {
  moment: Joi.string()
    .valid(...lampMoments)
    .required(),
  lit: lights(mostLights),
  litAtEnd: Joi.boolean().default(false),
  lengthS: seconds.default(0),
};
export const parseLook = (data: unknown) =>
  parseForm<NewLook>(
    Joi.object({
      ...lookFields,
      lit: lights(mostNewLights),
      case: Joi.number().integer().min(1).max(999_999_999).required(),
      key: tag.empty(''),
      origin: Joi.string().valid('tapped', 'file', 'eye').required(),
      file: optionalLine(160),
    }),
    data,
  );

const film = Joi.object({ ...lookFields, lit: lights(mostNewLights), lengthS: seconds.greater(0).required() });
/** What was said on the telephone; nothing of it is needed, since callers hang up. */
export const parseCall = (data: unknown) =>
  parseForm<CallForm>(
    Joi.object({
      customer: optionalLine(80),
      phone: optionalLine(40),
      vehicle: optionalLine(120),
      plate: optionalLine(16),
      words: text(2000).allow('').default(''),
      system: Joi.string()
        .pattern(/^(family|profile):[A-Za-z0-9-]{1,60}$/, 'one of the system types in the list')
        .allow('')
        .default(''),
      answers: Joi.object()
        .pattern(/^[a-z][A-Za-z0-9]{0,59}$/, line(60))
        .max(40)
        .default({}),
      film: film.empty(Joi.valid(null)).default(null),
    }),
    data,
  );

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

export const parseStartRun = (data: unknown) => parseForm<{ procedure: string }>(Joi.object({ procedure: id.required() }), data);

/** What the run screen sends; times are checked here, their meaning in core. */
export type RunCommand = { id: string; expectedSeq: number; occurredAt: number } & CommandBody;
const envelope = { id: id.required(), expectedSeq: Joi.number().integer().min(1).required(), occurredAt: Joi.number().min(0).required() };
const step = id.required();
const reason = text(maxReason).allow('').required();
const runForms: Record<string, Joi.ObjectSchema> = {
  answer: Joi.object({ ...envelope, type: Joi.any(), step, answer: id.required(), value: Joi.number(), note: line(maxReason).empty('') }),
  waive: Joi.object({ ...envelope, type: Joi.any(), step, reason }),
  interrupt: Joi.object({
    ...envelope,
    type: Joi.any(),
    what: Joi.string()
      .valid(...interruptions)
      .required(),
    note: optionalLine(maxReason),
  }),
  number: Joi.object({
    ...envelope,
    type: Joi.any(),
    name: id.required(),
    value: line(60).required(),
    source: line(maxReason).required(),
    confirmed: Joi.boolean().default(false),
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

const draftId = Joi.string()
  .pattern(/^[A-Za-z0-9-]{8,64}$/, 'an id of 8 to 64 letters, digits and hyphens')
  .required();
export const parseDraftId = (data: unknown): string => parseForm<{ draft: string }>(Joi.object({ draft: draftId }), { draft: data }).draft;
/** What stands in a draft is not checked: it is what somebody is in the middle of typing. */
export const parseDraft = (data: unknown) =>
  parseForm<{ draft: string; fields: Record<string, unknown> }>(
    Joi.object({ draft: draftId, fields: Joi.object().unknown().max(60).required() }),
    data,
  );

/** The bytes of an uploaded file. */
export function parseFile(data: unknown): Uint8Array {
  if (!(data instanceof Uint8Array) || data.byteLength === 0)
    throw new Refused(400, [{ code: 'noFile', path: 'file', message: 'No file was chosen. Choose one.' }]);
  return data;
}
export const parsePhoto = (data: unknown) =>
  parseForm<{ caption: string; key: string | null }>(Joi.object({ caption: optionalLine(120), key: tag.empty('').default(null) }), data);

/** Records of the database have small whole numbers as ids; anything else names nothing. */
export function parseRecordId(text: string | undefined): number | undefined {
  return text !== undefined && /^[1-9][0-9]{0,8}$/.test(text) ? Number(text) : undefined;
}

/** More fields than any form has. */
const maxFields = 400;

/**
 * A submitted form as nested data: `key.0.tag` becomes `keys`-like lists, a repeated name becomes a list. Files are not taken here. Goes down only
 * into objects made here, which inherit from nothing; a name that would reach a prototype is refused wherever it stands.
 * @throws Refused when there are more fields than any form has, a name is forbidden, or one name means a text and a group at once
 */
export function fieldsOf(form: FormData): Record<string, unknown> {
  const root = group();
  let count = 0;
  for (const [name, value] of form) {
    count += 1;
    if (count > maxFields || typeof value !== 'string') throw notOurForm();
    const parts = name.split('.', maxParts + 1);
    if (parts.length > maxParts || parts.some(isForbiddenName)) throw notOurForm();
    let at = root;
    for (const part of parts.slice(0, -1)) {
      const next = (at[part] ??= group());
      if (!isGroup(next)) throw notOurForm();
      at = next;
    }
    const last = parts.at(-1)!;
    const before = at[last];
    if (isGroup(before)) throw notOurForm();
    if (before === undefined) at[last] = value;
    else if (Array.isArray(before)) before.push(value);
    else at[last] = [before, value];
  }
  return plain(root) as Record<string, unknown>;
}

type Group = Record<string, unknown>;
const group = (): Group => Object.create(null) as Group;
const isGroup = (value: unknown): value is Group => typeof value === 'object' && value !== null && Object.getPrototypeOf(value) === null;
/** Parts of the longest name of a field: `keys.0.told.turns`. */
const maxParts = 4;
const notOurForm = () =>
  new Refused(400, [{ code: 'form', path: '', message: 'This form was not filled in on its own page. Reload the page and fill it in there.' }]);

/** Objects whose names are 0, 1, 2 … become lists. */
function plain(value: unknown): unknown {
  if (Array.isArray(value) || typeof value !== 'object' || value === null) return value;
  const entries = Object.entries(value).map(([k, v]) => [k, plain(v)] as const);
  return entries.length > 0 && entries.every(([k]) => /^\d{1,3}$/.test(k))
    ? entries.sort(([a], [b]) => Number(a) - Number(b)).map(([, v]) => v)
    : Object.fromEntries(entries);
}

export const parseNewProfile = (data: unknown) =>
  parseForm<NewProfile>(Joi.object({ title: line(120).required(), from: Joi.string().max(80).required() }), data);

/** A profile as it is typed; numbers are read by the family's parameters (server/profiles.ts). */
export const parseProfileForm = (data: unknown) =>
  parseForm<ProfileForm>(
    Joi.object({
      from: Joi.number().integer().min(1).required(),
      title: line(120).required(),
      source: line(600).required(),
      values: Joi.object()
        .pattern(/^[a-z][A-Za-z0-9]{0,59}$/, Joi.object({ value: optionalLine(60), source: optionalLine(maxReason) }))
        .max(60)
        .default({}),
      seen: Joi.object()
        .pattern(/^[a-z][A-Za-z0-9]{0,59}$/, optionalLine(60))
        .max(60)
        .default({}),
      ladder: optionalLine(60),
      check: Joi.boolean().truthy('on').default(false),
    }),
    data,
  );

/** A file, or pasted text when none was chosen. */
export function parseYamlSent(data: unknown): string {
  const { file, text } = data as { file?: unknown; text?: unknown };
  if (file instanceof Uint8Array && file.byteLength > 0) {
    try {
      return new TextDecoder('utf-8', { fatal: true }).decode(file);
    } catch {
      throw new Refused(400, [{ code: 'encoding', path: 'file', message: 'This is not a text file in UTF-8. Choose the exported YAML file.' }]);
    }
  }
  if (typeof text === 'string' && text.trim() !== '') return text;
  throw new Refused(400, [{ code: 'noFile', path: 'file', message: 'No file was chosen and nothing was pasted. Do one or the other.' }]);
}

export const parseTitle = (data: unknown): string => parseForm<{ title: string }>(Joi.object({ title: line(120).required() }), data).title;

/** A document of the shop that can't be read, by its name. */
export const parseUnreadable = (data: unknown) =>
  parseForm<{ kind: ShopKind; id: string }>(Joi.object({ kind: Joi.string().valid('profile', 'ladder').required(), id: line(60).required() }), data);
