import { Harness, technician } from '../../services/harness.testing';
import { measurement, stepTry } from '../../db/schema';
import { lastUses } from './lastUses';

let harness: Harness;
beforeAll(async () => {
  harness = await Harness.open();
});
afterAll(() => harness.close());

test('the last three uses of each instrument, the newest first, each with its case', async () => {
  expect(await lastUses(harness.db)).toEqual({ lamp: [], ladder: [], trials: [], bursts: [], substitute: [] });
  const id = await harness.openCase({ vehicle: 'Veskar Ledger, silver', system: 'profile:veskar-ledger' });
  const line = (n: number, kind: 'pellet' | 'trials') => ({
    id: `use-${kind}-${n}`,
    caseId: id,
    keyTag: 'A',
    kind,
    raw: {},
    verdict: `Value ${n}. Sure (over 99.9 %).`,
    simulated: false,
    by: technician.id,
    at: n,
  });
  await harness.db.insert(measurement).values([1, 2, 3, 4].map((n) => line(n, 'pellet')));
  await harness.db.insert(measurement).values([line(7, 'trials')]);
  const pin = { id: 'veskar-twelve', version: 1, hash: 'a'.repeat(64) };
  const tried = { caseId: id, ladder: pin, step: 6, resistor: '1.42 kΩ', by: technician.id, at: 9 };
  await harness.db.insert(stepTry).values([
    { ...tried, id: 'try-1', result: 'refused' },
    // The undo of a try is no use of its own.
    { ...tried, id: 'try-2', result: null, replaces: 'try-1' },
  ]);
  const uses = await lastUses(harness.db);
  expect(uses.ladder.map((u) => u.say)).toEqual(['Value 4.', 'Value 3.', 'Value 2.']);
  expect(uses.ladder[0]).toEqual({ to: `/cases/${id}`, case: `000${id} Veskar Ledger, silver`, say: 'Value 4.', at: 4 });
  expect([uses.trials.length, uses.lamp.length]).toEqual([1, 0]);
  expect(uses.substitute.map((u) => u.say)).toEqual(['Value 6: refused']);
});
