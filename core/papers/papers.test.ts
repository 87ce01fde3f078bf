import { type PaperFacts, papersOf, writePapers } from '.';

const key = (tag: string, more: Partial<PaperFacts['keys'][number]> = {}) => ({
  tag,
  here: true,
  isNew: false,
  role: 'unknown',
  lost: false,
  cellChanged: false,
  ...more,
});
const facts = (more: Partial<PaperFacts> = {}): PaperFacts => ({
  concern: 'It does not start.',
  templates: { found: 'A ring reads the key. The cause of the no-start: $cause.', proven: 'Each key ($keys) started the engine.' },
  advice: ['No covers with foil.'],
  cause: { title: 'Antenna coil open', standing: 'proven' },
  tests: { count: 3, minutes: 12.4 },
  decisive: [{ what: 'Field at the coil', result: 'No field' }],
  fixes: ['Repair the wire.'],
  runs: [],
  parts: [],
  declined: [],
  keys: [key('A'), key('B')],
  strange: 0,
  verified: true,
  codesLeft: [],
  cover: false,
  ...more,
});

test('what was found and done, from the record and in the words of the system type', () => {
  expect(writePapers(facts())).toEqual({
    found: [
      'You told us: “It does not start.”',
      'A ring reads the key. The cause of the no-start: antenna coil open (proven).',
      'Field at the coil: no field.',
    ],
    done: ['3 tests made, 12 min of diagnosis.', 'Fixed: Repair the wire.', 'Each key (A, B) started the engine.'],
    notDone: ['Nothing that we know of was left undone.'],
    advise: ['No covers with foil.', 'If it fails again, note what the security light does, and call us before you try a third time.'],
  });
});

test.each<[string, Partial<PaperFacts>, 'found' | 'done' | 'notDone' | 'advise', string]>([
  [
    'likely',
    { cause: { title: 'Coil', standing: 'likely' } },
    'found',
    'A ring reads the key. The cause of the no-start: coil (likely, not proven).',
  ],
  ['without words of the type', { templates: null }, 'found', 'The cause of the no-start: antenna coil open (proven).'],
  ['unknown', { cause: 'unknown' }, 'found', 'The cause of the no-start is not known. What was seen is listed in the file copy.'],
  ['elsewhere', { cause: 'elsewhere' }, 'found', 'The cause is outside what this shop could check.'],
  ['nothing done', { fixes: [] }, 'done', 'No repair was made.'],
  ['one test', { tests: { count: 1, minutes: 2 } }, 'done', 'One test made, 2 min of diagnosis.'],
  ['a part', { parts: [{ title: 'ECM', origin: 'new' }] }, 'done', 'Replaced: ECM (new).'],
  ['a run', { runs: [{ title: 'Relearn', finished: true }] }, 'done', 'Relearn: done.'],
  ['a run that was stopped', { runs: [{ title: 'Relearn', finished: false }] }, 'notDone', 'Relearn: stopped before its end.'],
  ['a new key', { keys: [key('A'), key('C', { isNew: true })] }, 'done', 'New keys: C.'],
  ['declined', { declined: ['Two keys', 'A clone'] }, 'notDone', 'Offered and not wanted: “Two keys”, “A clone”.'],
  [
    'a key that was away',
    { keys: [key('A'), key('B', { here: false })] },
    'notDone',
    'Tag B was not here and was not tried. It may no longer start the car.',
  ],
  ['one key too many', { strange: 1 }, 'notDone', 'One more key is stored than was shown to us.'],
  ['two keys too many', { strange: 2 }, 'notDone', '2 more keys are stored than were shown to us.'],
  ['not tried', { verified: false }, 'notDone', 'Not every key was tried after the work.'],
  ['codes', { codesLeft: ['P0562', 'U0100-00'] }, 'notDone', 'Trouble codes left: P0562, U0100-00.'],
  ['one key', { keys: [key('A')] }, 'advise', 'Have a second key learned: losing the only one is the most expensive key job there is.'],
  [
    'a lost key',
    { keys: [key('A'), key('B', { here: false, lost: true })] },
    'advise',
    'Lost keys (B) may still start the car. Have them locked out.',
  ],
  [
    'a master',
    { keys: [key('A'), key('M', { role: 'master' })] },
    'advise',
    'Keep the master key in a safe; it goes with the vehicle when it is sold.',
  ],
  ['a cell', { keys: [key('A', { cellChanged: true }), key('B')] }, 'advise', 'Key batteries were changed (A); change them again in two years.'],
  ['a cover', { cover: true }, 'advise', 'Leave the cover or ornament off the key.'],
])('%s is said', (_what, more, section, sentence) => expect(writePapers(facts(more))[section]).toContain(sentence));

test('what is not proven is not said to be, and nothing is said of keys where none was tried', () => {
  const all = (more: Partial<PaperFacts>) =>
    Object.values(writePapers(facts(more)))
      .flat()
      .join(' ');
  expect(all({ cause: null })).not.toContain('cause');
  expect(all({ verified: false })).not.toContain('started the engine');
  expect(all({ keys: [] })).not.toMatch(/second key|not every key/i);
});

test('a part that a person wrote takes the place of what follows from the record; an empty one stays empty', () => {
  const papers = papersOf(facts(), { done: ['We fixed it.'], notDone: [] });
  expect(papers.done).toEqual({ lines: ['We fixed it.'], written: true });
  expect(papers.notDone).toEqual({ lines: [], written: true });
  expect(papers.found.written).toBe(false);
});
