/** Every sentence of core/lamp, by its code, made from figures: the one place for them. Another language is another such file. */
export const sentences = {
  // recording.ts
  timeNotSeconds: (atS: number) => `A sample at ${atS} s. Use seconds from the start of the recording, 0 or more.`,
  timeBackwards: (atS: number, last: number) => `${atS} s is before the sample above (${last} s). Put the samples in order of time.`,
  timeTooLong: (atS: number, longestLookS: number) =>
    `A sample at ${atS} s; a recording has at most ${longestLookS} s. Are these milliseconds? Write seconds from the start of the recording.`,
  tooManyChanges: (mostLights: number) => `More than ${mostLights} changes can’t be a light. Filter the recording, or choose another channel.`,
  length: 'The recording has no length. Record for some seconds.',
  endsTooEarly: (lengthS: number, last: number) => `The recording ends at ${lengthS} s, before its last sample at ${last} s. Correct the length.`,

  // lampFile.ts
  lineOfFile: (line: number) => `line ${line}`,
  lineTooLong: (longestLine: number) =>
    `A line of more than ${longestLine} characters. This is not a recording of a light; use CSV (seconds,level) or VCD.`,
  empty: 'The file has no samples. Record the light for some seconds, starting at that moment.',
  lineAt: (number: number) => `line ${number}`,
  headerMissing: (line: string) => `The first line is ${line}. Begin with the header seconds,level.`,
  twoColumns: (columns: number) => `This line has ${columns} columns. Write two: seconds and level, with decimal points.`,
  secondsUnread: (at: string) => `${at} is not a time in seconds. Write seconds such as 2.85.`,
  levelUnread: (level: string) => `${level} is not a level. Write 0 (dark) or 1 (lit).`,
  timeScaleUnread: (words: string) => `${words} can’t be read. Use a time scale such as 1 ms.`,
  wireTooWide: (kind: string, size: string) => `This is a ${kind} of ${size} bits. Use one wire of one bit.`,
  secondWire: 'A second wire. Use a file with one wire, the light.',
  timeScaleMissing: 'The time scale is missing. Write $timescale 1 ms $end before the definitions end.',
  noWire: 'No wire is defined. Define one wire of one bit.',
  notVcd: (word: string) => `The definitions have not ended before ${word}. This is not a VCD file.`,
  vcdTimeUnread: (word: string) => `${word} is not a time. Write one such as #2850.`,
  vcdChangeUnread: (word: string, wire: string) => `${word} is not a change of the wire. Write changes of the wire such as 1${wire}.`,

  // verdict.ts
  nothingLit: 'Nothing lit.',
  litAtEnd: 'lit at the end',
  darkAtEnd: 'dark at the end',
  steady: (steadyS: string) => `lit ${steadyS}`,
  litAllTheTime: 'lit all the time',
  thenDark: (steady: string) => `${steady}, then dark`,
  pace: (periodS: string) => `, one every ${periodS}`,
  grouped: (sizes: string, pauseS: string) => ` in groups of ${sizes}, ${pauseS} apart`,
  noPattern: (seen: string, family: string, p: string) =>
    `${seen} None of the patterns of “${family}” (${p}). Watch again, and check the system type.`,
  recognized: (seen: string, title: string, family: string, p: string, act: string) => `${seen} “${title}” in “${family}” (${p}). ${act}`,
  pair: (seen: string, family: string, one: string, other: string) =>
    `${seen} One of these two in “${family}”: “${one}” or “${other}”. You can’t tell them apart by eye; check what else happens.`,
  more: (seen: string, moreS: string) => `${seen} Not watched long enough to decide. Watch ${moreS} longer, from the start.`,
  noneOfThese: 'none of these',
  unclear: (seen: string, what: string, p: string) => `${seen} Not clear: ${what} has ${p}. Watch again from the start.`,
} as const;
