import type { Schema, ValidationErrorItem } from 'joi';
import { failed, ok, type Problem, type Result } from '../units';

/** Runs a Joi schema over data from outside and says every problem in our own words: where, what was expected, what to do. */
export function parseWith<T>(schema: Schema, data: unknown): Result<T> {
  const { value, error } = schema.validate(data, { abortEarly: false, errors: { wrap: { label: false }, label: 'path' } });
  if (!error) return ok(value as T);
  return failed(...error.details.map(toProblem));
}

/** `steps[2].wait.min` from Joi's list of keys and indices. */
export function pathText(path: readonly (string | number)[]): string {
  return path.reduce<string>((text, part) => (typeof part === 'number' ? `${text}[${part}]` : text === '' ? part : `${text}.${part}`), '');
}

function toProblem(item: ValidationErrorItem): Problem {
  const path = pathText(item.path);
  const last = String(item.path.at(-1) ?? 'document');
  const context = item.context ?? {};
  const limit = String(context.limit ?? '');
  const found = (value: unknown) => JSON.stringify(value)?.slice(0, 80) ?? 'nothing';
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
        return `Found ${found(context.value)}. Write ${context.name ?? 'it in the form asked for'}.`;
      case 'string.empty':
        // A field may have words of its own for it.
        return item.message.endsWith('is not allowed to be empty') ? 'Nothing is written here. Write something.' : item.message;
      case 'string.min':
        return `Too short. Write at least ${limit} characters.`;
      case 'string.max':
        return `${String(context.value).length} characters are too long. Write at most ${limit}.`;
      case 'number.min':
        return `Found ${found(context.value)}. Use ${limit} or more.`;
      case 'number.max':
        return `Found ${found(context.value)}. Use ${limit} or less.`;
      case 'number.positive':
        return `Found ${found(context.value)}. Use a number above zero.`;
      case 'number.base':
      case 'number.infinity':
      case 'number.unsafe':
        return `Found ${found(context.value)}. Use a number.`;
      case 'number.integer':
        return `Found ${found(context.value)}. Use a whole number.`;
      case 'array.min':
        return `Too few entries. Give at least ${limit}.`;
      case 'array.max':
        return `Too many entries. Give at most ${limit}.`;
      case 'array.unique':
        return 'This entry stands here twice. Give each its own.';
      case 'object.min':
        return `Too few entries. Give at least ${limit}.`;
      case 'object.max':
        return `Too many entries. Give at most ${limit}.`;
      case 'object.missing':
        return `One of these is needed: ${(context.peersWithLabels as string[]).map((p) => p.split('.').at(-1)).join(', ')}. Add one.`;
      case 'object.xor':
      case 'object.oxor':
        return `Only one of these may stand together: ${(context.presentWithLabels as string[]).map((p) => p.split('.').at(-1)).join(', ')}. Keep one.`;
      case 'any.custom':
        return `Found ${found(context.value)}: ${(context.error as Error).message}.`;
      default:
        return `${item.message.replace(/[.]?$/, '.')} Found ${found(context.value)}.`;
    }
  };
  return { code: item.type, path, message: say() };
}
