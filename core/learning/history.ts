import { type Compiled, compile, firstBudget, somethingElse, workedVehicles } from '../diagnosis';
import type { Finding } from '../diagnosis';
import type { Family, ParamValues } from '../library';
import { generator } from '../units';
import { isOff, type Lesson } from './lesson';

/** How far a made-up shop lies off the content: spread of its causes (natural logarithm), factors of its slips and of its minutes. */
const off = { causes: 0.8, slips: [0.5, 4], minutes: [0.6, 1.7] } as const;
const usualHumanError = 0.02;

/** The same system type as it is in a made-up shop: other frequencies of causes, other slips, other minutes; seeded. */
export function otherShop(family: Family, seed: number): Family {
  const draw = generator(seed);
  // Box and Muller, 1958.
  const normal = () => Math.sqrt(-2 * Math.log(1 - draw())) * Math.cos(2 * Math.PI * draw());
  const between = ([low, high]: readonly [number, number]) => low * (high / low) ** draw();
  return {
    ...family,
    tests: family.tests.map((t) => ({
      ...t,
      minutes: t.minutes * between(off.minutes),
      humanError: Math.min(0.3, (t.humanError ?? usualHumanError) * between(off.slips)),
    })),
    ...(family.faults
      ? {
          faults: family.faults.map((f) => ({
            ...f,
            prior: f.prior * Math.exp(off.causes * normal()),
            cure: { ...f.cure, minutes: f.cure.minutes * between(off.minutes) },
          })),
        }
      : {}),
  };
}

/** A vehicle that such a shop worked on: what was wrong, what was found until it was fixed, and what each took. */
export interface PastCase {
  fault: string;
  key?: string;
  /** Tests and fixes in order; the last is the fix that worked. */
  findings: (Finding & { tenths: number })[];
}

const keys = ['A', 'B'];

/**
 * Vehicles of a made-up shop, worked on by the engine as the content has it, with the first answer of the diagnosis; seeded. A vehicle with two faults, or
 * with none of the known ones, is left out.
 * @param shop the system type as it is there (`otherShop`)
 */
export function pastCases(family: Family, shop: Family, params: ParamValues, count: number, seed: number): PastCase[] {
  const opening = { told: [], keys, ratePerMinute: 1.4 };
  const compiled = compile(family, params, opening);
  const vehicles = compile(shop, params, opening);
  const draw = generator(seed + 1);
  const minutesOf = (finding: Finding) =>
    ('test' in finding ? shop.tests.find((t) => t.id === finding.test)?.minutes : shop.faults?.find((f) => f.id === finding.repair)?.cure.minutes) ??
    1;
  const timed = (finding: Finding) => ({ ...finding, tenths: Math.max(1, Math.round(minutesOf(finding) * (0.7 + 0.6 * draw()) * 10)) });
  return workedVehicles(compiled, { trials: count, seed, vehicles, budget: firstBudget }).map(({ fault: index, findings }) => {
    const { fault, key } = compiled.hypotheses[index]!;
    return {
      fault: fault.id,
      ...(key === undefined ? {} : { key }),
      findings: [...findings, { id: 'fix', repair: fault.id, worked: true, ...(key === undefined ? {} : { key }) }].map(timed),
    };
  });
}

/** What such a case teaches, as a case of the app would. */
export function lessonOfPast(family: Family, params: ParamValues, past: PastCase): Lesson {
  return {
    cause: past.fault === somethingElse ? null : past.fault,
    line: '',
    tests: past.findings.flatMap((f) =>
      'test' in f ? [{ test: f.test, off: isOff(family, params, past.fault, past.key, f), tenths: f.tenths }] : [],
    ),
    fixes: past.findings.flatMap((f) => ('repair' in f ? [{ fault: f.repair, tenths: f.tenths }] : [])),
    said: null,
    missed: false,
    options: [],
    stayed: null,
  };
}

/** A system type compiled as a made-up shop's vehicles are, for a comparison. */
export const vehiclesOf = (shop: Family, params: ParamValues): Compiled => compile(shop, params, { told: [], keys, ratePerMinute: 1.4 });
