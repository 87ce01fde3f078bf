/** Every sentence of core/ladder, by its code, made from figures: the one place for them. Another language is another such file. */
export const sentences = {
  // meter.ts
  noMeterChosen: 'No meter chosen',
  accuracyOf: (percent: number, digits: number, digitWord: string, resolutionOhms: number) =>
    `± (${percent} % + ${digits} ${digitWord}), steps of ${resolutionOhms} Ω`,
  accuracy: (text: string) => `You typed ${text}. Write percent of the reading plus digits, as the data sheet does, such as 0.5%+2.`,

  // uncertainty.ts
  repeats: 'Repeats',
  howRepeats: (n: number) => `standard deviation of ${n} readings over √${n}`,
  howOneReading: 'one reading: scatter of a sound contact assumed',
  meter: 'Meter',
  howMeter: (half: string) => `± ${half} Ω from its data sheet, even, over √3`,
  display: 'Display',
  howDisplay: 'one step of the display over √12',
  leadsAndTemperature: 'Leads and temperature',
  howLeadsUnknown: 'leads not measured: up to 1 Ω',
  howLeadsSubtracted: 'leads measured and subtracted',

  // verdict.ts
  verySure: 'Sure (over 99.9 %).',
  sureWord: 'Sure',
  likelyWord: 'Likely',
  notSureWord: 'Not sure',
  nearEdge: (side: string) => `, but ${side} in its window`,
  aboveTheLower: 'above the lower',
  belowTheUpper: 'below the upper',
  insideEdge: (ohms: string, edge: string, sigmas: string) => `${ohms} ${edge} edge: ${sigmas} the uncertainty.`,
  outsideEdge: (ohms: string, edge: string) => `${ohms} outside the ${edge} edge, which is within the uncertainty.`,
  valueHead: (step: number, low: string) => `Value ${step}${low}.`,
  takeMore: 'Take more readings, with another meter where there is one.',
  belowLowest: `Below the lowest value.`,
  aboveHighest: 'Above the highest value.',
  betweenValues: (below: number, above: number) => `Between values ${below} and ${above}.`,
  nextToValue: 'Next to its value.',
  outsideOf: 'outside of',
  offWindow: (ohms: string, side: string, step: number) => `${ohms} ${side} the window of value ${step}.`,
  betweenDo: 'It won’t be accepted. Clean the resistor chip and measure again; if it stays the same, the chip is worn or not from this system.',
  openHead: 'Open.',
  openDo: 'Clean the resistor chip, press the tips on its contacts, and measure the other direction. If it is still open, the chip is broken.',
  shortHead: 'Short.',
  shortDo: 'Check that the tips don’t touch each other or the blade. If they don’t, the resistor chip is shorted.',
  unstableHead: 'Intermittent.',
  spread: (sd: string) => `The readings spread by ${sd}, far more than the meter explains.`,
  unstableDo: 'Clean the resistor chip, press the tips on firmly, and measure again. If it keeps changing, the chip is loose.',
  overTenTimes: 'over 10 times',
  drift: (direction: string, ohms: string, n: number) =>
    `The readings drift ${direction} by ${ohms} in ${n}: warm fingers, or a contact that is settling.`,
  oneReading: 'One reading can’t show a loose contact: take five.',
  otherUnit: (ohms: string, step: number) => `${ohms} would be value ${step}: wrong unit?`,

  // assessKey.ts
  directionMatters: 'The direction matters.',
  directionsDiffer: (one: string, other: string) =>
    `As it goes in: ${one}. Turned over: ${other}. A contact of the resistor chip is worn or dirty. Clean it and measure both again.`,
  values: (steps: string) => `Values ${steps}.`,
  sideText: (side: number, text: string) => `Side ${side}: ${text}`,
  sideHead: (side: number, head: string) => `Side ${side}: ${head}`,
  sideNotMeasured: (side: number) => `Side ${side} is not measured yet.`,
  measureSide: (side: number) => `Side ${side}: measure`,
  measure: 'Measure',
  otherDirection: (measure: string) => `${measure} the other direction too.`,

  // lintLadder.ts
  windowEndsBeforeBegin: (step: number) => `The window of value ${step} ends below its beginning. Swap low and high.`,
  nominalOutside: (nominal: string, step: number, low: string, high: string) =>
    `${nominal} is outside the window of value ${step}, ${low} to ${high}. Correct one of them.`,
  numbersDescend: (step: number, before: number) => `Value ${step} comes after value ${before}. Number them upward.`,
  valuesDescend: (nominal: string, before: string) => `${nominal} comes after ${before}. Write the values from the lowest to the highest.`,
  windowsOverlap: (step: number, low: string, below: number, high: string) =>
    `The window of value ${step} begins at ${low}, inside the window of value ${below}, which ends at ${high}. Separate them.`,
  meterTooCoarse: (name: string, step: number, next: number, range: string) =>
    `${name} can’t tell value ${step} from value ${next} for certain: ${range}. Use a finer meter.`,

  // parseReading.ts
  readingEmpty: 'Nothing is typed here. Type ohms, such as 1180 or 1.18k.',
  separators: (said: string) => `You typed ${said}, which is not a number. Write it with one decimal point, such as 1180.5 or 1.18k.`,
  noReading: (said: string) => `You typed ${said}, which is not a reading. Type ohms, such as 1180 or 1.18k, or OL for overload.`,
  milliOrMega: (said: string) => `You typed ${said}. Write M for megohm, k for kilohm; nothing for ohm.`,
  foreignUnit: (said: string, letter: string) => `You typed ${said} with the unit “${letter}”. Write k for kilohm, M for megohm, nothing for ohm.`,
  twoMeanings: (said: string, thousand: string, decimal: string, asThousand: undefined | number, asDecimal: undefined | number) =>
    `${said} can mean ${thousand} or ${decimal}. Type ${asThousand} or ${asDecimal}.`,
  oneOrTwo: (said: string) => `${said} can be one reading or two. Use a decimal point, and a space between two readings.`,
  negative: (said: string) => `You typed ${said}. A resistance can’t be below zero. Touch the tips together, zero the meter, and measure again.`,
  tooLarge: (said: string) => `You typed ${said}. More than 1 GΩ can’t be a key. Type OL for overload.`,
  oneOrSeveral: (line: string, joined: string) => `You typed ${line}, which can be one reading or several. Write ${joined}, or one reading per line.`,
  lineAt: (line: number) => `line ${line}`,
  noReadingYet: 'No reading yet. Type ohms, such as 1180 or 1.18k.',
  tooManyReadings: (count: number, mostReadings: number) =>
    `${count} readings. Give at most ${mostReadings}; ten are plenty for a key that is steady.`,

  // ladderFile.ts
  openQuote: 'A quotation mark is never closed. Close it or remove it.',
  header: (content: string, expected: string) => `The first line is ${content}. Begin with the header ${expected}.`,
  wrongCellCount: (count: number, wanted: number, header: string) => `This line has ${count} entries. Write ${wanted}: ${header}.`,
  ohmsUnread: (cell: string) => `${cell} can’t be used here. Write ohms above zero, such as 1180 or 1.18k.`,
  noValues: 'The file has no value. Write one per line: step,nominal,low,high.',
  tooManyValues: (count: number, mostSteps: number) => `${count} values. A value chart has at most ${mostSteps}.`,
  stepUnread: (cell: string) => `${cell} can’t be used here. Write the number of the value.`,
  unknownStep: (cell: string, steps: string) => `Value ${cell} is not in the value chart. It has ${steps}.`,
  chanceUnread: (cell: string) => `${cell} can’t be used here. Write a chance or a count, 0 or more.`,
  noChance: 'No value has a chance above zero. Give at least one.',

  // resistors.ts
  tolerance: (text: string) => `You typed ${text}. Write percent from 0 to 50, such as 1%.`,
  drawerEmpty: 'The drawer is empty. Write one kind of resistor per line.',
  tooManyKinds: (count: number, mostKinds: number) => `${count} kinds of resistors. Give at most ${mostKinds}.`,
  count: (cell: string) => `You typed ${cell}. Write how many there are.`,
  watts: (cell: string) => `You typed ${cell}. Write watts above zero, such as 0.25.`,

  // substitute.ts: the resistors in the order in which they are joined
  oneResistor: (a: string) => a,
  twoInSeries: (a: string, b: string) => `${a} and ${b} in series`,
  twoInParallel: (a: string, b: string) => `${a} and ${b} in parallel`,
  threeInSeries: (a: string, b: string, c: string) => `${a}, ${b} and ${c} in series`,
  threeInParallel: (a: string, b: string, c: string) => `${a}, ${b} and ${c} in parallel`,
  parallelThenSeries: (a: string, b: string, c: string) => `${a} and ${b} in parallel, ${c} in series with both`,
  seriesThenAcross: (a: string, b: string, c: string) => `${a} and ${b} in series, ${c} across both`,

  // wiring.ts
  notSteady: 'not steady',
  keyUnclear: (state: string) =>
    `The key alone is ${state}, so the wiring can’t be checked with it. Clean the resistor chip and measure it again, or use another key.`,
  openThroughColumn: 'Open at the steering-column connector. A wire or a contact is broken between the lock and the connector.',
  jumping:
    'Intermittent at the steering-column connector while the key alone is steady. A worn contact, or a fine wire that breaks where it bends. Tilt and turn the wheel while measuring.',
  nearlyOpen: (mean: string) =>
    `${mean} at the steering-column connector is as good as open. A wire or a contact is broken between the lock and the connector.`,
  shortThroughColumn: 'Almost zero at the steering-column connector. The two wires are shorted, or the wrong pins were measured.',
  goodContacts: (allowed: string) => `; good contacts add at most ${allowed}`,
  series: (words: string, allowance: string, immobilizer: string) =>
    `${words} more at the steering-column connector${allowance}. Added series resistance: worn or dirty contacts, or a wire down to its last strands. ${immobilizer}`,
  parallel: (words: string, parallel: string, immobilizer: string) =>
    `${words} less at the steering-column connector: ${parallel} of leakage across the key. Moisture or dirt in the lock or connector, or a bare spot on a wire. ${immobilizer}`,
  equal: (sign: string, words: string, immobilizer: string) =>
    `Equal within the uncertainty (${sign}${words}). Contacts and wires are good while nothing moves. ${immobilizer}`,
  tooClose: (words: string, direction: string, allowed: string) =>
    `${words} ${direction} at the steering-column connector, and good contacts add up to ${allowed}: too close to tell. Take more readings, or use a finer meter.`,
  stillSees: (own: number) => `The immobilizer still sees value ${own}.`,
  noValue: 'no value',
  valueNamed: (through: number) => `value ${through}`,
  seesInstead: (through: string, own: number) => `The immobilizer sees ${through} instead of value ${own}.`,

  // wiggle.ts
  tooFewReadings: (n: number, lengthS: string, leastS: number) =>
    `Only ${n} readings in ${lengthS} s. Record for ${leastS} s or more while the steering column moves through its whole travel.`,
  atRest: (rest: string, lengthS: string) => `The reading stays at ${rest} for ${lengthS} s, whatever was moved. The wires are good.`,
  oneBreak: 'One break',
  allOfThemOpen: ', all of them open',
  ofThemOpen: (open: number) => `, ${open} of them open`,
  atPlaces: (places: string) => `, at “${places}”`,
  breaks: (what: string, open: string, fromS: string, places: string) =>
    `${what}${open}, the first after ${fromS} s${places}. A fine wire or a contact breaks where it bends.`,
} as const;
