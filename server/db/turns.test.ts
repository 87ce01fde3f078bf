import { letOthersIn } from './turns';

/** A client that notes what it is asked, in the order in which it comes. */
function noting() {
  const asked: string[] = [];
  const client = { query: async (text: string) => void asked.push(text) };
  let at = 0;
  letOthersIn(client as never, () => at);
  return { asked, client, pass: (ms: number) => (at += ms) };
}

// Found by the browser tests: a session that was read after it was written was read as before, and kept so.
test('a query that is asked while another one lets others in does not overtake a third that was asked before it', async () => {
  const { asked, client, pass } = noting();
  pass(20);
  const first = client.query('first').then(() => client.query('read'));
  const write = client.query('write');
  await Promise.all([first, write]);
  expect(asked).toEqual(['first', 'write', 'read']);
});

test('they stay in their order, however long they take', async () => {
  const { asked, client, pass } = noting();
  const all = Array.from({ length: 200 }, (_, i) => {
    pass(i % 7);
    return client.query(String(i));
  });
  await Promise.all(all);
  expect(asked).toEqual(Array.from({ length: 200 }, (_, i) => String(i)));
});

test('others get a turn after a while, and not before', async () => {
  const { client, pass } = noting();
  let turns = 0;
  const other = () => void (turns += 1);
  setImmediate(other);
  await client.query('quick');
  expect(turns).toBe(0);
  pass(15);
  await client.query('late');
  expect(turns).toBe(1);
});

test('one that fails holds up nobody', async () => {
  const client = { query: async (text: string) => (text === 'bad' ? Promise.reject(new Error('refused')) : text) };
  letOthersIn(client as never);
  const bad = client.query('bad');
  const good = client.query('good');
  await expect(bad).rejects.toThrow('refused');
  await expect(good).resolves.toBe('good');
});
