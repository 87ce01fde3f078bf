import { shopCalendar } from '../papers/shopCalendar';
import { Harness, lead, owner, refusal } from '../services/harness.testing';
import { findAddress, listAddresses, mostAddresses, openAddressFor, parseNewAddress, revokeAddress } from './addresses';
import { parsePlace, setPlace } from './acts';
import { readFloor } from './floor';

let harness: Harness;
beforeEach(async () => {
  harness = await Harness.open();
});
afterEach(() => harness.close());

const make = (more: Record<string, unknown> = {}) =>
  openAddressFor(harness.db, harness.act(owner), parseNewAddress({ kind: 'wall', name: 'Screen over bay 1', ...more }));

test('an address works for what it was made for, until it is revoked; nothing of it but a hash is kept', async () => {
  const { token } = await make();
  expect(await findAddress(harness.db, 'wall', token)).toEqual({ name: 'Screen over bay 1', vehicles: false });
  expect(await findAddress(harness.db, 'calendar', token)).toBeUndefined();
  expect(await findAddress(harness.db, 'wall', `${token}x`)).toBeUndefined();
  const [listed] = await listAddresses(harness.db);
  expect(JSON.stringify(listed)).not.toContain(token);
  await revokeAddress(harness.db, harness.act(owner), listed!.id);
  expect([await findAddress(harness.db, 'wall', token), await listAddresses(harness.db)]).toEqual([undefined, []]);
  expect(await refusal(revokeAddress(harness.db, harness.act(owner), listed!.id))).toMatchObject({
    message: 'This address was revoked already. Check the list again.',
  });
});

test('only an owner makes one, and a repeated act shows it to nobody again', async () => {
  expect(await refusal(openAddressFor(harness.db, harness.act(lead), parseNewAddress({ kind: 'wall', name: 'x' })))).toMatchObject({
    code: 'notAllowed',
  });
  const act = harness.act(owner);
  await openAddressFor(harness.db, act, parseNewAddress({ kind: 'calendar', name: 'Phone' }));
  expect(await refusal(openAddressFor(harness.db, act, parseNewAddress({ kind: 'calendar', name: 'Phone' })))).toMatchObject({
    message: 'This was done before; its address was shown then. Make a new one if it is needed.',
  });
  expect(await listAddresses(harness.db)).toHaveLength(1);
});

test('of a hundred at once as many are made as may work, and one more when one is revoked', async () => {
  const all = await Promise.allSettled(Array.from({ length: 100 }, () => make()));
  expect(all.filter((r) => r.status === 'fulfilled')).toHaveLength(mostAddresses);
  const [first] = await listAddresses(harness.db);
  await revokeAddress(harness.db, harness.act(owner), first!.id);
  await make();
  expect(await refusal(make())).toMatchObject({ message: '20 addresses work at the same time at most. Revoke one that nobody uses.' });
});

test('a form without a name or of another kind is refused by its field', async () => {
  expect(await refusal((async () => parseNewAddress({ kind: 'wall', name: '' }))())).toMatchObject({ path: 'name' });
  expect(await refusal((async () => parseNewAddress({ kind: 'door', name: 'x' }))())).toMatchObject({ path: 'kind' });
});

test('a wall shows no vehicle and no plate unless it may, and a calendar neither', async () => {
  const id = await harness.openCase({ vehicle: 'Orrin Thimble, red', plate: '4-18-THB', bay: await harness.bay('Bay 1') });
  await setPlace(
    harness.db,
    harness.act(owner),
    parsePlace({ caseId: id, bay: await harness.bay('Bay 1'), promisedAt: harness.services.clock.now() + 60_000 }),
  );
  const quiet = JSON.stringify([await readFloor(harness.services, { showing: 'nothing' }), await shopCalendar(harness.services, 'Phone', false)]);
  expect(quiet).not.toMatch(/Orrin|Thimble|4-18/);
  expect(quiet).toContain('Promised: Case ');
  const open = await readFloor(harness.services, { showing: 'plates' });
  expect(open.lanes.find((l) => l.case)?.case?.vehicle).toBe('Orrin Thimble, red · 4-18-THB');
  expect(open.touch.say).toContain('Bay 1, Orrin Thimble, red · 4-18-THB: ');
  const calendar = await shopCalendar(harness.services, 'Phone', true);
  expect(calendar.replaceAll('\r\n ', '')).toContain('Orrin Thimble\\, red\\, 4-18-THB');
});
