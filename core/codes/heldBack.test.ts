import { findCodes } from './find';

/**
 * Texts as shops have them, each with what a person finds in it. They were written and committed before the finder was run on any of them; what it got wrong
 * at that first run is said in docs/codes.md.
 */
const texts: [name: string, text: string, codes: string, guesses: string][] = [
  ['a message', 'hey, tool says p0335 and also P0340. cleared, came back p0335. B1200? not sure. ring me 555 0134', 'P0335 P0340 P0335 B1200', ''],
  [
    'rows of a web page',
    '<tr><td>U0100</td><td>Lost communication with ECM</td><td>Active</td></tr>\n<tr><td>P0615</td><td>Starter relay</td><td></td></tr>',
    'U0100 P0615',
    '',
  ],
  ['a table with tabs', 'Module\tDTC\tState\nBCM\tB2799\tStored\nECM\tP1611\tActive\n', 'B2799 P1611', ''],
  ['read from a photo', 'POS62  Systern voltage low\nP0633 lmmobilizer key\nUOl00 Lost cornmunication\n', 'P0633', 'P0562 U0100'],
  [
    'a log of bytes',
    '[2026-11-02 10:22:31] TX 18 02 FF 00\n[10:22:32] RX 58 02 05 62 20 06 33 24\nDTC: P0562 status=0x20\nDTC: P0633 status=0x24\n',
    'P0562 P0633',
    '',
  ],
  ['a parts list', 'Ignition coil P0351-A, clip C0121.5, module 27U0184; cause: P0351, shelf B2 301', 'P0351', ''],
  ['JSON of another program', '{"vehicle": "grey", "ecus": [{"name": "ECM", "dtcs": [{"id": "P0562", "desc": "System voltage low"}]}]}', 'P0562', ''],
  ['CSV that mentions a code', 'code,description\nU0140,"Lost communication with BCM, see also P0615"\n', 'U0140', ''],
  [
    'a story',
    'Customer states: no crank after the battery died. Scanned all modules: ECM - no faults. BCM: B1318 (battery voltage low), history. IPC: U1900 CAN, current. Radio, none. Cleared. After 3 starts only u1900 returned.',
    'B1318 U1900 U1900',
    '',
  ],
  ['edges of the form', 'C0040:64, C0045-1F; P0A0F, P3000, P4000, U4001, B3FFF, P00G0', 'C0040-64 C0045-1F P0A0F P3000 B3FFF', ''],
  ['numbers that are none', 'VIN 00BTG5R36GW004182  PLATE 4-18-THB  RO B1023457  INV U0001234  TEL 555-0142', '', ''],
  ['bullets', '• P0504 – Brake switch A/B correlation (present)\n• P0850 – Park/neutral switch\n', 'P0504 P0850', ''],
  ['a heading with a code', 'Freeze frame for P0606\nEngine speed: 0 rpm\nVoltage: 11.9 V\n', 'P0606', ''],
  ['a table of bars', '|Module|Code|State|\n|---|---|---|\n|ECM|P0513|confirmed|\n| IMMO | B2957 | pending |', 'P0513 B2957', ''],
  ['with semicolons and German commas', 'Steuergerät;Code;Status\n"BCM";"U0167";"gespeichert"\n"ECM";"P0562";"11,4 V"\n', 'U0167 P0562', ''],
  ['in quotes and brackets', '“P0562” ‘P0563’ {U0140} <B2810> P0615=1 P0616; P0617!', 'P0562 P0563 U0140 B2810 P0615 P0616 P0617', ''],
  ['a list with slashes', 'P0513/P0633/U0426', 'P0513 P0633 U0426', ''],
  ['numbered lines', '1. P0700\n2) P0705\n3: P0706\n#4 P0707\n', 'P0700 P0705 P0706 P0707', ''],
];

test.each(texts)('%s', (_name, text, codes, guesses) => {
  const found = findCodes(text);
  expect({
    codes: found.codes.map((c) => (c.failureType === undefined ? c.code : `${c.code}-${c.failureType}`)).join(' '),
    guesses: found.guesses.map((g) => g.code).join(' '),
  }).toEqual({ codes, guesses });
});
