import {
  assessKey,
  assessWiggle,
  compareWiring,
  type Conditions,
  type Ladder,
  type Meter,
  received,
  type Steps,
  unknownMeter,
} from '../../../core/ladder';
import { agrees, burstRule, burstVerdict, conditionName, conditionWords, featuresOf } from '../../../core/burst';
import type { InstrumentKind } from '../../../core/library';
import { besideKeys, writtenWords } from '../../../core/memory';
import { groupLooks, trialsVerdict } from '../../../core/trials';
import type { MeasurementKind } from '../../db/schema';
import type { BurstsRaw, Circumstances, Kept, PelletRaw, SlotsRaw, TrialsRaw, WiggleRaw, WiringRaw } from '../../record/measured';

/** Below this a verdict is kept with its readings, and is no evidence. */
export const evidenceFrom = 0.8;
/** From here a step may be compared with the vehicle's. */
const stepFrom = 0.95;

export interface Assessed {
  /** What was found, in a sentence with its uncertainty. */
  say: string;
  /** What each instrument's test would be answered; empty: nothing that counts. */
  verdicts: { instrument: InstrumentKind; verdict: string }[];
  /** Steps of a key's pellets that are sure, by side. */
  steps?: (number | null)[];
}

const conditionsOf = ({ leadOhms, temperatureC }: Circumstances, meter: Meter): Conditions => ({ meter, leadOhms, temperatureC });

/** What a measurement comes to: the one reading of it, for page, record and import alike. */
export function assessMeasurement(
  kind: MeasurementKind,
  raw: Kept,
  ladder: Ladder | undefined,
  contactOhms: number | undefined,
  atLeast: number,
  /** Tag of the key that was in. */
  key: string | null,
): Assessed {
  const meter = raw.meter ?? unknownMeter;
  switch (kind) {
    case 'pellet':
      return assessPellet(raw as PelletRaw, ladder!, meter);
    case 'wiring':
      return assessColumn(raw as WiringRaw, contactOhms === undefined ? ladder! : { ...ladder!, contactOhms }, meter);
    case 'wiggle': {
      const { samples, marks } = raw as WiggleRaw;
      const found = assessWiggle(
        samples.map(([atS, ohms]) => ({ atS, ohms: received(ohms) })),
        marks.map(([atS, say]) => ({ atS, say })),
        meter,
      );
      return { say: found.text, verdicts: found.verdict ? [{ instrument: 'wiggle', verdict: found.verdict }] : [] };
    }
    case 'trials':
      return assessLooks(raw as TrialsRaw, atLeast);
    case 'bursts':
      return assessBursts(raw as BurstsRaw, key);
    case 'slots': {
      const { slots, inHand, proven, written } = raw as SlotsRaw;
      const { text } = besideKeys(slots, inHand, proven);
      return { say: written ? `${text} ${writtenWords(written)}` : text, verdicts: [] };
    }
  }
}

function assessPellet(raw: PelletRaw, ladder: Ladder, meter: Meter): Assessed {
  const found = assessKey(
    raw.groups.map((g) => ({ ...g, readings: g.readings.map(received) })),
    ladder,
    conditionsOf(raw, meter),
  );
  const own = raw.vehicleSteps;
  const comparable = own.length === ladder.pellets && found.steps.every((s) => s !== null) && found.p >= stepFrom;
  const equal = found.steps.every((s, i) => s === own[i]);
  const matches = comparable
    ? ` The vehicle has ${own.join(' and ')}${raw.stepSource ? ` (${raw.stepSource})` : ''}: ${equal ? 'the same' : 'another'}.`
    : '';
  return {
    say: `${found.head} ${found.text}${matches}`,
    steps: found.p >= stepFrom ? found.steps : found.steps.map(() => null),
    verdicts: [
      ...(found.p >= evidenceFrom ? [{ instrument: 'pellet' as const, verdict: found.verdict }] : []),
      ...(comparable ? [{ instrument: 'vehicleStep' as const, verdict: equal ? 'equal' : 'other' }] : []),
    ],
  };
}

function assessColumn(raw: WiringRaw, ladder: Steps, meter: Meter): Assessed {
  const found = compareWiring(raw.key.map(received), raw.column.map(received), ladder, conditionsOf(raw, meter));
  return { say: found.text, verdicts: found.verdict === 'unclear' ? [] : [{ instrument: 'wiring', verdict: found.verdict }] };
}

function assessLooks({ looks, hit }: TrialsRaw, atLeast: number): Assessed {
  const found = trialsVerdict(groupLooks(looks), hit);
  const enough = found.state === 'sometimes' || found.trials >= atLeast;
  const more = enough ? '' : ` ${atLeast - found.trials} more checks before it counts in the diagnosis.`;
  return {
    say: `${found.head} ${found.text}${more}`,
    verdicts: found.state === 'none' || !enough ? [] : [{ instrument: 'trials', verdict: found.state }],
  };
}

/**
 * A capture whose condition is known is a baseline, and answers nothing; another one is compared with those there are. Captures of other vehicles of the model don't answer the test
 * of the comparison: they only take the rule of thumb away where they say otherwise.
 */
function assessBursts({ condition, bursts, quality, repeats, against }: BurstsRaw, key: string | null): Assessed {
  const features = featuresOf({ bursts, quality });
  if (!features) return { say: 'Not measurable: something is there, too near to the noise to be counted.', verdicts: [] };
  const counted = `${features.count} ${features.count === 1 ? 'burst' : 'bursts'}`;
  if (condition !== 'asked') return { say: `Baseline, ${conditionWords(conditionName({ condition, key }))}: ${counted}.`, verdicts: [] };
  const found = burstVerdict([...repeats, features], against);
  const rule = burstRule(features.count);
  const ruleHolds = found.by === null || (found.answer !== null && agrees(rule, found.answer));
  return {
    say: `${counted}. ${found.head} ${found.text}`,
    verdicts:
      found.by === 'vehicle'
        ? found.answer === null
          ? []
          : [{ instrument: 'bursts', verdict: found.answer }]
        : ruleHolds
          ? [{ instrument: 'burstCount', verdict: rule }]
          : [],
  };
}
