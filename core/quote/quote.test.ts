import { generator } from '../units';
import {
  type Amount,
  amountText,
  bookAt,
  billedMinutes,
  billOf,
  type BillEntry,
  type Decimals,
  formatAmount,
  itemsCsv,
  parseItems,
  type PriceBook,
  readAmount,
  readTax,
  shareOf,
  taxText,
} from '.';

const book = (more: Partial<PriceBook> = {}): PriceBook => ({
  decimals: 2,
  rate: 8400,
  stepMin: 6,
  leastMin: 30,
  callOut: 6500,
  leastBill: 0,
  tax: 8250,
  taxName: 'Sales tax',
  items: [
    { code: 'key-blank', kind: 'part', title: 'Key blank', price: 2450 },
    { code: 'learn-key', kind: 'labor', title: 'Learn a key', minutes: 20 },
    { code: 'key-job', kind: 'labor', title: 'Key cut and learned', minutes: 45, price: 12000 },
    { code: 'bench-read', kind: 'outside', title: 'ECM read on the bench', price: 18000 },
  ],
  ...more,
});

describe('amounts', () => {
  it.each<[string, Decimals, Amount]>([
    ['84', 2, 8400],
    ['84.5', 2, 8450],
    [' 84.50 ', 2, 8450],
    ['1,250.00', 2, 125000],
    ['0', 2, 0],
    ['0.01', 2, 1],
    ['84', 0, 84],
    ['1.234', 3, 1234],
    ['10000000', 2, 1_000_000_000],
  ])('reads %s with %d places', (text, decimals, amount) => expect(readAmount(text, decimals)).toEqual({ ok: true, value: amount }));

  it.each<[string, Decimals, string]>([
    ['', 2, 'Nothing is typed here. Type an amount, such as 84.50.'],
    ['a lot', 2, 'You typed "a lot". Type an amount, such as 84.50.'],
    ['-5', 2, 'You typed "-5". Type an amount, such as 84.50.'],
    ['12,50', 2, 'You typed "12,50". Type an amount, such as 84.50.'],
    ['1.005', 2, 'You typed "1.005". This currency has 2 decimal places. Type no more.'],
    ['84.5', 0, 'You typed "84.5". This currency has 0 decimal places. Type no more.'],
    ['10000000.01', 2, 'You typed "10000000.01". No price of a shop is that high. Is the decimal point missing?'],
    ['1e9', 0, 'You typed "1e9". Type an amount, such as 84.'],
  ])('refuses "%s" with %d places', (text, decimals, message) =>
    expect(readAmount(text, decimals)).toMatchObject({ ok: false, problems: [{ message }] }),
  );

  it.each<[Amount, Decimals, string, string]>([
    [125000, 2, '$', '$1,250.00'],
    [125000, 2, 'cr', '1,250.00 cr'],
    [5, 2, '€', '€0.05'],
    [1234567, 0, '', '1,234,567'],
    [-8450, 2, '$', '−$84.50'],
    [1234567, 3, 'cr', '1,234.567 cr'],
  ])('%d with %d places in "%s" is %s', (amount, decimals, currency, text) => expect(formatAmount(amount, decimals, currency)).toBe(text));

  // Half up, away from zero: both sides of each half.
  it.each([
    [1, 1, 2, 1],
    [1, 1, 3, 0],
    [5, 1, 2, 3],
    [-5, 1, 2, -3],
    [-1, 1, 3, 0],
    [999, 1, 1000, 1],
    [499, 1, 1000, 0],
    [500, 1, 1000, 1],
    [8400, 6, 60, 840],
  ])('%d × %d / %d is %d', (amount, part, whole, is) => expect(shareOf(amount, part, whole)).toBe(is));

  it('written and read again is the same, in 2,000 seeded amounts', () => {
    const draw = generator(11);
    for (let i = 0; i < 2000; i += 1) {
      const decimals = Math.floor(draw() * 4) as Decimals;
      const amount = Math.floor(draw() * 1e9);
      expect(readAmount(amountText(amount, decimals), decimals)).toEqual({ ok: true, value: amount });
      expect(readAmount(formatAmount(amount, decimals, ''), decimals)).toEqual({ ok: true, value: amount });
    }
  });

  it.each<[string, number | null]>([
    ['8.25', 8250],
    ['8.25 %', 8250],
    ['0', 0],
    ['100', 100_000],
    ['7.125', 7125],
    ['100.001', null],
    ['7.1255', null],
    ['-1', null],
    ['', null],
  ])('a tax of "%s"', (text, tax) => {
    const read = readTax(text);
    expect(read.ok ? read.value : null).toBe(tax);
    if (read.ok) expect(readTax(taxText(read.value))).toEqual(read);
  });
});

