import type { Problem } from '../units';
import { formatOhms } from './format';
import type { Steps } from './ladder';
import { accuracyWords, halfWidth, type Meter, rangeOf } from './meter';

/** What is wrong with a ladder: `error` makes it unusable, `warning` is for the person to judge. */
export interface LadderProblem extends Problem {
  severity: 'error' | 'warning';
}

/**
 * Steps out of order, windows that overlap or don't hold their nominal value; and, with a meter, steps that it can't tell apart: where the limits that
 * its maker gives for a value in the one window reach into the other.
 */
export function lintLadder({ steps }: Pick<Steps, 'steps'>, meter?: Meter): LadderProblem[] {
  const problems: LadderProblem[] = [];
  const add = (severity: LadderProblem['severity'], code: string, path: string, message: string) => problems.push({ severity, code, path, message });
  steps.forEach((s, i) => {
    const at = `steps[${i}]`;
    if (s.low > s.high) add('error', 'window', at, `The window of value ${s.step} ends below its beginning. Swap low and high.`);
    else if (s.nominal < s.low || s.nominal > s.high)
      add(
        'error',
        'nominal',
        `${at}.nominal`,
        `${formatOhms(s.nominal)} is outside the window of value ${s.step}, ${formatOhms(s.low)} to ${formatOhms(s.high)}. Correct one of them.`,
      );
    const before = steps[i - 1];
    if (!before) return;
    if (s.step <= before.step) add('error', 'number', `${at}.step`, `Value ${s.step} comes after value ${before.step}. Number them upward.`);
    if (s.nominal <= before.nominal)
      add(
        'error',
        'order',
        `${at}.nominal`,
        `${formatOhms(s.nominal)} stands after ${formatOhms(before.nominal)}. Write the values from the lowest to the highest.`,
      );
    else if (s.low <= before.high)
      add(
        'error',
        'overlap',
        `${at}.low`,
        `The window of value ${s.step} begins at ${formatOhms(s.low)}, inside the window of value ${before.step}, which ends at ${formatOhms(before.high)}. Separate them.`,
      );
    else if (meter) {
      const range = rangeOf(meter, before.nominal);
      const [below, above] = [before.nominal + halfWidth(range, before.nominal), s.nominal - halfWidth(rangeOf(meter, s.nominal), s.nominal)];
      if (below >= s.low || above <= before.high)
        add(
          'warning',
          'meter',
          at,
          `${meter.name} can’t tell value ${before.step} from value ${s.step} for certain: ${accuracyWords(range)}. Use a finer meter.`,
        );
    }
  });
  return problems;
}
