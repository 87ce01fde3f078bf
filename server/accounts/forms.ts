import { type ShopUnits, shopUnitChoices, usUnits } from '../../core/units';
import { refused } from '../base/expected';
import {
  choice,
  type Field,
  flag,
  line,
  list,
  many,
  needed,
  oneOf,
  optionalLine,
  orElse,
  orEmpty,
  quantity,
  shape,
  text,
  verbatim,
} from '../base/field';
import { name } from '../base/fields';
import { parseForm } from '../base/parseForm';
import { roles } from '../db/schema';
import { equipment } from '../shop/shop';

/** Shortest password: length is what guards it, so nothing else is asked of it. */
const shortest = 12;
const password = needed(verbatim(200).min(shortest));
/** What is typed to prove oneself may be anything; only its size is held. */
const typed = orEmpty(verbatim(200));
const role = needed(choice(...roles));
const personName = needed(line(80).min(2));

/** A new password is typed twice. Messages about it never repeat what was typed. */
const secret = { password, again: orEmpty(verbatim(1000)) };
function typedTwice<T extends { password: string; again: string }>({ again, ...form }: T) {
  if (again !== form.password) throw refused(400, 'notTheSame', 'The two entries don’t match. Type the new password twice.', 'again');
  return form;
}

export const parseSignIn = (data: unknown) => parseForm({ name: needed(line(80)), password: typed, atBay: flag(), to: optionalLine(500) }, data);
export type SignIn = Omit<ReturnType<typeof parseSignIn>, 'to'>;

const units: Field<ShopUnits> = orElse(
  shape({
    distance: needed(oneOf(shopUnitChoices.distance)),
    temperature: needed(oneOf(shopUnitChoices.temperature)),
    clock: needed(oneOf(shopUnitChoices.clock)),
    dates: needed(oneOf(shopUnitChoices.dates)),
  }),
  usUnits,
);
export const parseSetUp = (data: unknown) =>
  typedTwice(
    parseForm(
      {
        name: personName,
        shop: needed(line(80)),
        currency: needed(line(8)),
        bays: needed(quantity({ unit: '', whole: true, min: 1, max: 20 })),
        units,
        ...secret,
      },
      data,
    ),
  );
export type SetUp = ReturnType<typeof parseSetUp>;

export const parseJoin = (data: unknown) => typedTwice(parseForm(secret, data));

export const parsePassword = (data: unknown) => typedTwice(parseForm({ present: typed, ...secret }, data));

export const parseUnlock = (data: unknown) => parseForm({ pin: orEmpty(verbatim(20)), to: optionalLine(500) }, data);
export function parsePin(data: unknown): { present: string; pin: string } {
  const form = parseForm({ present: typed, pin: typed }, data);
  // Said here, since the usual message would show what was typed.
  if (!/^[0-9]{6}$/.test(form.pin)) throw refused(400, 'pin', 'A PIN has six digits. Type six digits.', 'pin');
  return form;
}

export const parseInvitation = (data: unknown) => parseForm({ name: personName, role }, data);
export const parseRole = (data: unknown) => parseForm({ person: needed(name), role }, data);
/** @param trainings cautions that not everybody is trained for */
export const parseTraining = (data: unknown, trainings: Readonly<Record<string, string>>) =>
  parseForm({ person: needed(name), trained: many(trainings) }, data);
export const parsePersonId = (data: unknown) => parseForm({ person: needed(name) }, data).person;
export const parseSessionId = (data: unknown) => parseForm({ session: needed(name) }, data).session;

export const parseShop = (data: unknown) =>
  parseForm(
    {
      name: needed(line(80)),
      address: orEmpty(text(200)),
      phone: optionalLine(40),
      currency: needed(line(8)),
      labourRate: needed(quantity({ unit: '', min: 0, max: 100_000 })),
      units,
      equipment: orElse(list(oneOf(equipment)).single().unique(), []),
    },
    data,
  );
export const parseBayName = (data: unknown) => parseForm({ name: needed(line(40)) }, data).name;
export const parseBay = (data: unknown) => parseForm({ bay: needed(name), name: needed(line(40)) }, data);
export const parseBayId = (data: unknown) => parseForm({ bay: needed(name) }, data).bay;