describe('the items of a book', () => {
  it('are written as a file and read again', () => {
    const items = [...book().items, { code: 'odd', kind: 'part' as const, title: 'Cable, 3 ft "long"; black', price: 1 }];
    expect(parseItems(itemsCsv({ items, decimals: 2 }), 2)).toEqual({ ok: true, value: items });
    expect(parseItems('', 2)).toEqual({ ok: true, value: [] });
  });

  const csv = (...rows: string[]) => ['kind,code,title,minutes,price', ...rows].join('\n');
  it.each<[string, string, string]>([
    ['kind,code\npart,x', 'line 1', 'Begin with the header kind,code,title,minutes,price.'],
    [csv('part,x,X,,"1'), '', 'A quotation mark is never closed. Close it or remove it.'],
    [csv('part,x,X,1'), 'line 2', 'This line has 4 cells, not 5. Write kind,code,title,minutes,price.'],
    [csv('labour,x,X,30,'), 'line 2, kind', 'You typed "labour". Use one of: labor, part, outside.'],
    [csv('part,Key blank,X,,1'), 'line 2, code', 'You typed "Key blank". Use small letters, digits and hyphens, such as key-blank.'],
    [csv('part,x,X,,1', 'part,x,Y,,2'), 'line 3, code', '"x" is in line 2 already. Give each its own.'],
    [csv('part,x,,,1'), 'line 2, title', 'Write what it is, in 120 characters or fewer.'],
    [csv('part,x,X,30,1'), 'line 2, minutes', 'Only labor has minutes. Leave this empty.'],
    [csv('labor,x,X,0.5,'), 'line 2, minutes', 'You typed "0.5". Type whole minutes, such as 30.'],
    [csv('labor,x,X,0,'), 'line 2, minutes', 'You typed "0". Type whole minutes, such as 30.'],
    [csv('labor,x,X,,'), 'line 2, price', 'Labor needs minutes or a price. Type one of them.'],
    [csv('outside,x,X,,'), 'line 2, price', 'The price is missing. Type it.'],
    [csv('part,x,X,,1.005'), 'line 2, price', 'You typed "1.005". This currency has 2 decimal places. Type no more.'],
    [csv(...Array.from({ length: 2001 }, (_, i) => `part,x${i},X,,1`)), '', '2001 items are too many. Give at most 2000.'],
  ])('refuses %j', (text, path, message) => expect(parseItems(text, 2)).toMatchObject({ ok: false, problems: [{ path, message }] }));
});

describe('the version in force', () => {
  const versions = [
    { version: 1, from: 100 },
    { version: 2, from: 300 },
    { version: 3, from: 200 },
    { version: 4, from: 300 },
  ];
  it.each([
    [99, undefined],
    [100, 1],
    [199, 1],
    [200, 3],
    [299, 3],
    [300, 4],
  ])('at %d', (at, version) => expect(bookAt(versions, at)?.version).toBe(version));
});

