import type { LaidLamp } from '../library';
import { formatQuantity } from '../units';
import type { LampFeatures } from './features';
import { type LampReading, noneOfThese } from './readLamp';

const seconds = (s: number): string => formatQuantity(Math.round(s * 100) / 100, 's');

/** What was seen, in a sentence without judgement: "Lit 2.8 s, then 12 flashes, one every 0.48 s; dark at the end." */
export function seenWords({ steadyS, flashes, periodS, groups, pauseS, last }: LampFeatures): string {
  if (steadyS === 0 && flashes === 0) return 'Nothing lit.';
  const end = last === 'lit' ? 'lit at the end' : 'dark at the end';
  const steady = steadyS > 0 ? `lit ${seconds(steadyS)}` : '';
  if (flashes === 0) return sentence(last === 'lit' ? 'lit all the time' : `${steady}, then dark`);
  const pace = periodS === null ? '' : `, one every ${seconds(periodS)}`;
  const grouped = groups.length > 1 && pauseS !== null ? ` in groups of ${[...new Set(groups)].join(' and ')}, ${seconds(pauseS)} apart` : '';
  const what = `${flashes} ${flashes === 1 ? 'flash' : 'flashes'}${grouped}${pace}`;
  return sentence(`${[steady, what].filter(Boolean).join(', then ')}; ${end}`);
}
const sentence = (text: string): string => `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;

/**
 * What was seen and what it means, with how sure it is. The family is named, since the same pattern means other things elsewhere.
 * @param patterns those that were read
 * @param family title of the family
 */
export function lampVerdict(reading: LampReading, patterns: readonly LaidLamp[], family: string): string {
  const seen = seenWords(reading.features);
  const [first, second] = reading.patterns as [LampReading['patterns'][0], LampReading['patterns'][0]];
  const of = (id: string) => patterns.find((p) => p.id === id);
  const one = of(first.id);
  switch (reading.state) {
    case 'decided':
      if (first.id === noneOfThese)
        return `${seen} None of the patterns of “${family}” (${first.p.toFixed(2)}). Watch again, and check the system type.`;
      return `${seen} “${one!.title}” in “${family}” (${first.p.toFixed(2)}). ${[one!.meaning, one!.act].filter(Boolean).join(' ')}`.trim();
    case 'pair':
      return `${seen} One of these two in “${family}”: “${one!.title}” or “${of(second.id)!.title}”. Nobody can tell them apart by eye; check what else happens.`;
    case 'more':
      return `${seen} Not watched long enough to decide. Look ${seconds(reading.moreS)} longer, from the start.`;
    case 'unclear':
      return `${seen} Not clear: ${one ? `“${one.title}”` : 'none of these'} has ${first.p.toFixed(2)}. Watch again from the start.`;
  }
}
