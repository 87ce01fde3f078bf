import { inSentence } from '.';

test.each([
  ['Battery flat or weak under load', 'battery flat or weak under load'],
  ['ECM has no feed', 'ECM has no feed'],
  ['VIN and numbers of the modules', 'VIN and numbers of the modules'],
  ['Live data "valid key"', 'live data "valid key"'],
  ['“Take the key out”', '“Take the key out”'],
  ['12.5 V or more', '12.5 V or more'],
  ['A second chip', 'a second chip'],
  ['', ''],
])('%s in the middle of a sentence', (text, said) => expect(inSentence(text)).toBe(said));