describe('a bill', () => {
  it.each([
    [0, 0],
    [-1, 0],
    [0.1, 30],
    [30, 30],
    [30.01, 36],
    [36, 36],
    [37, 42],
  ])('%d minutes are billed as %d', (minutes, billed) => expect(billedMinutes(minutes, { stepMin: 6, leastMin: 30 })).toBe(billed));

  it('puts work together before it is rounded, and says each line', () => {
    const bill = billOf(book(), [
      { kind: 'work', title: 'Diagnosis', minutes: 31 },
      { kind: 'work', title: 'Report', minutes: 4 },
      { kind: 'item', code: 'key-blank', count: 2 },
      { kind: 'item', code: 'learn-key', count: 2 },
      { kind: 'item', code: 'key-job', count: 1 },
      { kind: 'callOut' },
    ]);
    expect(bill.lines).toEqual([
      { title: 'Work: Diagnosis, Report', minutes: 36, count: 1, amount: 5040 },
      { title: 'Key blank', minutes: null, count: 2, amount: 4900 },
      { title: 'Learn a key', minutes: 40, count: 2, amount: 5600 },
      { title: 'Key cut and learned', minutes: null, count: 1, amount: 12000 },
      { title: 'Call-out', minutes: null, count: 1, amount: 6500 },
    ]);
    // 34,040 and 8.25 %: 2808.3 becomes 2808.
    expect([bill.sum, bill.tax, bill.total]).toEqual([34040, 2808, 36848]);
  });

  it('is never less than the least bill, which is a line of its own; nothing costs nothing', () => {
    const least = book({ leastBill: 5000, tax: 0 });
    expect(billOf(least, [{ kind: 'item', code: 'key-blank', count: 1 }]).lines.at(-1)).toEqual({
      title: 'Up to the minimum bill',
      minutes: null,
      count: 1,
      amount: 2550,
    });
    expect(billOf(least, [{ kind: 'item', code: 'key-job', count: 1 }]).lines).toHaveLength(1);
    expect(billOf(least, [])).toEqual({ lines: [], sum: 0, tax: 0, total: 0 });
    expect(billOf(book({ callOut: 0 }), [{ kind: 'callOut' }]).lines).toEqual([]);
  });

  it('knows only what is in its book', () => {
    expect(() => billOf(book(), [{ kind: 'item', code: 'gold', count: 1 }])).toThrow(RangeError);
    expect(() => billOf(book(), [{ kind: 'item', code: 'key-blank', count: 0 }])).toThrow(RangeError);
    expect(() => billOf(book(), [{ kind: 'priced', title: 'x', amount: 0.5 }])).toThrow(RangeError);
    expect(() => billOf(book(), [{ kind: 'priced', title: 'x', amount: -1 }])).toThrow(RangeError);
  });

  it('of 10,000 seeded books is the sum of its lines, against whole numbers written out', () => {
    const draw = generator(2026);
    const whole = (most: number) => Math.floor(draw() * (most + 1));
    const wrong: unknown[] = [];
    for (let round = 0; round < 10_000; round += 1) {
      const items = Array.from({ length: 1 + whole(4) }, (_, i) =>
        draw() < 0.5
          ? { code: `p${i}`, kind: 'part' as const, title: `P ${i}`, price: whole(1_000_000) }
          : { code: `l${i}`, kind: 'labor' as const, title: `L ${i}`, minutes: 1 + whole(500) },
      );
      const b = book({
        rate: whole(100_000),
        stepMin: 1 + whole(30),
        leastMin: whole(60),
        callOut: whole(20_000),
        leastBill: whole(50_000),
        tax: whole(30_000),
        items,
      });
      const entries: BillEntry[] = [
        ...items.filter(() => draw() < 0.7).map((i): BillEntry => ({ kind: 'item', code: i.code, count: 1 + whole(5) })),
        ...(draw() < 0.7 ? [{ kind: 'work' as const, title: 'Diagnosis', minutes: whole(600) / 4 }] : []),
        ...(draw() < 0.3 ? [{ kind: 'callOut' as const }] : []),
        ...(draw() < 0.3 ? [{ kind: 'priced' as const, title: 'Estimated parts', amount: whole(90_000) }] : []),
      ];
      const bill = billOf(b, entries);
      // Written out in the smallest unit, with long division in decimal digits in place of a product of big integers.
      const half = (n: number, d: number) => Math.floor((2 * n + d) / (2 * d));
      let expected = 0;
      for (const e of entries) {
        if (e.kind === 'callOut') expected += b.callOut;
        if (e.kind === 'priced') expected += e.amount;
        if (e.kind === 'item') {
          const item = items.find((i) => i.code === e.code)!;
          expected += e.count * (item.kind === 'part' ? item.price : half(b.rate * item.minutes, 60));
        }
        if (e.kind === 'work' && e.minutes > 0) {
          let billed = 0;
          while (billed < e.minutes) billed += b.stepMin;
          expected += half(b.rate * Math.max(billed, b.leastMin), 60);
        }
      }
      if (bill.lines.length > 0) expected = Math.max(expected, b.leastBill);
      const right =
        bill.sum === expected &&
        bill.lines.reduce((s, l) => s + l.amount, 0) === bill.sum &&
        bill.tax === half(expected * b.tax, 100_000) &&
        bill.total === bill.sum + bill.tax &&
        [bill.sum, bill.tax, bill.total].every(Number.isSafeInteger);
      if (!right) wrong.push({ round, bill, expected });
    }
    expect(wrong).toEqual([]);
  });
});
