import { ActBox, type ActPost, type ActSent } from './actBox';
import type { KeptAct } from './acts';
import { mayArriveLater, mayWait } from './later';
import { type PageRights, pages } from '../../server/acts/rights';

/** A disk, a wire and a server that does each act once. */
function world() {
  const disk: KeptAct[] = [];
  const done: { id: string; by: string; at: number }[] = [];
  let order = 0;
  let wire: 'up' | 'down' | 'answerLost' = 'up';
  let signedIn: string | null = 'lead';
  const post: ActPost = {
    async send(act): Promise<ActSent> {
      if (wire === 'down') throw new TypeError('Failed to fetch');
      if (!signedIn) return { status: 'signedOut' };
      if (act.fields.outcome === 'purple')
        return { status: 'refused', problems: [{ code: 'unknownOutcome', path: 'outcome', message: 'No such result.' }] };
      if (!done.some((d) => d.id === act.id)) done.push({ id: act.id, by: signedIn, at: act.at });
      if (wire === 'answerLost') throw new TypeError('Failed to fetch');
      return { status: 'accepted', at: act.address };
    },
    all: async () => [...disk],
    async change(leave, come) {
      for (const gone of leave)
        disk.splice(
          disk.findIndex((w) => w.order === gone),
          1,
        );
      for (const one of come) disk.push({ ...one, order: ++order });
      return [...disk];
    },
    alone: (work) => work(),
    tell: () => {},
  };
  return { disk, done, open: () => new ActBox(post), wire: (to: typeof wire) => (wire = to), signIn: (who: string | null) => (signedIn = who) };
}
const act = (id: string, at: number, subject = id, outcome = 'holds'): Omit<KeptAct, 'order' | 'by'> => ({
  id,
  at,
  address: '/cases/7',
  page: '/cases/7/triage',
  fields: { intent: 'evidence', test: 'battery', outcome },
  subject,
  say: `answer ${id}`,
});
const ids = (list: readonly { id: string }[]) => list.map((a) => a.id);

test('without a wire acts lie on the disk; with one they arrive in their order, once, with their moments', async () => {
  const w = world();
  w.wire('down');
  const box = w.open();
  await box.start('lead');
  await box.add(act('a', 1000));
  await box.add(act('b', 2000));
  expect([ids(box.here().waiting), box.here().unsent, ids(w.disk)]).toEqual([['a', 'b'], 'noAnswer', ['a', 'b']]);
  // A new start of the browser: what lay there is taken up. The answer to the first one is lost.
  w.wire('answerLost');
  const again = w.open();
  await again.start('lead');
  expect([ids(again.here().waiting), w.done]).toEqual([['a', 'b'], [{ id: 'a', by: 'lead', at: 1000 }]]);
  w.wire('up');
  await again.deliver();
  expect(w.done).toEqual([
    { id: 'a', by: 'lead', at: 1000 },
    { id: 'b', by: 'lead', at: 2000 },
  ]);
  expect([again.here().waiting, ids(again.here().arrived), w.disk]).toEqual([[], ['a', 'b'], []]);
  again.read();
  expect(again.here().arrived).toEqual([]);
});

test('a later act on the same subject takes the place of one that waits, and of no other', async () => {
  const w = world();
  w.wire('down');
  const box = w.open();
  await box.start('lead');
  await box.add(act('a', 1000, 'battery'));
  await box.add(act('b', 2000, 'light'));
  await box.add(act('c', 3000, 'battery'));
  expect(ids(box.here().waiting)).toEqual(['b', 'c']);
  expect(ids(w.disk)).toEqual(['b', 'c']);
});

test('what is refused is told with its content, holds nothing up, and stays until it is discarded, also through a new start', async () => {
  const w = world();
  w.wire('down');
  const box = w.open();
  await box.start('lead');
  await box.add(act('a', 1000, 'a', 'purple'));
  await box.add(act('b', 2000));
  w.wire('up');
  await box.deliver();
  expect([ids(box.here().refused), ids(box.here().arrived), box.here().unsent]).toEqual([['a'], ['b'], null]);
  const again = w.open();
  await again.start('lead');
  expect(again.here().refused).toMatchObject([{ id: 'a', fields: { outcome: 'purple' }, problems: [{ message: 'No such result.' }] }]);
  await again.discard('a');
  expect([again.here().refused, w.disk]).toEqual([[], []]);
});

test('one that waits can be taken away', async () => {
  const w = world();
  w.wire('down');
  const box = w.open();
  await box.start('lead');
  await box.add(act('a', 1000));
  await box.discard('a');
  w.wire('up');
  await box.deliver();
  expect([w.done, w.disk]).toEqual([[], []]);
});

test('acts are sent in nobody else’s name, and wait while nobody is signed in', async () => {
  const w = world();
  w.wire('down');
  const box = w.open();
  await box.start('lead');
  await box.add(act('a', 1000));
  w.wire('up');
  w.signIn(null);
  await box.deliver();
  expect([w.done, box.here().unsent]).toEqual([[], 'signedOut']);
  w.signIn('other');
  const others = w.open();
  await others.start('other');
  await others.add(act('b', 2000));
  expect([w.done, ids(others.here().waiting), others.here().unsent]).toEqual([[{ id: 'b', by: 'other', at: 2000 }], ['a'], 'someoneElse']);
  w.signIn('lead');
  const back = w.open();
  await back.start('lead');
  expect(ids(w.done)).toEqual(['b', 'a']);
});

test('what may arrive later is named alike for pages and for the server, and each of it is an act of the table of rights', () => {
  const all = Object.entries<PageRights>(pages).flatMap(([page, { acts = {} }]) =>
    Object.keys(acts).flatMap((intent) => (mayArriveLater(page, intent) ? [`${page} ${intent}`] : [])),
  );
  expect(all).toEqual([
    '/cases/new open',
    '/cases/:caseId evidence',
    '/cases/:caseId/triage changed',
    '/calls/new keep',
    '/calls/:callId keep',
    '/bench/lamp add',
    '/bench/ladder measure',
  ]);
  for (const [address, intent, may] of [
    ['/cases/12', 'evidence', true],
    ['/cases/12?test=battery', 'evidence', true],
    ['/cases/12', 'authority', false],
    ['/cases/12/vault', 'seal', false],
    ['/cases/new', 'open', true],
    ['/bench/ladder?case=12', 'measure', true],
    ['/calls/12', 'discard', false],
  ] as const)
    expect([address, intent, mayWait(address, intent)]).toEqual([address, intent, may]);
});
