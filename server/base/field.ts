import Joi from 'joi';
import { Said } from '../../core/library/parseWith';
import { type Quantity, readQuantity } from '../../core/units';

declare const out: unique symbol;
/**
 * A field of a form: how it is read, and, for the compiler only, what comes out; `undefined` where it may be left open. Joi's own rules that change no type
 * (`min`, `max`, `empty`, `when`) may follow. A form's type is that of its fields: `Out<typeof form>`.
 */
export interface Typed<T> {
  readonly [out]: T;
}
export type Field<T> = Joi.Schema & Typed<T>;
/** What comes out of a field or a form that is there. */
export type Out<F extends Typed<unknown>> = Exclude<F[typeof out], undefined>;

/** The only place where a schema is given its type: below, each rule stands beside what it lets through. */
const as =
  <T>() =>
  <S extends Joi.Schema>(schema: S) =>
    schema as S & Typed<T>;

/** Signs that no text needs and that do harm in one: control signs, and those that turn the direction of what follows. */
const harmful = {
  line: /\p{Cc}|[\u2028-\u202e\u2066-\u2069]/u,
  text: /(?![\t\n\r])\p{Cc}|[\u202a-\u202e\u2066-\u2069]/u,
};

const clean = (kind: keyof typeof harmful) => (value: string) => {
  const at = value.search(harmful[kind]);
  if (at >= 0) throw new Error(`a character that can’t be saved is at position ${at + 1}; remove it`);
  if (/\p{Surrogate}/u.test(value)) throw new Error('half a character is in it; type it again');
  return value;
};

// What is read of a field.

const string = as<string | undefined>();
/** Text of one line, without control signs. */
export const line = (max: number) => string(Joi.string().trim().max(max).custom(clean('line')));
/** Text that may have several lines. */
export const text = (max: number) => string(Joi.string().trim().max(max).custom(clean('text')));
/** Exactly as it was typed, blanks and all. */
export const verbatim = (max: number) => string(Joi.string().max(max));
/** Text of one form, after `change`. */
export const pattern = (form: RegExp, such: string, change: (s: Joi.StringSchema) => Joi.StringSchema = (s) => s) =>
  string(change(Joi.string()).pattern(form, such));
export const flag = () => as<boolean>()(Joi.boolean().truthy('on').default(false));
export const yesNo = () => as<boolean | undefined>()(Joi.boolean());
/** Only yes is written. */
export const yes = () => as<true | undefined>()(Joi.boolean().valid(true));
export const number = (min: number, max: number) => as<number | undefined>()(Joi.number().min(min).max(max));
export const whole = (min: number, max: number) => as<number | undefined>()(Joi.number().integer().min(min).max(max));
/** One of these. */
export const choice = <const V extends string | number>(...values: readonly V[]) =>
  as<V | undefined>()((typeof values[0] === 'number' ? Joi.number() : Joi.string()).valid(...values));
/** A name of the list. */
export const oneOf = <K extends string>(allowed: Readonly<Record<K, unknown>>) => choice(...(Object.keys(allowed) as K[]));
/** A number as people write it, with the unit it is asked for in; from a program it may be a number. What can be meant in two ways is asked. */
export const quantity = (to: Quantity) =>
  as<number | undefined>()(
    Joi.any().custom((value: unknown) => {
      if (typeof value !== 'number' && typeof value !== 'string') throw new Said('This is not a number. Type a number.');
      const read = readQuantity(String(value), to);
      if (!read.ok) throw new Said(read.problems[0]!.message);
      return read.value;
    }),
  );

// Whether it must be there.

export const needed = <S extends Field<unknown>>(field: S) => as<Out<S>>()(field.required() as S);
/** What stands for nothing (an empty text too) leaves the field open. */
export const maybe = <S extends Field<unknown>>(field: S) => field.empty(Joi.valid('', null)) as S;
/** With a value for what was left open; an empty text is left open where `field` says so. */
export const orElse = <S extends Field<unknown>>(field: S, value: Out<S>) => as<Out<S>>()(field.default(value as string) as S);
/** Null stands for what was left open. */
export const elseNull = <S extends Field<unknown>>(field: S): Field<Out<S> | null> => as<Out<S> | null>()(field.default(null) as Joi.Schema);
/** Null is a value of its own. */
export const orNull = <S extends Field<unknown>>(field: S): Field<S[typeof out] | null> =>
  as<S[typeof out] | null>()(field.allow(null) as Joi.Schema);
