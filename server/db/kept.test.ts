import { bay, person } from './schema';
import { Kept } from './kept';
import { Statements } from './statements';

describe('which statements may have changed a table', () => {
  test.each([
    ['insert into "bay" ("id") values ($1)', 1, 0],
    ['  UPDATE "bay" set "name" = $1', 1, 0],
    ['delete from "person" where "id" = $1', 0, 1],
    ['insert into "bay" ("id") values ($1) on conflict do update set "id" = $1', 1, 0],
    ['select "id", "updated_at" from "bay" order by "created_at"', 0, 0],
    ['select "id" from "bay" for update', 0, 0],
    ['select "id" from "bay" for no key update', 0, 0],
    ['select pg_notify($1, $2)', 0, 0],
    ['begin', 0, 0],
    ['with gone as (delete from "bay" returning "id") select * from gone', 1, 0],
    ['with "kept" as (insert into "bay" ("id") values ($1) returning "id") insert into "person" ("id") values ($2)', 1, 1],
    ['select "id" from "bay" inner join "person" on true for update of "bay"', 0, 0],
    ['truncate "bay"', 1, 1],
    ['alter table "person" add column "x" text', 1, 1],
  ])('%s', (query, ofBays, ofPeople) => {
    const statements = new Statements();
    statements.logQuery(query);
    expect([statements.changes(['bay']), statements.changes(['person']), statements.asked]).toEqual([ofBays, ofPeople, 1]);
  });
});

describe('what is kept', () => {
  const opened = () => {
    const statements = new Statements();
    let loads = 0;
    const kept = new Kept(statements);
    const read = (name = 'bays') => kept.read(name, [bay], () => Promise.resolve((loads += 1)));
    return { statements, kept, read, loads: () => loads };
  };
  test('is read again when its table was written to, and not when another was', async () => {
    const { statements, read } = opened();
    expect([await read(), await read()]).toEqual([1, 1]);
    statements.logQuery('update "person" set "name" = $1');
    expect(await read()).toBe(1);
    statements.logQuery('update "bay" set "name" = $1');
    expect([await read(), await read(), await read('other')]).toEqual([2, 2, 3]);
  });
  test('a hundred at once read it once', async () => {
    const { read, loads } = opened();
    expect(new Set(await Promise.all(Array.from({ length: 100 }, () => read())))).toEqual(new Set([1]));
    expect(loads()).toBe(1);
  });
  test('a query, which begins anew for everybody who waits for it, is asked once', async () => {
    const { kept } = opened();
    let asked = 0;
    const query: PromiseLike<number> = { then: (done) => Promise.resolve((asked += 1)).then(done) };
    for (let i = 0; i < 3; i += 1) expect(await kept.read('query', [bay], () => query)).toBe(1);
    expect(asked).toBe(1);
  });
  test('what is written while it is read makes it old at once', async () => {
    const { statements, kept } = opened();
    const load = (value: string) => async () => {
      statements.logQuery('update "bay" set "name" = $1');
      await Promise.resolve();
      return value;
    };
    expect(await kept.read('x', [bay], load('before'))).toBe('before');
    expect(await kept.read('x', [bay], load('after'))).toBe('after');
  });
  test('what could not be read is read again', async () => {
    const { kept, read } = opened();
    await expect(kept.read('bays', [bay], () => Promise.reject(new Error('gone')))).rejects.toThrow('gone');
    expect(await read()).toBe(1);
  });
  test('where others write too, it is read each time', async () => {
    let loads = 0;
    const kept = new Kept(null);
    const read = () => kept.read('x', [person], () => Promise.resolve((loads += 1)));
    expect([await read(), await read()]).toEqual([1, 2]);
    expect(kept.changes([person])).toBeNull();
  });
  test('compared, it ends in an error where it is not what is stored', async () => {
    const kept = new Kept(new Statements(), true);
    let stored = 'a';
    const read = () => kept.read('x', [person], () => Promise.resolve(stored));
    expect([await read(), await read()]).toEqual(['a', 'a']);
    stored = 'b';
    await expect(read()).rejects.toThrow('What is kept of "x" is not what is stored');
  });
});
