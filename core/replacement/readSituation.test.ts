import { replacementOf } from './content.testing';
import { readAtHand, readReplaced } from './readSituation';

const content = replacementOf(
  {
    engine: { title: 'ECM', holds: { identity: {} }, otherwise: 'Send it out.' },
    immobilizer: { same: 'engine' },
    reader: { title: 'Coil', plain: 'Nothing.' },
  },
  [{ id: 'program', gives: ['engine.identity'], tools: ['programming tool'] }],
);
const firstOf = (result: ReturnType<typeof readReplaced> | ReturnType<typeof readAtHand>) =>
  result.ok ? '' : `${result.problems[0]!.path}: ${result.problems[0]!.message}`;

test('what was replaced', () => {
  expect(readReplaced(' engine = new , key=repaired,')).toEqual({ ok: true, value: { engine: 'new', key: 'repaired' } });
  expect(firstOf(readReplaced('radio=new'))).toBe(
    'radio=new: "radio" is not a part that can be planned. Use one of: engine, immobilizer, body, cluster, lock, steering, reader, key.',
  );
  expect(firstOf(readReplaced('engine'))).toBe('engine: Say where the part comes from: engine=one of new, donor, remanufactured, repaired.');
  expect(firstOf(readReplaced('engine=old'))).toBe('engine=old: Say where the part comes from: engine=one of new, donor, remanufactured, repaired.');
  expect(firstOf(readReplaced('engine=new,engine=donor'))).toBe('engine=donor: "engine" appears twice. Leave one of them out.');
  expect(firstOf(readReplaced(' , '))).toBe(': Nothing is replaced. Write a part and where the new one comes from, such as engine=new.');
  expect(firstOf(readReplaced('__proto__=new'))).toContain('"__proto__" is not a part');
});

test('what is at hand', () => {
  expect(readAtHand('scan tool, Programming-Tool, learned=2, main=1, immobilizer.identity, engine.saved', content)).toEqual({
    ok: true,
    value: {
      tools: ['scan tool', 'programming tool'],
      keys: { learned: 2, main: 1, valet: 0, master: 0 },
      facts: ['engine.identity', 'engine.saved'],
    },
  });
  // Nobody spoke of keys.
  expect(readAtHand('scan tool', content)).toMatchObject({ ok: true, value: { keys: { learned: 2, main: 1, valet: 0, master: 1 } } });
  expect(readAtHand('', content)).toMatchObject({ ok: true, value: { tools: [], facts: [] } });
  expect(firstOf(readAtHand('hammer', content))).toBe(
    'hammer: "hammer" is not a tool that is needed here. Use one of: scan tool, programming tool; keys as learned=2; what is there as engine.identity.',
  );
  expect(firstOf(readAtHand('spare=1', content))).toBe('spare=1: "spare" is not a role of keys. Use one of: learned, main, valet, master.');
  expect(firstOf(readAtHand('learned=-1', content))).toBe('learned=-1: Write learned= and a whole number from 0 to 99.');
  expect(firstOf(readAtHand('learned=100', content))).toBe('learned=100: Write learned= and a whole number from 0 to 99.');
  expect(readAtHand('learned=99', content).ok).toBe(true);
  for (const entry of ['engine.soul', 'reader.identity', 'radio.saved'])
    expect(firstOf(readAtHand(entry, content))).toBe(
      `${entry}: "${entry}" is nothing this system type holds. Write a part and an item, such as engine.identity, or engine.saved, engine.installed.`,
    );
});
