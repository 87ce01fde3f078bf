import { parkCase, reopenCase } from '../cases/closing';
import { addPart, readCounter, recordCustody } from '../cases/keys';
import { recordAuthority } from '../cases/authority';
import { recordEvidence } from '../ledger/ledger';
import { Harness } from '../services/harness.testing';
import { Kept } from '../db/kept';
import { renameBay, listBays } from '../shop/shop';
import { loadCases } from './cases';
import { KeptCases } from './keptCases';

let harness: Harness;
beforeAll(async () => (harness = await Harness.open()));
afterAll(() => harness.close());

/** Repeatable draws (a linear congruential generator; period 2^32). */
const draws = (seed: number) => {
  let state = seed;
  return (n: number) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return Math.floor((state / 2 ** 32) * n);
  };
};

test('after every act the kept records are what is stored, and only the changed one is read again', async () => {
  const { db, services } = harness;
  const { statements, ours } = services.database;
  const cases = new KeptCases(db, new Kept(ours ? statements : null));
  const bays = await listBays(db);
  const ids = [await harness.openCase({ bay: bays[0]!.id }), await harness.openCase({ bay: bays[1]!.id }), await harness.openCase()];
  const draw = draws(7);
  const acts: ((id: number, n: number) => Promise<unknown>)[] = [
    (id) =>
      recordEvidence(db, services.documents, harness.act(), id, {
        test: 'lamp',
        outcome: 'refused',
        key: 'A',
        note: '',
        replaces: null,
        minutes: null,
      } as never),
    (id, n) => readCounter(db, harness.act(), id, { counter: 'odometer', unit: 'km', phase: 'before', value: 1000 + n }),
    (id, n) =>
      addPart(db, harness.act(), id, { tag: `P${n % 10}${String.fromCharCode(65 + (n % 26))}`, what: 'cluster', label: '', note: '' } as never),
    (id) => recordCustody(db, harness.act(), id, { tag: 'A', act: 'returned', person: '' } as never),
    (id) => recordCustody(db, harness.act(), id, { tag: 'A', act: 'received', person: 'Imre Valdane' } as never),
    (id) => recordAuthority(db, harness.act(), id, { kind: 'registration', note: 'seen' } as never),
    (id) => parkCase(db, harness.act(), id, { reason: 'waits for a part' } as never),
    (id) => reopenCase(db, harness.act(), id, { reason: 'it is here' } as never),
    (_id, n) => renameBay(db, harness.act(), { bay: bays[n % bays.length]!.id, name: `Bay ${n}` }),
  ];
  await cases.all(ids);
  let done = 0;
  for (let n = 0; n < 80; n += 1) {
    const id = ids[draw(ids.length)]!;
    const took = await acts[draw(acts.length)]!(id, n).then(
      () => true,
      () => false,
    );
    if (took) done += 1;
    const before = statements.asked;
    const kept = await cases.all(ids);
    // One statement for what may have changed, and one for what has.
    expect(statements.asked - before).toBeLessThanOrEqual(2);
    expect(kept).toEqual(await loadCases(db, ids));
  }
  expect(done).toBeGreaterThan(40);
  const before = statements.asked;
  await cases.all(ids);
  expect(statements.asked - before).toBe(ours ? 0 : 1);
});

test('what is not there is not found, and comes when it is', async () => {
  const { services } = harness;
  expect(await services.cases.one(9_999)).toBeUndefined();
  const id = await harness.openCase();
  expect(await services.cases.one(id)).toMatchObject({ id, state: 'open' });
});
