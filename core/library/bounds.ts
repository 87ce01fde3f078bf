import { pathText } from '../units/path';
import type { Problem } from '../units';
import { sentences } from './sentences';

/** How much data from outside may hold before anything looks at what it says. Checks that name every problem take long on data that is nothing but problems. */
export interface Bounds {
  /** Lists, maps and single values together. */
  values: number;
  /** Entries of one list or map. */
  entries: number;
  /** Lists and maps inside one another. */
  depth: number;
}

/** What a browser sends: the longest is a capture of some thousand readings with their moments, the deepest the steps of a procedure. */
export const formBounds: Bounds = { values: 20_000, entries: 5_000, depth: 40 };
/** A document of the library, or what a command reads. */
export const documentBounds: Bounds = { values: 60_000, entries: 10_000, depth: 40 };

/** Names that reach what every object inherits from; nothing here is called so. */
export const isForbiddenName = (name: string): boolean => name === '__proto__' || name === 'constructor' || name === 'prototype';

/**
 * The first thing that data from outside must not hold: more than it may, or a name that reaches a prototype. Looks at no more values than are
 * allowed, so it costs little however much was sent.
 */
export function boundsProblem(data: unknown, bounds: Bounds): Problem | undefined {
  let left = bounds.values;
  const way: (string | number)[] = [];
  const above: object[] = [];
  const say = (code: string, message: string): Problem => ({ code, path: pathText(way), message });
  const visit = (value: unknown): Problem | undefined => {
    left -= 1;
    if (left < 0) return { code: 'tooMuch', path: '', message: sentences.tooManyValues(bounds.values) };
    if (typeof value !== 'object' || value === null || ArrayBuffer.isView(value)) return undefined;
    if (above.includes(value)) return say('circle', sentences.circle);
    if (above.length >= bounds.depth) return { code: 'tooDeep', path: '', message: sentences.tooDeep };
    const list = Array.isArray(value);
    const names = list ? undefined : Object.keys(value);
    const length = names?.length ?? (value as unknown[]).length;
    if (length > bounds.entries) return say('tooMuch', sentences.tooManyEntries(length, bounds.entries));
    above.push(value);
    for (let i = 0; i < length; i += 1) {
      const name = names?.[i];
      way.push(name ?? i);
      if (name !== undefined && isForbiddenName(name)) return say('forbiddenName', sentences.forbiddenName(name));
      const problem = visit(name === undefined ? (value as unknown[])[i] : (value as Record<string, unknown>)[name]);
      if (problem) return problem;
      way.pop();
    }
    above.pop();
    return undefined;
  };
  return visit(data);
}
