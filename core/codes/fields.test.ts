import { generator } from '../units';
import { codesInFields } from './fields';
import { findCodes, mostCharacters } from './find';
import type { FoundCode, FoundCodes } from './inText';
import { often } from '../../content/often.testing';

const brief = ({ code, failureType, module, status, statusByte }: FoundCode) =>
  [failureType === undefined ? code : `${code}-${failureType}`, module, status, statusByte].filter((part) => part !== undefined).join(' ');
const found = (text: string) => codesInFields(text)?.codes.map(brief);

test.each<[name: string, text: string, codes: string[] | undefined]>([
  ['a report is no file with fields', 'ECM: P0562 stored, PO633', undefined],
  ['a table without a column for the code', 'module,place\nECM,P0562', undefined],
  ['a quotation mark that is never closed', 'code,note\n"P0562,x', undefined],
  ['JSON that is cut off', '[{"code": "P0562"}', undefined],
  [
    'columns in any order',
    'Status;Control unit;DTC\nstored;BCM;U0100\nnot present;Engine control module;P0562',
    ['U0100 body stored', 'P0562 engine stored'],
  ],
  [
    'a failure type and a status byte of their own',
    'code,failure type,status byte\nP0562,16,2F\nU0100,0x87,08\nP0513,,',
    ['P0562-16 present 2F', 'U0100-87 stored 08', 'P0513'],
  ],
  ['the failure type of the code itself gives way to its column', 'code,ftb\nP0562-16,1c', ['P0562-1C']],
  ['a word counts before the byte', 'code,status,status byte\nP0562,stored,01', ['P0562 stored 01']],
  ['a byte in the column of the status', 'code,status\nP0562,2F\nP0563,status 04', ['P0562 present 2F', 'P0563 pending 04']],
  ['two codes in a cell', 'module,codes\nECM,P0562 P0513', ['P0562 engine', 'P0513 engine']],
  ['codes of other columns do not count', 'code,description\nP0562,see P0563', ['P0562']],
  ['a list of codes', '["P0562", "U0100-87"]', ['P0562', 'U0100-87']],
  ['rows', '[{"dtc": "p0562", "state": "active", "ecu": "PCM"}, {"dtc": "B2810"}]', ['P0562 engine present', 'B2810']],
  [
    'modules around their codes',
    '{"scan": [{"module": "ECM", "codes": ["P0562", {"code": "P0513", "status": "stored"}]}, {"module": "BCM", "codes": []}]}',
    ['P0562 engine', 'P0513 engine stored'],
  ],
  ['a byte as a number', '{"code": "P0562", "statusByte": 47, "failureType": 22}', ['P0562-16 present 2F']],
  ['a text inside is read as text', '{"report": "BCM\\nU0100 stored"}', ['U0100 body stored']],
  ['a mentioned code is none', '{"code": "P0562", "note": "once P0563", "title": "as P0564"}', ['P0562']],
  ['a note beside no code is read', '{"note": "P0562"}', ['P0562']],
  ['null, numbers and truths', '[null, 1, true, {"code": null, "status": {"a": 1}}, {}, []]', []],
])('%s', (_name, text, codes) => expect(found(text)).toEqual(codes));

test('freeze frames, look-alikes, and where each stands', () => {
  const csv = 'code,freeze frame,note\nPO562,,x\nP0513,Engine speed: 0 rpm; Battery: 11.4 V,"a ""b"""\n';
  expect(findCodes(csv)).toEqual({
    codes: [{ code: 'P0513', freezeFrame: ['Engine speed: 0 rpm', 'Battery: 11.4 V'], at: csv.indexOf('P0513'), line: 3 }],
    guesses: [{ text: 'PO562', code: 'P0562', at: csv.indexOf('PO562') }],
  });
  const json = '{"codes": [\n {"code": "P0513", "freezeFrame": {"Engine speed": 0, "Gear": "P"}},\n {"code": "P0513", "freezeFrame": ["a: 1"]}]}';
  expect(findCodes(json).codes).toEqual([
    { code: 'P0513', freezeFrame: ['Engine speed: 0', 'Gear: P'], at: json.indexOf('P0513'), line: 2 },
    { code: 'P0513', freezeFrame: ['a: 1'], at: json.lastIndexOf('P0513'), line: 3 },
  ]);
  // Written with an escape, its place is where the one before ended.
  expect(findCodes('["P0562",\n"\\u00500513"]').codes.map(({ code, at, line }) => [code, at, line])).toEqual([
    ['P0562', 2, 1],
    ['P0513', 7, 1],
  ]);
});

