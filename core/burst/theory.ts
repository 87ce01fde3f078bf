/** A capture of some vehicle whose condition and number of stored keys are known. */
export interface TheoryCapture {
  /** Whatever tells vehicles, probes and places apart: only captures of the same are compared. */
  vehicle: string;
  condition: string;
  storedKeys: number;
  count: number;
}

/** The theory that the number of bursts depends on the number of stored keys: unproven, with what this shop has seen of it. */
export interface Theory {
  /** Vehicles captured under one condition with different numbers of stored keys: where the count moved, and where it stayed. */
  forIt: number;
  against: number;
  /** Each number of stored keys with each count there was, and how often. */
  points: { storedKeys: number; count: number; times: number }[];
}

const middle = (values: number[]): number => values.sort((a, b) => a - b)[(values.length - 1) >> 1]!;

/** What captures say of the theory. One vehicle under one condition says something once at least two numbers of stored keys were captured. */
export function theoryOf(captures: readonly TheoryCapture[]): Theory {
  const byGroup = new Map<string, Map<number, number[]>>();
  const points = new Map<string, { storedKeys: number; count: number; times: number }>();
  for (const { vehicle, condition, storedKeys, count } of captures) {
    const group = byGroup.get(`${vehicle}\n${condition}`) ?? new Map<number, number[]>();
    group.set(storedKeys, [...(group.get(storedKeys) ?? []), count]);
    byGroup.set(`${vehicle}\n${condition}`, group);
    const point = points.get(`${storedKeys} ${count}`) ?? { storedKeys, count, times: 0 };
    points.set(`${storedKeys} ${count}`, { ...point, times: point.times + 1 });
  }
  const told = [...byGroup.values()].filter((g) => g.size > 1).map((g) => new Set([...g.values()].map(middle)).size > 1);
  return {
    forIt: told.filter(Boolean).length,
    against: told.filter((moved) => !moved).length,
    points: [...points.values()].sort((a, b) => a.storedKeys - b.storedKeys || a.count - b.count),
  };
}
