/** Every sentence of core/procedure, by its code, made from figures: the one place for them. Another language is another such file. */
export const sentences = {
  // state.ts
  interrupted_keyOff: 'key went off',
  interrupted_started: 'engine started',
  interrupted_supplyLow: 'battery low',
  interrupted_supplyLost: 'power lost',
  interrupted_locked: 'vehicle locked itself',
  interrupted_left: 'stepped away',
  interruptedBy: (what: string) => `Interrupted: ${what}`,

  // decide.ts
  someoneWasFaster: (now: string) => `Someone was faster: the run has moved on since this screen was shown. ${now} Check, then answer.`,
  nothingToTakeBack: 'Nothing has been recorded yet that could be undone.',
  pastCommitment: 'The last entry was before the point of no return. It happened and stays on record.',
  newerEntry: 'Only the last entry can be undone, and there is a newer one. Check again.',
  runFinished: 'This run is finished. Nothing more can be recorded in it.',
  runStopped: 'This run was stopped. Start a new run to try again.',
  stopReasonMissing: 'Say in a few words why the run is stopped.',
  reasonTooLong: (count: number, maxReason: number) => `The reason is ${count} characters long. Use at most ${maxReason}.`,
  unknownInterruption: (what: string, interruptions: string) => `"${what}" is not known. Use one of: ${interruptions}.`,
  unknownNumber: (name: string, params: string) => `"${name}" is not a number of this procedure. Use one of: ${params}.`,
  sourceMissing: (maxReason: number) => `Name document and page that the number comes from, at most ${maxReason} characters.`,
  notWaivable: 'This step can’t be waived. Do it, or stop the run.',
  onlyLeadWaives: 'Only a lead may waive a precondition. Ask the lead to sign it.',
  waiverReasonMissing: (maxReason: number) => `Write the reason for the waiver, at most ${maxReason} characters. It goes into the report.`,
  nowFinished: 'It is finished.',
  nowStopped: 'It was stopped.',
  nowAt: (step: string) => `It is now at: ${step}`,
  wrongStep: (now: string) => `That answer belongs to another step. ${now}`,
  unknownAnswer: (answer: string, allowed: string) => `"${answer}" is not an answer here. Use one of: ${allowed}.`,
  noteTooLong: (count: number, maxReason: number) => `The note is ${count} characters long. Use at most ${maxReason}.`,
  noteMissing: 'Write in a few words what was done and where the result is saved. It goes into the report.',
  tooEarly: (left: string) => `${left} still to wait. The next step is shown when the time is up.`,
  valueMissing: (unit: string, example: string) => `Type the measured value in ${unit}, for example ${example}.`,
  valueNotWhole: (value: string) => `${value} is not a whole number. Type the number as it is marked.`,
  valueImpossible: (value: string, min: string, max: string) => `${value} is not possible here. Type a value from ${min} to ${max}.`,

  // battery.ts
  unknownBattery: (type: string, known: string) => `"${type}" is not a type of battery. Use one of: ${known}.`,
  flooded: 'flooded',
  agm: 'AGM',
  facts: (type: string, capacityAh: number, ageYears: number, temperatureC: number, loadAmps: number) =>
    `${type}, ${capacityAh} Ah, age ${ageYears} yr, ${temperatureC} °C, load ${loadAmps} A`,
  maintained: (facts: string, supplyAmps: number) => `${facts}, maintainer ${supplyAmps} A`,

  // results.ts
  wrongResult: (result: string, kind: string) =>
    `A result of kind "${result}" does not fit a step of kind "${kind}". Reload the page and measure again.`,
  entriesLength: (found: number, expected: number) =>
    `${found} characters were typed, and ${expected} are expected. Check the original, or correct the number.`,
  filesDiffer: (name: string, before: string) => `${name} is not equal to ${before}. Pick the right file, or say that they differ.`,
  filesEqual: (name: string, before: string) => `${name} is equal to ${before}, byte for byte. Pick the file that you mean.`,
  entriesSaid: (length: number) => `${length} characters`,
  fileSaid: (name: string, size: number, digest: string) => `${name}, ${size} bytes, SHA-256 ${digest}…`,
  cellSaid: (volts: string, pressed: string) => `${volts}, pressed ${pressed}`,
  overload: 'overload',
  valueSaid: (step: number, readings: string) => `value ${step} (${readings})`,
  noValueSaid: (readings: string) => `no value of the chart (${readings})`,

  // draft/build.ts
  writtenDone: 'Done',
  writtenSeen: 'Seen',
  writtenGoOn: 'Go on',
  writtenCounted: 'Done {n} times',
  writtenLost: 'Another count',
  writtenAs: 'As it says',
  writtenOtherwise: 'Not as it says',
  writtenKey: (text: string) => `Tag {key}: ${text}`,
  writtenLate: 'The time limit has passed. It starts over.',
  writtenNoReturn: 'Next is the point of no return.',
  writtenStop: 'The vehicle did not do what the text says. Check the step before, the vehicle and the text.',
  writtenText: (steps: number) => `Made in this shop from the text of service information: ${steps} sentences, each a step.`,
  writtenBattery: 'Measure the battery, rested.',
  writtenBatteryHint: 'General practice before a long procedure, not from the text: at its posts, everything off.',
  writtenBatteryLow: 'Too low for the whole job. Charge it or connect a battery maintainer, then measure again.',

  // words.ts
  withResult: (said: string, result: string) => `${said}: ${result}`,
  batteryIs: (facts: string) => `Battery: ${facts}`,
  waivedShort: 'Waived',
  stopped: 'Stopped',
  started: 'Run started',
  retracted: 'Undone',

  // cues.ts
  soonAloud: 'Ten seconds left.',
  timeUpAloud: 'Time’s up.',
  letGoAloud: 'Let go.',
  tooLateAloud: 'Too late.',
  finishedAloud: 'The run is finished.',

  // reserve.ts
  reserveEnough: (minutes: string) => `Battery: enough for ${minutes}.`,
  reserveOff: 'Battery: disconnected, so it loses nothing now.',
  reserveHeld: 'Battery: the maintainer holds it.',
  reserveShort: (minutes: string, needed: number, amps: number) =>
    `Battery: sure for ${minutes}, and the work needs ${needed}. Connect a maintainer of at least ${amps} A.`,
  reserveFlat: 'Battery: nearly flat. Charge it before you go on.',
  reserveAloud: (amps: number) => `Battery is getting low. Connect a maintainer of ${amps} amps.`,

  // view.ts
  questioned: 'That is early. Check again: is it really out?',
  early: 'Out before the time is up: noted. Leave the key on until time’s up.',
  late: 'Too late. The time limit had passed.',
  unmet: 'Not enough.',
  short: 'Too short. Do it again, longer.',
  over: 'Too late. It took longer than its limit.',
  restarted: 'Interrupted. Start again here.',
  waived: 'Waived by the lead. It goes into the report.',
  goOn: 'Noted. The run goes on.',
  measure: 'Noted. Measure now; timers keep running.',
  cycle: (counter: number) => `Cycle ${counter}`,
  atLeast: (atLeast: string) => `at least ${atLeast}`,
  atMost: (atMost: string) => `at most ${atMost}`,
  otherwiseContinues: (left: string) => `Otherwise it continues for ${left}, as it started`,
  checkedAgain: 'Yes, I checked again',
  earlyAskedTwice: 'It is early: you will be asked twice',
  earlyNoted: 'A little early: noted',
  asExpected: 'As expected',
  stopAndDiagnose: 'Stop and diagnose',
  keepWaiting: 'Keep waiting',
  limitPassed: (limit: string) => `The limit of ${limit} has passed. Too late. Tap anyway; the run shows how to go on.`,

  // replay.ts
  noStart: 'The first line must be {"at": 0, "type": "start", "keys": ["A"]}. Add it.',
  replay: 'Replay',
  secondStart: 'A run starts once. Remove the second start.',
  order: (at: number, before: number) => `${at} s is before the line above (${before} s). Put the lines in order of time.`,
  finished: 'Finished.',
} as const;