/** A text of which nothing is known is empty. */
export const orEmpty = <S extends Field<string | undefined>>(field: S) => as<string>()(field.allow('').default('') as S);
export const optionalLine = (max: number) => orEmpty(line(max));

// Fields together.

export type Fields = Readonly<Record<string, Field<unknown>>>;
type Open<F extends Fields> = { [K in keyof F]: undefined extends F[K][typeof out] ? K : never }[keyof F];
/** What comes out of fields; one that may be left open is a key that may be missing. */
export type Outs<F extends Fields> = { [K in Exclude<keyof F, Open<F>>]: F[K][typeof out] } & { [K in Open<F>]?: Out<F[K]> };
type Flat<T> = { [K in keyof T]: T[K] };

export const shape = <F extends Fields>(fields: F) => as<Flat<Outs<F>> | undefined>()(Joi.object(fields as Joi.PartialSchemaMap));
export const list = <S extends Field<unknown>>(item: S) => as<Out<S>[] | undefined>()(Joi.array().items(item));
/** Names of the list, each once; a form with one of them sends no list. */
export const many = <K extends string>(allowed: Readonly<Record<K, unknown>>) => orElse(list(oneOf(allowed)).single().unique(), []);
/** Two in their order. */
export const pair = <A extends Field<unknown>, B extends Field<unknown>>(a: A, b: B) =>
  as<[Out<A>, Out<B>] | undefined>()(Joi.array().ordered(a.required(), b.required()).length(2));
/** Values by names that nobody knows beforehand; those left open are left out. */
export const record = <K extends string, S extends Field<unknown>>(key: Field<K | undefined> | RegExp, value: S) =>
  as<(string extends K ? Record<string, Out<S>> : { [N in K]?: Out<S> }) | undefined>()(
    Joi.object()
      .pattern(key as Joi.Schema, value)
      .custom((fields: object) => Object.fromEntries(Object.entries(fields).filter(([, v]) => v !== undefined))),
  );
/** The one or the other. */
export const either = <A extends Field<unknown>, B extends Field<unknown>>(a: A, b: B) =>
  as<Out<A> | Out<B> | undefined>()(Joi.alternatives(a, b) as Joi.Schema);
/** Anything with names: not checked here. */
export const anything = () => as<Record<string, unknown> | undefined>()(Joi.object().unknown());
/** Read in one way or another, by a field that stands beside it. */
export const where = <A extends Field<unknown>, B extends Field<unknown>>(beside: string, is: string, then: A, otherwise: B) =>
  as<A[typeof out] | B[typeof out]>()(Joi.when(beside, { is, then, otherwise }) as Joi.Schema);
/**
 * One of several forms, chosen by the name in the field `by`, which stands among their fields; beside them the fields that all have.
 * Where there is no such form, only the name is said to be wrong.
 */
export const chosenBy = <B extends string, K extends string, C extends Fields, F extends Readonly<Record<K, Fields>>>(
  by: B,
  common: C,
  forms: F & Record<K, Fields>,
) =>
  as<{ [N in K]: Flat<Record<B, N> & Outs<C> & Outs<F[N]>> }[K] | undefined>()(
    (Object.entries(forms) as [K, Fields][]).reduce<Joi.Schema>(
      (otherwise, [name, fields]) =>
        Joi.alternatives().conditional(`.${by}`, {
          is: name,
          then: Joi.object({ ...common, ...fields, [by]: Joi.any() } as Joi.PartialSchemaMap),
          otherwise,
        }),
      Joi.object({ [by]: needed(oneOf(forms)) }).unknown(),
    ),
  );
