import type { LaidLamp } from '../library';
import { formatChance, formatQuantity } from '../units';
import type { LampFeatures } from './features';
import { type LampReading, noneOfThese } from './readLamp';
import { sentences } from './sentences';

const seconds = (s: number): string => formatQuantity(Math.round(s * 100) / 100, 's');

/** What was seen, in a sentence without judgement: "Lit 2.8 s, then 12 flashes, one every 0.48 s; dark at the end." */
export function seenWords({ steadyS, flashes, periodS, groups, pauseS, last }: LampFeatures): string {
  if (steadyS === 0 && flashes === 0) return sentences.nothingLit;
  const end = last === 'lit' ? sentences.litAtEnd : sentences.darkAtEnd;
  const steady = steadyS > 0 ? sentences.steady(seconds(steadyS)) : '';
  if (flashes === 0) return sentence(last === 'lit' ? sentences.litAllTheTime : sentences.thenDark(steady));
  const pace = periodS === null ? '' : sentences.pace(seconds(periodS));
  const grouped = groups.length > 1 && pauseS !== null ? sentences.grouped([...new Set(groups)].join(' and '), seconds(pauseS)) : '';
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
      if (first.id === noneOfThese) return sentences.noPattern(seen, family, formatChance(first.p));
      return sentences.recognized(seen, one!.title, family, formatChance(first.p), [one!.meaning, one!.act].filter(Boolean).join(' ')).trim();
    case 'pair':
      return sentences.pair(seen, family, one!.title, of(second.id)!.title);
    case 'more':
      return sentences.more(seen, seconds(reading.moreS));
    case 'unclear':
      return sentences.unclear(seen, one ? `“${one.title}”` : sentences.noneOfThese, formatChance(first.p));
  }
}
