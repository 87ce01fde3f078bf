import type { Problem } from '../units';
import { formatOhms } from './format';
import type { Steps } from './ladder';
import { accuracyWords, halfWidth, type Meter, rangeOf } from './meter';
import { sentences } from './sentences';

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
    if (s.low > s.high) add('error', 'window', at, sentences.windowEndsBeforeBegin(s.step));
    else if (s.nominal < s.low || s.nominal > s.high)
      add('error', 'nominal', `${at}.nominal`, sentences.nominalOutside(formatOhms(s.nominal), s.step, formatOhms(s.low), formatOhms(s.high)));
    const before = steps[i - 1];
    if (!before) return;
    if (s.step <= before.step) add('error', 'number', `${at}.step`, sentences.numbersDescend(s.step, before.step));
    if (s.nominal <= before.nominal)
      add('error', 'order', `${at}.nominal`, sentences.valuesDescend(formatOhms(s.nominal), formatOhms(before.nominal)));
    else if (s.low <= before.high)
      add('error', 'overlap', `${at}.low`, sentences.windowsOverlap(s.step, formatOhms(s.low), before.step, formatOhms(before.high)));
    else if (meter) {
      const range = rangeOf(meter, before.nominal);
      const [below, above] = [before.nominal + halfWidth(range, before.nominal), s.nominal - halfWidth(rangeOf(meter, s.nominal), s.nominal)];
      if (below >= s.low || above <= before.high)
        add('warning', 'meter', at, sentences.meterTooCoarse(meter.name, before.step, s.step, accuracyWords(range)));
    }
  });
  return problems;
}
