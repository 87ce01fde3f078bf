import Joi from 'joi';
import { roles, type Role } from '../db/schema';
import { equipment, type Shop } from '../shop/shop';
import { refused } from '../base/expected';
import { shopUnitChoices, type ShopUnits, usUnits } from '../../core/units';
import { line, name, optionalLine, parseForm, quantity, text } from '../base/parseForm';
import type { SignIn } from './signIn';

/** Shortest passphrase: length is what guards it, so nothing else is asked of it. */
const shortest = 12;
const passphrase = Joi.string().min(shortest).max(200).required();
/** What is typed to prove oneself may be anything; only its size is held. */
const typed = Joi.string().max(200).allow('').default('');
const flag = Joi.boolean().truthy('on').default(false);
const role = Joi.string()
  .valid(...roles)
  .required();
const personName = line(80).min(2).required();

/** A new passphrase is typed twice. Messages about it never repeat what was typed. */
function parseSecretForm<T extends { passphrase: string }>(fields: Joi.PartialSchemaMap, data: unknown): T {
  const again = Joi.string().allow('').default('');
  const { again: second, ...form } = parseForm<T & { again: string }>(Joi.object({ ...fields, passphrase, again }), data);
  if (second !== form.passphrase) throw refused(400, 'notTheSame', 'The two entries don’t match. Type the new passphrase twice.', 'again');
  return form as unknown as T;
}

export const parseSignIn = (data: unknown) =>
  parseForm<SignIn & { to: string }>(Joi.object({ name: line(80).required(), passphrase: typed, atBay: flag, to: optionalLine(500) }), data);

export interface SetUp {
  name: string;
  passphrase: string;
  shop: string;
  currency: string;
  bays: number;
  units: ShopUnits;
}
const units = Joi.object(
  Object.fromEntries(
    Object.entries(shopUnitChoices).map(([name, choices]) => [
      name,
      Joi.string()
        .valid(...Object.keys(choices))
        .required(),
    ]),
  ),
).default(usUnits);
export const parseSetUp = (data: unknown) =>
  parseSecretForm<SetUp>(
    {
      name: personName,
      shop: line(80).required(),
      currency: line(8).required(),
      bays: quantity({ unit: '', whole: true, min: 1, max: 20 }).required(),
      units,
    },
    data,
  );

export const parseJoin = (data: unknown) => parseSecretForm<{ passphrase: string }>({}, data);

export const parsePassphrase = (data: unknown) => parseSecretForm<{ present: string; passphrase: string }>({ present: typed }, data);

export const parseUnlock = (data: unknown) =>
  parseForm<{ pin: string; to: string }>(Joi.object({ pin: Joi.string().max(20).allow('').default(''), to: optionalLine(500) }), data);
export function parsePin(data: unknown): { present: string; pin: string } {
  const form = parseForm<{ present: string; pin: string }>(Joi.object({ present: typed, pin: typed }), data);
  // Said here, since the usual message would show what was typed.
  if (!/^[0-9]{6}$/.test(form.pin)) throw refused(400, 'pin', 'A PIN has six digits. Type six digits.', 'pin');
  return form;
}

export const parseInvitation = (data: unknown) => parseForm<{ name: string; role: Role }>(Joi.object({ name: personName, role }), data);
export const parseRole = (data: unknown) => parseForm<{ person: string; role: Role }>(Joi.object({ person: name.required(), role }), data);
export const parsePersonId = (data: unknown) => parseForm<{ person: string }>(Joi.object({ person: name.required() }), data).person;
export const parseSessionId = (data: unknown) => parseForm<{ session: string }>(Joi.object({ session: name.required() }), data).session;

export const parseShop = (data: unknown) =>
  parseForm<Shop>(
    Joi.object({
      name: line(80).required(),
      address: text(200).allow('').default(''),
      phone: optionalLine(40),
      currency: line(8).required(),
      labourRate: quantity({ unit: '', min: 0, max: 100_000 }).required(),
      units,
      equipment: Joi.array()
        .items(Joi.string().valid(...Object.keys(equipment)))
        .single()
        .unique()
        .default([]),
    }),
    data,
  );
export const parseBayName = (data: unknown) => parseForm<{ name: string }>(Joi.object({ name: line(40).required() }), data).name;
export const parseBay = (data: unknown) =>
  parseForm<{ bay: string; name: string }>(Joi.object({ bay: name.required(), name: line(40).required() }), data);
export const parseBayId = (data: unknown) => parseForm<{ bay: string }>(Joi.object({ bay: name.required() }), data).bay;
