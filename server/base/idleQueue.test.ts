import { IdleQueue } from './idleQueue';

/** Work that ends when it is told to. */
function piece() {
  let end!: (value: string) => void;
  let fail!: (error: Error) => void;
  let begun = false;
  const done = new Promise<string>((resolve, reject) => {
    end = resolve;
    fail = reject;
  });
  return { work: () => ((begun = true), done), end: (value: string) => end(value), fail: (error: Error) => fail(error), begun: () => begun };
}
const settled = () => new Promise((resolve) => setImmediate(resolve));

test('one piece after the other; the same name waits only once', async () => {
  const queue = new IdleQueue(() => true);
  const [a, b] = [piece(), piece()];
  const first = queue.ask('a', a.work);
  const second = queue.ask('b', b.work);
  expect(queue.ask('a', a.work)).toBeNull();
  expect(queue.ask('b', b.work)).toBeNull();
  expect([a.begun(), b.begun()]).toEqual([true, false]);
  a.end('A');
  expect(await first).toBe('A');
  await settled();
  expect(b.begun()).toBe(true);
  b.end('B');
  expect(await second).toBe('B');
  // Done is done: the name may be asked for again.
  await settled();
  expect(queue.ask('a', () => Promise.resolve('again'))).not.toBeNull();
});

test('whoever waits for an answer comes first', async () => {
  let free = false;
  const queue = new IdleQueue(() => free);
  const a = piece();
  void queue.ask('a', a.work);
  await settled();
  expect(a.begun()).toBe(false);
  free = true;
  queue.go();
  expect(a.begun()).toBe(true);
});

test('a piece that fails does not hold up the next', async () => {
  const queue = new IdleQueue(() => true);
  const [a, b] = [piece(), piece()];
  const first = queue.ask('a', a.work);
  void queue.ask('b', b.work);
  a.fail(new Error('gone'));
  await expect(first).rejects.toThrow('gone');
  await settled();
  expect(b.begun()).toBe(true);
});
