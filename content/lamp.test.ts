import { readLamp } from '../core/lamp';
import { type LaidLamp, resolveLamps, resolveParams } from '../core/library';
import { shipped } from './session.testing';
import { generator, tapAlong } from './tapping.testing';

const recordings = Number(process.env.LAMP_RECORDINGS ?? 200);

/** Patterns of each family and moment that a lamp makes. */
const groups = [...shipped.families.values()].flatMap((family) => {
  const lamps = resolveLamps(family.lamps, resolveParams(family)).filter((l) => l.segments);
  const moments = [...new Set(lamps.map((l) => l.moment))];
  return moments.map((moment) => ({ family: family.id, moment, lamps: lamps.filter((l) => l.moment === moment) }));
});

test(`${recordings} tapped recordings of every pattern: at least 97 % right, and of those told with 0.95 and more at most 1 % wrong`, () => {
  const confused: string[] = [];
  let sure = 0;
  let sureWrong = 0;
  const rows = groups.flatMap(({ family, moment, lamps }, g) =>
    lamps.map((lamp: LaidLamp, k) => {
      const random = generator(100 * g + k + 1);
      let right = 0;
      for (let n = 0; n < recordings; n += 1) {
        const reading = readLamp(lamps, tapAlong(lamp, 1.5 * lamp.decisiveS, random));
        const [first] = reading.patterns;
        if (reading.state === 'decided' && first!.id === lamp.id) right += 1;
        else confused.push(`${family} ${moment} ${lamp.id}: ${reading.state} ${first!.id} ${first!.p.toFixed(2)}`);
        if (first!.p >= 0.95) {
          sure += 1;
          if (first!.id !== lamp.id) sureWrong += 1;
        }
      }
      return { pattern: `${family} ${moment} ${lamp.id}`, right: right / recordings };
    }),
  );
  if (process.env.SHOW_FIGURES)
    console.log(rows.map((r) => `${r.pattern} ${(100 * r.right).toFixed(1)}`).join('\n'), confused.slice(0, 60).join('\n'));
  expect(rows.reduce((sum, r) => sum + r.right, 0) / rows.length).toBeGreaterThanOrEqual(0.97);
  // A pattern of one light is missed altogether in 3 % of the looks, and nothing is left to read; no pattern does worse than that.
  for (const row of rows) expect(row).toEqual({ ...row, right: Math.max(row.right, 0.94) });
  expect(sureWrong / sure).toBeLessThanOrEqual(0.01);
}, 300_000);
