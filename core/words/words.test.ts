import { midSentence, oldWordsIn, sentencesOfContent } from '.';

describe('words that must not come back', () => {
  test.each([
    ['The guard refuses.', ['guard']],
    ['Be on guard against static.', []],
    ['Watch the lamp for ten seconds.', ['lamp']],
    ['Replace the engine module and its tyre.', ['engine module', 'tyre']],
    ['Fix the key, and the VIN agrees.', []],
    ['Hold it two metres away, the colour does not matter.', ['metres', 'colour']],
    ['It was authorised, not recognized.', ['authorised']],
    ['Exercise, advise and promise stay.', []],
    ['A bit of patience; 0.5 bit for a minute.', ['bit']],
    ['A year of a family car.', []],
    ['Type the passphrase.', ['passphrase']],
    ['Type the pass phrase.', ['pass phrase']],
    ['Type the password.', []],
    ['key has none', ['has none']],
    ['A key that has none of these.', []],
    ['Refused all the same', ['all the same']],
    ['They are all the same kind.', ['all the same']],
    ['2200 || 3900', [' || ']],
    ['The family of systems.', ['family']],
    ['Walk around the car, go round the car.', []],
    ['After the second round.', ['round']],
    ['Four hours, our tour.', []],
    ['The coil and the reader; no codes.', ['coil', 'reader', 'codes']],
    ['The antenna coil, the ignition coil, a key reader; clear trouble codes.', []],
    ['Box and ECM are paired, the button feed is in line with the relay.', ['paired', 'button feed', 'in line with']],
    ['The column moves; the steering column, the steering-column connector.', ['column']],
    ['The plug moved; plug it in, a spark plug.', ['The plug']],
    ['The ECM accepts the foreign key: there is no such key.', ['ECM accepts', 'no such', 'foreign']],
    ['Taken in on Monday.', ['Taken in']],
  ])('%s', (text, expected) => expect(oldWordsIn(text).map((f) => f.word)).toEqual(expected));
  test('each says what to write instead', () => expect(oldWordsIn('Cured.')).toEqual([{ word: 'Cured', say: 'fix, fixed' }]));
});

test('texts of content stand with their place; names, chances and conditions are none', () => {
  const document = {
    kind: 'family',
    id: 'ring',
    title: 'Antenna ring',
    chain: [{ id: 'supply', how: 'Cluster and  box\n share it.' }],
    tests: [
      { id: 'lamp', do: 'Turn on.', p: { default: { out: 1 } }, outcomes: { out: { say: 'Out', says: [{ link: 'reader', state: 'holds' }] } } },
    ],
    faults: [{ id: 'x', prove: { say: 'Ten starts.', how: 'starts' }, prior: 4 }],
  };
  expect(sentencesOfContent(document, 'f.yaml').map((s) => `${s.place}: ${s.text}`)).toEqual([
    'title: Antenna ring',
    'chain[0].how: Cluster and box share it.',
    'tests[0].do: Turn on.',
    'tests[0].outcomes.out.say: Out',
    'faults[0].prove.say: Ten starts.',
  ]);
});

test.each([
  ['Read the ECM', 'read the ECM'],
  ['ECM replaced', 'ECM replaced'],
  ['VIN and numbers', 'VIN and numbers'],
  ['A tag', 'a tag'],
  ['Tag B', 'tag B'],
  ['', ''],
])('“%s” within a sentence', (title, within) => expect(midSentence(title)).toBe(within));
