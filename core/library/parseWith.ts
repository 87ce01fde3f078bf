import type { AsyncValidationOptions, Schema, ValidationErrorItem } from 'joi';
import { failed, ok, type Problem, type Result } from '../units';
import { pathText } from '../units/path';
import { type Bounds, boundsProblem, documentBounds } from './bounds';
import { sentences } from './sentences';

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
  const typed = `${given === 'typed' ? sentences.youTyped : sentences.fileHas} ${found(context.value)}`;
  const say = (): string => {
    switch (item.type) {
      case 'any.required':
        return sentences.anyRequired(last);
      case 'object.unknown':
        return sentences.objectUnknown(last);
      case 'any.only':
        return sentences.anyOnly(typed, (context.valids as unknown[]).join(', '));
      case 'string.pattern.name':
      case 'string.pattern.base':
        return sentences.stringPatternBase(typed, context.name ?? sentences.formAsked);
      case 'string.empty':
        // A field may have words of its own for it.
        return item.message.endsWith('is not allowed to be empty') ? sentences.stringEmpty : item.message;
      case 'string.min':
        return sentences.stringMin(limit);
      case 'string.max':
        return sentences.stringMax(String(context.value).length, limit);
      case 'number.min':
        return sentences.numberMin(typed, limit);
      case 'number.max':
        return sentences.numberMax(typed, limit);
      case 'number.positive':
        return sentences.numberPositive(typed);
      case 'number.base':
      case 'number.infinity':
      case 'number.unsafe':
        return sentences.numberUnsafe(typed);
      case 'number.integer':
        return sentences.numberInteger(typed);
      case 'array.min':
        return sentences.arrayMin(limit);
      case 'array.max':
        return sentences.arrayMax(limit);
      case 'array.unique':
        return sentences.arrayUnique;
      case 'object.min':
        return sentences.arrayMin(limit);
      case 'object.max':
        return sentences.arrayMax(limit);
      case 'object.missing':
        return sentences.objectMissing((context.peersWithLabels as string[]).map((p) => p.split('.').at(-1)).join(', '));
      case 'object.xor':
      case 'object.oxor':
        return sentences.objectOxor((context.presentWithLabels as string[]).map((p) => p.split('.').at(-1)).join(', '));
      case 'any.custom':
        if (context.error instanceof Said) return context.error.message;
        return `${typed}: ${(context.error as Error).message}.`;
      default:
        return sentences.otherwise(item.message.replace(/[.]?$/, '.'), typed);
    }
  };
  return { code: item.type, path, message: say() };
}
