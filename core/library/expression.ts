/**
 * A number, or a parameter with an optional offset: `60`, `$dwell`, `$dwell + 60`, `$dwell-90`. `$wait min` is a parameter in minutes, taken as seconds.
 * No other arithmetic is allowed in content.
 */
export type Expression = number | string;

export type ParamValue = number | string;
export type ParamValues = Readonly<Record<string, ParamValue>>;

const form = /^\$([a-z][A-Za-z0-9]*)(\s+min)?(?:\s*([+-])\s*(\d+(?:\.\d+)?))?$/;

interface Parsed {
  readonly param?: string;
  readonly scale: number;
  readonly offset: number;
}
/** Expressions that were split before: content has a few hundred, and a run's fold asks for the same ones thousands of times. */
const known = new Map<string, Parsed>();
const mostKnown = 5000;

/** Splits an expression; undefined when it does not have the allowed form. */
export function parseExpression(expression: Expression): Parsed | undefined {
  if (typeof expression === 'number') return Number.isFinite(expression) ? { scale: 1, offset: expression } : undefined;
  const before = known.get(expression);
  if (before) return before;
  const match = form.exec(expression.trim());
  if (!match) return undefined;
  const offset = match[4] === undefined ? 0 : Number(match[4]) * (match[3] === '-' ? -1 : 1);
  const parsed: Parsed = { param: match[1]!, scale: match[2] === undefined ? 1 : 60, offset };
  if (known.size >= mostKnown) known.clear();
  known.set(expression, parsed);
  return parsed;
}

/**
 * The value of an expression in the parameter's own unit, or in seconds where it says minutes.
 * @throws when the form is wrong or the parameter is missing or not a number: content is linted before it gets here, so that is a programmer's error.
 */
export function evaluateExpression(expression: Expression, params: ParamValues): number {
  if (typeof expression === 'number' && Number.isFinite(expression)) return expression;
  const parts = parseExpression(expression);
  if (!parts) throw new Error(`"${expression}" is not a number or $parameter ± number`);
  if (parts.param === undefined) return parts.offset;
  const value = params[parts.param];
  if (typeof value !== 'number') throw new Error(`Parameter "${parts.param}" of expression "${expression}" is not a number`);
  return value * parts.scale + parts.offset;
}
