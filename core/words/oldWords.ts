/** Words that must not come back, each with what the trade says. From the glossary (docs/glossary.md). */
interface OldWord {
  /** Matched against a whole text, without regard to case unless it says so. */
  pattern: RegExp;
  /** What is said instead. */
  say: string;
}

const oldWords: readonly OldWord[] = [
  { pattern: /\bguards?\b(?! against)/i, say: 'immobilizer, or immobilizer module for the box' },
  { pattern: /\blamps?\b/i, say: 'security light, indicator light, warning light' },
  { pattern: /\b(tokens?)\b/i, say: 'key, or what is inside it: transponder, resistor, remote, cell' },
  { pattern: /\b(switch feed|feed from the switch)\b/i, say: 'ignition feed' },
  { pattern: /\bengine module\b/i, say: 'engine control module (ECM)' },
  { pattern: /\b(cluster or body module|body module)\b/i, say: 'body control module (BCM)' },
  { pattern: /\bscanners?\b/i, say: 'scan tool' },
  { pattern: /\bidentification numbers?\b/i, say: 'VIN' },
  { pattern: /\bfamil(y|ies)\b(?! car)/i, say: 'system type' },
  { pattern: /\bladders?\b/i, say: 'value chart' },
  { pattern: /\baerials?\b/i, say: 'antenna' },
  { pattern: /\bcolumn plugs?\b/i, say: 'steering-column connector' },
  { pattern: /\bwarmth\b/i, say: 'temperature' },
  { pattern: /\block-?outs? wait\b|\block-outs?\b/i, say: 'lockout' },
  { pattern: /\bdwells?\b/i, say: 'wait, or timed wait' },
  { pattern: /\brelearn by hand\b/i, say: 'relearn without a scan tool' },
  { pattern: /\brounds?\b(?! the| off| at)/i, say: 'cycle' },
  { pattern: /\bin work\b/i, say: 'open' },
  { pattern: /\btak(e|en|ing) over\b/i, say: 'import' },
  { pattern: /\bsay to the customer\b/i, say: 'tell the customer' },
  { pattern: /\bdear(er|est)?\b/i, say: 'expensive' },
  { pattern: /\breckon(s|ed|ing)?\b/i, say: 'calculate, correct for' },
  { pattern: /\bseen to\b/i, say: 'all precautions taken; or: mend, do' },
  { pattern: /\bcur(e|ed|es)\b/i, say: 'fix, fixed' },
  { pattern: /\binterlocks?\b/i, say: 'brake, clutch and park switches' },
  { pattern: /\b(mend(s|ed|ing)?|renew(s|ed|ing)?)\b/i, say: 'fix, repair, replace' },
  { pattern: /\b(pellets?)\b/i, say: 'resistor chip (in the key blade)' },
  { pattern: /\btaken back\b|\btake (it |this )?back\b/i, say: 'undo, undone' },
  { pattern: /\bin vain\b/i, say: 'unsuccessful' },
  { pattern: /\bpriors?\b/i, say: 'nothing by default; behind How this was calculated' },
  { pattern: /\b(decibans?|dB)\b/, say: 'nothing by default; behind How this was calculated' },
  { pattern: /\bbits?\b(?! of| more| rate)/, say: 'a consequence; bits stand behind How this was calculated' },
  { pattern: /\bsaloons?\b/i, say: 'sedan' },
  { pattern: /\bestate (car)?\b/i, say: 'wagon' },
  { pattern: /\btyres?\b/i, say: 'tire' },
  { pattern: /\bbonnets?\b/i, say: 'hood' },
  { pattern: /\b(kilo|centi|milli)?metres?\b/i, say: 'feet or meters, as the shop has set' },
  { pattern: /\bpass ?phrases?\b/i, say: 'password' },
  { pattern: /\bpresent password\b/i, say: 'current password' },
  { pattern: /(?<!as )\bfound ("|\{…\})/i, say: 'you typed, the file has' },
  { pattern: /\bhas none$/i, say: 'N/A' },
  { pattern: /\ball the same\b/i, say: 'still; anyway' },
  { pattern: / \|\| /, say: 'in parallel, with the unit of each resistor' },
  { pattern: /\bledgers?\b/i, say: 'record of the case; saved to the case' },
  { pattern: /\bthat cannot be meant\b/i, say: 'outside the usual range' },
  { pattern: /\bsay so\b/i, say: 'what is to be told, by name' },
  { pattern: /\bcannot be judged\b/i, say: 'not tested' },
  { pattern: /\b(begun|shut)\b/i, say: 'started; closed, or locked' },
  { pattern: /\b(doubts?|doubtful)\b/i, say: 'uncertainty; not sure' },
  { pattern: /\b(surprises?|does not fit together)\b/i, say: 'contradiction' },
  { pattern: /\bbeliefs?\b/i, say: 'chance; nothing by default' },
  { pattern: /\b(splits|parts) .* from\b|\bit parts\b/i, say: 'tells A from B' },
  { pattern: /\bno way back\b/i, say: 'point of no return' },
  { pattern: /\bare over\b|\bis over\b/i, say: 'time’s up; wait 12 seconds' },
  { pattern: /\bcut short\b/i, say: 'interrupted, or ended early' },
  { pattern: /\b(first|second) limit\b/i, say: 'normal by; stop at' },
  { pattern: /\bemits?\b/i, say: 'transmits; signal' },
  { pattern: /\bcomplaints?\b/i, say: 'customer concern' },
  { pattern: /\b(key|fob) cells?\b|\bcells? of (a|the|this) (key|fob)\b/i, say: 'key battery, fob battery' },
  { pattern: /\bkelvins?\b/i, say: '°F or °C' },
  { pattern: /\b(engine|it) releases?\b|\brelease of the engine\b/i, say: 'start enabled' },
  { pattern: /\b(no|low|weak) supply\b|\bsupply (is|was)\b/i, say: 'battery and power' },
  { pattern: /\bresistance in line\b|\ba path across\b/i, say: 'added series resistance; leakage' },
  { pattern: /\bit jumps\b|\bjumping reading/i, say: 'intermittent' },
  { pattern: /\b(a|another|one|each|every|repeated) looks?\b(?! (at|like))/i, say: 'check, observation or reading' },
  { pattern: /\bpick-ups?\b/i, say: 'pickup' },
  { pattern: /(?<!\b(antenna|ignition|relay) )\bcoils?\b/i, say: 'antenna coil' },
  { pattern: /(?<!\bkey )\breaders?\b/i, say: 'key reader for the tool; antenna coil for what is at the lock' },
  { pattern: /(?<!\btrouble )\bcodes\b/i, say: 'trouble codes' },
  { pattern: /\bpaired\b/i, say: 'learned to this car, or to each other' },
  { pattern: /\b(switch|button) feed\b/i, say: 'ignition feed' },
  { pattern: /\bin line with\b/i, say: 'in series with, in the circuit of' },
  { pattern: /\b(take|taken|takes) in\b/i, say: 'checked in' },
  { pattern: /(?<!\bsteering[- ])\bcolumns?\b/i, say: 'steering column; where it is measured: steering-column connector' },
  { pattern: /\b(a|the|each|every|its) plugs?\b|\bplugs? (moved|is|are)\b/i, say: 'connector' },
  { pattern: /\b(immobilizers?|ECM|box|switch|module) accepts?\b/i, say: 'key accepted' },
  { pattern: /\bno such\b/i, say: 'not found' },
  { pattern: /\bforeign\b/i, say: 'unknown; from another car' },
  { pattern: /\b(re)?fitted\b|\brefit\b|\bfit (a|the) (good|fresh|new|right)\b/i, say: 'installed, put in, made' },
  { pattern: /\bis no (answer|question|call|number|address|simulation|reading)\b/i, say: 'is not a …' },
  { pattern: /\bas the customer says\b/i, say: 'according to the customer' },
  { pattern: /\btelephones?\b/i, say: 'phone' },
  { pattern: /\b\w+our(s|ed|ing)?\b(?<=\b(colour|behaviour|labour|favour|honour|neighbour|odour|vapour)(s|ed|ing)?)/i, say: 'the US spelling, -or' },
  {
    pattern: /\b(recogni|authori|organi|initiali|immobili|minimi|summari|memori|categori|synchroni)s(e|ed|es|ing|er|ers|ation)\b/i,
    say: 'the US spelling, -ize',
  },
  { pattern: /\b(licence|grey|programme|centre|fibre|catalogue|cheque|kerb|analyse[sd]?|whilst|towards|afterwards)\b/i, say: 'the US spelling' },
];

/** A word of the list in a text: what was found, and what to say. */
export interface Found {
  word: string;
  say: string;
}

/** Texts that hold a word of the list in its proper sense, each with why. */
const proper: ReadonlySet<string> = new Set([
  // A make-believe model's name.
  'Veskar Ledger sedan, silver',
  'Veskar Ledger sedan',
  // Names that a file must have.
  'The file has {…}. A shop imports profiles, value charts, procedures and layouts: kind: profile, kind: ladder, kind: procedure, or kind: layout.',
  // A recording in CSV has columns.
  'This line has {…} columns. Write two: seconds and level, with decimal points.',
  'This line has {…} columns; the header has {…}. Write {…}.',
  // The name of a command is a promise to scripts.
  'analyse <file>',
  // A recording's wires are counted in bits.
  'A WAV file of kind {…}, {…}-bit. Save it as 16-bit or as 32-bit float.',
  'This is a {…} of {…} bits. Use one wire of one bit.',
  'No wire is defined. Define one wire of one bit.',
  // Behind “How this was calculated”.
  'bit for',
  'In decibans, ten times the logarithm of the odds; a stroke above is two of them:',
]);

/** The words of a text that must not come back, in the order of the list; a word that has more than one entry is named for each. Names in braces are none. */
export function oldWordsIn(whole: string): Found[] {
  if (proper.has(whole.trim())) return [];
  const text = whole.replace(/\{\w+\}/g, ' ');
  return oldWords.flatMap(({ pattern, say }) => {
    const match = pattern.exec(text);
    return match ? [{ word: match[0], say }] : [];
  });
}
