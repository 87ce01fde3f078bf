import type { AsyncValidationOptions, Schema, ValidationErrorItem } from 'joi';
import { failed, ok, type Problem, type Result } from '../units';
import { pathText } from '../units/path';
import { type Bounds, boundsProblem, documentBounds } from './bounds';

/** Thrown by a check of one field: its message is a whole sentence, which names what was found by itself. */
export class Said extends Error {}

/** Most problems that are named of one piece of data. */
const mostProblems = 30;
/** Data with more values than this gets its first problem named, not every one: naming them costs far more than finding one. */
const namedInFull = 40_000;
const words: AsyncValidationOptions = { errors: { wrap: { label: false }, label: 'path' } };

/** Who gave the data: a person at a form, or a document. */
export type Given = 'typed' | 'document';

/**
 * Runs a Joi schema over data from outside and says every problem in our own words: where, what was expected, what to do. Data that holds more than
 * `bounds`, or a name that reaches a prototype, is not checked any further.
 */
export function parseWith<T>(schema: Schema, data: unknown, bounds: Bounds = documentBounds, given: Given = 'document'): Result<T> {
  const outside = boundsProblem(data, bounds);
  if (outside) return failed(outside);
  const first = schema.validate(data, { ...words, abortEarly: true });
  if (!first.error) return ok(first.value as T);
  const few = boundsProblem(data, { ...bounds, values: namedInFull }) === undefined;
  const error = few ? schema.validate(data, { ...words, abortEarly: false }).error! : first.error;
  return failed(...error.details.slice(0, mostProblems).map((item) => toProblem(item, given)));
}

function toProblem(item: ValidationErrorItem, given: Given): Problem {
  const path = pathText(item.path);
  const last = String(item.path.at(-1) ?? 'document');
  const context = item.context ?? {};
  const limit = String(context.limit ?? '');
  const found = (value: unknown) => JSON.stringify(value)?.slice(0, 80) ?? 'nothing';
  const typed = `${given === 'typed' ? 'You typed' : 'Found'} ${found(context.value)}`;
  const say = (): string => {
    switch (item.type) {
      case 'any.required':
        return `"${last}" is missing. Add it.`;
      case 'object.unknown':
        return `"${last}" is not a field that is known here. Remove it or correct its name.`;
      case 'any.only':
        return `Found ${found(context.value)}. Use one of: ${(context.valids as unknown[]).join(', ')}.`;
      case 'string.pattern.name':
      case 'string.pattern.base':
        return `${typed}. Write ${context.name ?? 'it in the form asked for'}.`;
      case 'string.empty':
        // A field may have words of its own for it.
        return item.message.endsWith('is not allowed to be empty') ? 'Nothing is written here. Write something.' : item.message;
      case 'string.min':
        return `Too short. Write at least ${limit} characters.`;
      case 'string.max':
        return `${String(context.value).length} characters are too long. Write at most ${limit}.`;
      case 'number.min':
        return `${typed}. Use ${limit} or more.`;
      case 'number.max':
        return `${typed}. Use ${limit} or less.`;
      case 'number.positive':
        return `${typed}. Use a number above zero.`;
      case 'number.base':
      case 'number.infinity':
      case 'number.unsafe':
        return `${typed}. Use a number.`;
      case 'number.integer':
        return `${typed}. Use a whole number.`;
      case 'array.min':
        return `Too few entries. Give at least ${limit}.`;
      case 'array.max':
        return `Too many entries. Give at most ${limit}.`;
      case 'array.unique':
        return 'This entry appears twice. Give each its own.';
      case 'object.min':
        return `Too few entries. Give at least ${limit}.`;
      case 'object.max':
        return `Too many entries. Give at most ${limit}.`;
      case 'object.missing':
        return `One of these is needed: ${(context.peersWithLabels as string[]).map((p) => p.split('.').at(-1)).join(', ')}. Add one.`;
      case 'object.xor':
      case 'object.oxor':
        return `Only one of these is allowed: ${(context.presentWithLabels as string[]).map((p) => p.split('.').at(-1)).join(', ')}. Keep one.`;
      case 'any.custom':
        if (context.error instanceof Said) return context.error.message;
        return `${typed}: ${(context.error as Error).message}.`;
      default:
        return `${item.message.replace(/[.]?$/, '.')} ${typed}.`;
    }
  };
  return { code: item.type, path, message: say() };
}
