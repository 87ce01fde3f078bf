import { generator } from '../../units';
import { cases, type DraftCase } from './cases.testing';
import { draftOf } from './draft';
import { putAway } from './putAway.testing';
import { readNumber } from './quantities';

const all: [string, DraftCase][] = [
  ...putAway.map((c) => [`put away: ${c.name}`, c] as [string, DraftCase]),
  ...cases.map((c) => [c.name, c] as [string, DraftCase]),
];
test.each(all)('%s', (_name, { text, title, steps, unsure }) => {
  const draft = draftOf(text);
  expect(draft.title).toBe(title);
  expect(draft.steps.map(({ text: _, ...rest }) => rest)).toEqual(steps);
  expect(draft.unsure).toEqual(unsure ?? []);
});

test.each([
  ['7', 7],
  ['1.5', 1.5],
  ['1,5', 1.5],
  ['1/2', 0.5],
  ['2 1/2', 2.5],
  ['nineteen', 19],
  ['ninety', 90],
  ['twenty five', 25],
  ['ninety-nine', 99],
])('the number %s', (said, value) => expect(readNumber(said)).toBe(value));

test('sentences put together at random: each stands once, in its order, with its own figures', () => {
  const random = generator(20261128);
  const known: [string, object][] = [
    ['Turn the key off.', { kind: 'do' }],
    ['Wait twelve seconds.', { kind: 'wait', minS: 12 }],
    ['Wait 9 to 11 minutes.', { kind: 'wait', minS: 540, maxS: 660 }],
    ['Hold the button for 1/2 minute.', { kind: 'hold', minS: 30 }],
    ['Press it six times within nine seconds.', { kind: 'count', n: 6, withinS: 9 }],
    ['Start the engine within 20 s.', { kind: 'limit', withinS: 20 }],
    ['The light goes out.', { kind: 'observe' }],
    ['Never crank during this time.', { kind: 'caution' }],
    ['Repeat the procedure two more times.', { kind: 'repeat', n: 3 }],
  ];
  for (let i = 0; i < 300; i += 1) {
    const chosen = Array.from({ length: 1 + Math.floor(random() * 12) }, () => known[Math.floor(random() * known.length)]!);
    const breaks = chosen.map(() => random() < 0.4);
    const text = chosen.map(([s], k) => `${breaks[k] ? '\n' : k > 0 ? ' ' : ''}${s}`).join('');
    let line = 1;
    const expected = chosen.map(([said, rest], k) => ({ ...rest, text: said, line: (line += breaks[k] ? 1 : 0) }));
    const draft = draftOf(text);
    expect(draft).toEqual({ steps: expected.map((e) => e), unsure: [] });
  }
});

test.each([
  ['Repeat steps 2 to 5 one more time.', 2, []],
  ['Repeat the cycle once more.', 2, []],
  ['Perform this 1 additional time.', 2, []],
  ['Repeat it.', undefined, [1]],
])('%s', (text, n, unsure) => {
  const draft = draftOf(text);
  expect(draft).toMatchObject({ steps: [{ kind: 'repeat', ...(n === undefined ? {} : { n }) }], unsure });
  expect(draft.steps[0]!.n).toBe(n);
});

test('nothing, and only blank lines, are a draft without steps', () => {
  for (const text of ['', '\n\n  \n']) expect(draftOf(text)).toEqual({ steps: [], unsure: [] });
});
