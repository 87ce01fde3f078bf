import { compareVariants, type Variant } from './variant';

const variant = (told: Partial<Variant>): Variant => ({
  part: '',
  hardware: '',
  software: '',
  digits: '',
  supplier: '',
  serial: '',
  warranty: '',
  ...told,
});

test.each<[string, Partial<Variant>, Partial<Variant>, string[]]>([
  ['the same', { part: '70 213-4', serial: '1' }, { part: '70213 4', serial: '2' }, []],
  ['small and capital letters', { digits: 'ab 12' }, { digits: 'AB12' }, []],
  ['another part number', { part: '70213' }, { part: '70214' }, ['part stops']],
  ['other hardware', { hardware: 'H2' }, { hardware: 'H3' }, ['hardware stops']],
  ['other digits', { digits: '77 10' }, { digits: '77 11' }, ['digits stops']],
  ['other software and supplier are worth a look', { software: '1', supplier: 'one' }, { software: '2', supplier: 'two' }, ['software', 'supplier']],
  ['what one of them does not tell is not compared', { part: '70213', hardware: 'H2' }, { hardware: '', part: '' }, []],
  ['another warranty is no difference', { warranty: '2027' }, { warranty: '2029' }, []],
  ['the same serial number: one was read from the wrong part', { serial: 'S 1' }, { serial: 's1' }, ['serial stops']],
])('%s', (_what, old, now, expected) => {
  expect(compareVariants(variant(old), variant(now)).map((m) => `${m.field}${m.stops ? ' stops' : ''}`)).toEqual(expected);
});
