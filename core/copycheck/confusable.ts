/** Characters that are taken for each other by eye, in print, in handwriting or on a worn label. */
const look = [
  '8B',
  '0D',
  '0O',
  '1I',
  '1L',
  '17',
  '5S',
  '2Z',
  '6G',
  '3B',
  '38',
  '69',
  '6B',
  '0Q',
  'EF',
  'CG',
  '68',
  '89',
  '08',
  '56',
  '35',
  '49',
  '27',
  '7T',
  '4A',
  'UV',
  'VY',
  'VW',
  'MN',
  'HN',
  'PR',
  'KX',
];
/** Characters that are taken for each other by ear, spoken as letters and digits in English. */
const sound = [
  ['BD', 'BE', 'DE', 'CE', 'BC', 'CD', '3B', '3C', '3D', '3E', 'A8', 'AE', '59', '15', '19', 'F6'],
  ['BP', 'BV', 'BG', 'BT', 'DG', 'DP', 'DT', 'DV', 'CZ', 'EG', 'EP', 'ET', 'GP', 'GT', 'PT', 'PV', 'TV', 'VZ', '3G', '3P', '3T', '3V'],
  ['AH', 'AJ', 'AK', 'JK', '8H', '8A', '8K', 'FS', 'FX', 'SX', '6X', '6S', 'MN'],
].flat();

const pairs = (list: readonly string[]) => new Set(list.flatMap(([a, b]) => [`${a}${b}`, `${b}${a}`]));
const [byEye, byEar] = [pairs(look), pairs(sound)];

/** Whether two characters are easily taken for each other, by eye before by ear; null: not easily. */
export function confusable(a: string, b: string): 'look' | 'sound' | null {
  return byEye.has(a + b) ? 'look' : byEar.has(a + b) ? 'sound' : null;
}
