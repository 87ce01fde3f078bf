/** A number, or a parameter with an optional offset: `60`, `$dwell`, `$dwell + 60`, `$dwell-90`. No other arithmetic is allowed in content. */
export type Expression = number | string;

export type ParamValue = number | string;
export type ParamValues = Readonly<Record<string, ParamValue>>;

const form = /^\$([a-z][A-Za-z0-9]*)(?:\s*([+-])\s*(\d+(?:\.\d+)?))?$/;

/** Splits an expression; undefined when it does not have the allowed form. */
export function parseExpression(expression: Expression): { param?: string; offset: number } | undefined {
  if (typeof expression === 'number') return Number.isFinite(expression) ? { offset: expression } : undefined;
  const match = form.exec(expression.trim());
  if (!match) return undefined;
  const offset = match[3] === undefined ? 0 : Number(match[3]) * (match[2] === '-' ? -1 : 1);
  return { param: match[1]!, offset };
}

/**
 * The value of an expression in the parameter's own unit.
 * @throws when the form is wrong or the parameter is missing or not a number: content is linted before it gets here, so that is a programmer's error.
 */
export function evaluateExpression(expression: Expression, params: ParamValues): number {
  const parts = parseExpression(expression);
  if (!parts) throw new Error(`"${expression}" is not a number or $parameter ± number`);
  if (parts.param === undefined) return parts.offset;
  const value = params[parts.param];
  if (typeof value !== 'number') throw new Error(`Parameter "${parts.param}" of expression "${expression}" is not a number`);
  return value + parts.offset;
}
