import { type KeyHere, keysRefused, keysWarned, type KeysOfRun, proposedKeys } from '.';

const key = (tag: string, role = 'user', isNew = false): KeyHere => ({ tag, role, isNew });
const three = [key('A'), key('B', 'main'), key('C')];
const withNew = [key('A', 'main'), key('B', 'user', true), key('C')];

test.each<[string, KeysOfRun | undefined, KeyHere[], string | undefined, string[]]>([
  ['every key, the main one first', undefined, three, undefined, ['B', 'A', 'C']],
  ['every key, whichever is in question', 'all', three, 'C', ['B', 'A', 'C']],
  ['the one in question', 'one', three, 'C', ['C']],
  ['the only new one', 'one', withNew, undefined, ['B']],
  ['the one in question before a new one', 'one', withNew, 'C', ['C']],
  ['the main one where nobody knows', 'one', three, undefined, ['B']],
  ['one that is not here is no answer', 'one', three, 'Z', ['B']],
  ['one learned, then the new one', { learned: 1 }, withNew, undefined, ['A', 'B']],
  ['two learned, then the new one', { learned: 2 }, withNew, undefined, ['A', 'C', 'B']],
  ['the one in question is the new one', { learned: 1 }, three, 'A', ['B', 'A']],
  ['more than one new', { learned: 1 }, [key('A', 'main'), key('B', 'user', true), key('C', 'user', true)], undefined, ['A', 'B', 'C']],
  ['nobody said which is new: the last', { learned: 1 }, three, undefined, ['B', 'C']],
  ['a single key', { learned: 1 }, [key('A')], undefined, ['A']],
  ['no key', 'one', [], undefined, []],
])('proposed: %s', (_, asked, here, inQuestion, tags) => expect(proposedKeys(asked, here, inQuestion)).toEqual(tags));

test.each<[string, KeysOfRun | undefined, string[], string | null]>([
  ['none', 'all', [], 'No key is chosen. Choose at least one.'],
  ['one that is not here', 'all', ['A', 'Z'], 'Tag Z is not here. Choose among the keys that are here.'],
  ['two where one is asked for', 'one', ['A', 'B'], 'This is done with one key at a time. Choose one, and start it again for the next.'],
  ['only the new one', { learned: 1 }, ['B'], 'This takes a learned key and the new one. Choose both, the learned one first.'],
  ['a learned one and the new one', { learned: 1 }, ['A', 'B'], null],
  ['two of three, in any order', undefined, ['C', 'A'], null],
])('refused: %s', (_, asked, chosen, why) => expect(keysRefused(asked, withNew, chosen)).toBe(why));

test.each<[string, KeysOfRun | undefined, string[], string[]]>([
  ['the main one first', 'all', ['A', 'B', 'C'], []],
  ['the main one later', 'all', ['C', 'A'], ['Tag A is the main key and does not stand first.']],
  ['without the main one', 'all', ['C', 'B'], []],
  ['the new one first', { learned: 1 }, ['B', 'A'], ['Tag B is new and stands first. A learned key comes first.']],
  ['the one it is about', 'one', ['B'], []],
  ['none', 'all', [], []],
])('warned: %s', (_, asked, chosen, said) => expect(keysWarned(asked, withNew, chosen)).toEqual(said));
