import { DrizzleQueryError } from 'drizzle-orm/errors';
import { sql } from 'drizzle-orm';
import { Harness } from '../services/harness.testing';
import { toldAddress, toldOf } from './log';

const secret = 'Theodwin Quaverley';

test('a failed query is told by its statement and the database’s reason, without what was sent', async () => {
  const harness = await Harness.open();
  try {
    const failed = await harness.db.execute(sql`insert into customer (name, phone) values (${secret}, ${null})`).catch((error: unknown) => error);
    expect(failed).toBeInstanceOf(DrizzleQueryError);
    const told = JSON.stringify(toldOf(failed));
    expect(told).not.toContain('Quaverley');
    expect(told).toContain('insert into customer (name, phone) values ($1, $2)');
    expect(toldOf(failed)).toMatchObject({ type: 'query', code: '23502', table: 'customer' });
    expect(told.length).toBeLessThan(4_000);
    const whole = JSON.stringify(toldOf(new DrizzleQueryError('select $1', ['x'.repeat(3_000_000)], new Error('x'.repeat(3_000_000)))));
    expect(whole.length).toBeLessThan(4_000);
  } finally {
    await harness.close();
  }
});

test('another error is told by its kind and the first line of its message', () => {
  expect(toldOf(new RangeError(`one line\n${secret}`))).toMatchObject({ type: 'RangeError', message: 'one line' });
  expect(JSON.stringify(toldOf(new RangeError(`one line\n${secret}`)))).not.toContain('Quaverley');
  expect(toldOf('text')).toEqual({ type: 'string' });
});

test.each([
  ['/find?q=quaverley', '/find'],
  ['/join/AbC_123-x', '/join/…'],
  ['/take/AbC_123-x', '/take/…'],
  ['/take/AbC_123-x/now', '/take/…/now'],
  ['/join/AbC_123-x.data?a=b', '/join/…'],
  ['/cases/4/report', '/cases/4/report'],
])('%s stands in the log as %s', (url, told) => expect(toldAddress(url)).toBe(told));
