import { Harness, lead, owner, refusal, technician } from '../services/harness.testing';
import { keptPrices, listPrices, parsePrices, pricesNow, savePrices } from './prices';
import { keptShop } from './shop';

let harness: Harness;
beforeEach(async () => {
  harness = await Harness.open();
});
afterEach(() => harness.close());

const items = 'kind,code,title,minutes,price\npart,key-blank,Key blank,,24.50\nlabor,learn-key,Learn a key,20,';
const form = (more: Record<string, unknown> = {}) => ({
  basedOn: 0,
  from: '',
  decimals: 2,
  rate: '90',
  stepMin: 6,
  leastMin: 30,
  callOut: '65',
  leastBill: '0',
  tax: '8.25',
  taxName: 'Sales tax',
  items,
  ...more,
});
const save = (more: Record<string, unknown> = {}, act = harness.act(owner)) => savePrices(harness.db, act, parsePrices(form(more)));
const dayAfter = (days: number) => {
  const date = new Date(harness.services.clock.now() + days * 86_400_000);
  return [date.getFullYear(), date.getMonth() + 1, date.getDate()].map((n) => String(n).padStart(2, '0')).join('-');
};

test('the owner saves it; it is in force at once, and estimates use its hourly rate', async () => {
  expect((await keptShop(harness.services)).labourRate).toBe(84);
  expect(await save()).toEqual({ version: 1 });
  const now = (await pricesNow(harness.services))!;
  expect(now).toMatchObject({
    version: 1,
    by: 'Maud Ferrow',
    book: {
      rate: 9000,
      callOut: 6500,
      tax: 8250,
      items: [
        { code: 'key-blank', price: 2450 },
        { code: 'learn-key', minutes: 20 },
      ],
    },
  });
  const shop = await keptShop(harness.services);
  expect(shop.labourRate).toBe(90);
  // One object for as long as nothing changes: what was read of a case with it stands as long as it does.
  expect(await keptShop(harness.services)).toBe(shop);
});

test('a later version waits for its day, and takes the place of the one before', async () => {
  await save();
  await save({ basedOn: 1, from: dayAfter(2), rate: '95' });
  expect((await pricesNow(harness.services))!.book.rate).toBe(9000);
  await harness.services.clock.advance(3 * 86_400_000);
  expect((await pricesNow(harness.services))!.book.rate).toBe(9500);
  expect((await listPrices(harness.db)).map((v) => v.version)).toEqual([2, 1]);
});

test('from today is from now: what was billed this morning stays', async () => {
  await save({ from: dayAfter(0) });
  expect((await listPrices(harness.db))[0]!.from).toBe(harness.services.clock.now());
});

test.each<[string, Record<string, unknown>, string, string]>([
  ['a price that is none', { rate: 'a lot' }, 'rate', 'You typed "a lot". Type an amount, such as 84.50.'],
  ['too many places', { decimals: 0, rate: '84.5', items: '' }, 'rate', 'You typed "84.5". This currency has 0 decimal places. Type no more.'],
  ['a tax above everything', { tax: '120' }, 'tax', 'You typed "120". Type percent from 0 to 100, such as 8.25.'],
  ['an item without a price', { items: 'kind,code,title,minutes,price\npart,x,X,,' }, 'items', 'line 2, price: The price is missing. Type it.'],
  ['a day that is none', { from: '2027-02-31x' }, 'from', 'You typed "2027-02-31x". Write a day such as 2027-03-31.'],
])('%s is refused, and nothing is saved', async (_, more, path, message) => {
  expect(await refusal(Promise.resolve().then(() => save(more)))).toMatchObject({ status: 400, path, message });
  expect(await listPrices(harness.db)).toEqual([]);
});

test('prices don’t begin in the past', async () => {
  expect(await refusal(save({ from: dayAfter(-1) }))).toMatchObject({
    path: 'from',
    message: 'Prices can’t begin in the past: what was billed stays. Choose today or a later day.',
  });
});

test('only the owner, whoever else asks', async () => {
  for (const person of [technician, lead]) expect(await refusal(save({}, harness.act(person)))).toMatchObject({ status: 403 });
  expect(await keptPrices(harness.services)).toEqual([]);
});

test('a hundred at once on the same version: one is saved, the others are told; the same act a hundred times is one version', async () => {
  const answers = await Promise.allSettled(Array.from({ length: 100 }, () => save()));
  expect(answers.filter((a) => a.status === 'fulfilled')).toHaveLength(1);
  expect(await refusal(save())).toMatchObject({
    status: 409,
    message: 'Somebody saved version 1 meanwhile. Look at it in another tab, then enter your prices there.',
  });
  const act = harness.act(owner);
  const again = await Promise.all(Array.from({ length: 100 }, () => save({ basedOn: 1 }, act)));
  expect(again.every((a) => a.version === 2)).toBe(true);
  expect(await listPrices(harness.db)).toHaveLength(2);
});
