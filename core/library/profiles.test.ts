import { compareProfiles, isUnusual, searchEntries } from '.';
import { shipped } from '../../content/session.testing';

const family = shipped.families.get('transponder-dwell')!;
const gantry = shipped.profiles.get('tarn-gantry')!;

describe('two profiles side by side', () => {
  test('with itself nothing differs, and every number of the family has its line', () => {
    const rows = compareProfiles(family, gantry, gantry);
    expect(rows.map((r) => r.name)).toEqual(Object.keys(family.params));
    expect(rows.filter((r) => r.differs)).toEqual([]);
  });
  test('a number taken out becomes typical; the same value from another source does not differ', () => {
    const { dwell, ...others } = gantry.values;
    const [row] = compareProfiles(family, gantry, { ...gantry, values: others }).filter((r) => r.name === 'dwell');
    expect(row).toMatchObject({ differs: true, sides: [{ status: 'verified' }, { status: 'typical' }] });
    const elsewhere = { ...gantry, values: { ...others, dwell: { ...dwell!, source: 'another page' } } };
    expect(compareProfiles(family, gantry, elsewhere).filter((r) => r.differs)).toEqual([]);
  });
  test.each([
    ['at the lower end', 'min', 0, false],
    ['at the upper end', 'max', 0, false],
    ['below', 'min', -0.01, true],
    ['above', 'max', 0.01, true],
  ] as const)('%s of the usual range', (_what, end, more, expected) => {
    const param = family.params.dwell!;
    if (!('min' in param)) throw new Error('dwell is a number');
    expect(isUnusual(family, 'dwell', param[end] + more)).toBe(expected);
  });
  test('a choice and an unknown name are never unusual', () => {
    expect(isUnusual(family, 'cut', 'fuel')).toBe(false);
    expect(isUnusual(family, 'gone', 3)).toBe(false);
  });
});

describe('search', () => {
  const entries = [
    { title: 'Resistor-pellet key', texts: ['A pellet with two contacts.', 'The lamp goes out.'] },
    { title: 'Coded cylinder', texts: ['A plain key and a magnet.', 'No pellet anywhere.'] },
    { title: 'Lamp and pellet', texts: [] },
  ];
  const titles = (query: string) => searchEntries(entries, query).map((h) => h.entry.title);
  test.each([
    ['', []],
    ['  !? ', []],
    ['pellet', ['Lamp and pellet', 'Resistor-pellet key', 'Coded cylinder']],
    ['PELL lam', ['Lamp and pellet', 'Resistor-pellet key']],
    ['ellet', []],
    ['magnet key', ['Coded cylinder']],
    ['magnet contacts', []],
  ])('%j', (query, expected) => expect(titles(query)).toEqual(expected));
  test('what the title lacks is shown where it stands', () => {
    expect(searchEntries(entries, 'resistor lamp')).toEqual([{ entry: entries[0], excerpt: 'The lamp goes out.' }]);
    expect(searchEntries(entries, 'coded')[0]!.excerpt).toBe('');
  });
});