test('who was heard: of rows without a code too, and by name', () => {
  const heard = (text: string): FoundCodes['coverage'] => findCodes(text).coverage;
  expect(heard('module,coverage,code\nECM,answered,P0562\nimmobilizer,silent,\nBCM,asked,\n')).toEqual({ engine: 'answered', immobilizer: 'silent' });
  expect(heard('[{"coverage": {"engine": "answered", "moon": "silent", "cluster": "notAsked"}}, {"module": "BCM", "coverage": "silent"}]')).toEqual({
    engine: 'answered',
    cluster: 'notAsked',
    body: 'silent',
  });
  expect(heard('code\nP0562')).toBeUndefined();
});

test('2,000 seeded scans written as CSV and as JSON are found again, each field', () => {
  const random = generator(7);
  const pick = <T>(of: readonly T[]): T => of[Math.floor(random() * of.length)]!;
  for (let n = 0; n < often(2000, 500); n += 1) {
    const rows = Array.from({ length: 1 + Math.floor(random() * 6) }, () => ({
      code: `${pick([...'PCBU'])}${pick([...'0123'])}${Array.from({ length: 3 }, () => pick([...'0123456789ABCDEF'])).join('')}`,
      failureType: pick(['', '16', '87', 'AF']),
      module: pick(['', 'engine', 'body', 'cluster', 'immobilizer']),
      status: pick(['', 'stored', 'present', 'pending']),
      note: pick(['', 'with, a comma', 'two\nlines', 'a "mark"', 'P0001']),
    }));
    const expected = rows.map((r) =>
      [r.failureType === '' ? r.code : `${r.code}-${r.failureType}`, r.module, r.status].filter((x) => x !== '').join(' '),
    );
    const quoted = (cell: string) => (/[",\n]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell);
    const csv = ['code,failure type,module,status,note', ...rows.map((r) => Object.values(r).map(quoted).join(','))].join(pick(['\n', '\r\n']));
    expect({ csv, found: found(csv) }).toEqual({ csv, found: expected });
    expect(found(JSON.stringify(rows, null, pick([0, 2])))).toEqual(expected);
  }
});

test('hostile files: no crash, no hang', () => {
  const escaped = `[${Array.from({ length: 60_000 }, () => '"\\u00500562"').join(',')}]`;
  const files = [
    `${'['.repeat(400_000)}${']'.repeat(400_000)}`,
    `[${'"",'.repeat(300_000)}""]`,
    `[${'{"a":1},'.repeat(100_000)}{}]`,
    escaped,
    `code,${','.repeat(900_000)}`,
    `code,x\n${'"\n",\n'.repeat(150_000)}`,
    `code\n,\n${'P0562,\n'.repeat(100_000)}`,
    `{"__proto__": {"code": "P0562"}, "constructor": "P0513"}`,
  ];
  for (const text of files) {
    expect(text.length).toBeLessThanOrEqual(mostCharacters);
    const before = performance.now();
    findCodes(text);
    expect(performance.now() - before).toBeLessThan(10_000);
  }
  expect(findCodes(escaped).codes).toHaveLength(60_000);
  const random = generator(3);
  const pieces = [
    '{',
    '}',
    '[',
    ']',
    '"',
    ':',
    ',',
    ';',
    '\n',
    'code',
    'P0562',
    'module',
    'ECM',
    'status',
    'coverage',
    '\\u0050',
    'null',
    '1e9',
    '\u0000',
    '\ud800',
  ];
  for (let i = 0; i < 50_000; i += 1) {
    let text = pick(['{', '[', 'code,', 'code;']);
    for (let k = Math.floor(random() * 12); k > 0; k -= 1) text += pick(pieces);
    for (const { code } of findCodes(text).codes) expect(code).toMatch(/^[PCBU][0-3][0-9A-F]{3}$/);
  }
  function pick<T>(of: readonly T[]): T {
    return of[Math.floor(random() * of.length)]!;
  }
});
