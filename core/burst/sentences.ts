/** Every sentence of core/burst, by its code, made from figures: the one place for them. Another language is another such file. */
export const sentences = {
  lineAt: (line: number) => `line ${line}`,
  byteAt: (byte: number) => `byte ${byte}`,

  // csv.ts
  emptyCsv: 'The file has no samples. Export seconds and volts from the scope as CSV, with a header line.',
  headerMissing: (line: string) => `The first line is ${line}. Begin with a header such as seconds,volts.`,
  swapped: 'The volts come first here. Export seconds first, then volts.',
  otherUnit: (unit: string) => `The header says ${unit}. Export seconds and volts.`,
  lineTooLong: (longest: number) => `A line of more than ${longest} characters. This is not a capture of a scope; use CSV with seconds and volts.`,
  columns: (found: number, wanted: number) => `This line has ${found} columns; the header has ${wanted}. Write ${wanted}.`,
  secondsUnread: 'The seconds can’t be read. Write them such as 0.00125 or 1.25e-3.',
  voltsUnread: 'The volts can’t be read. Write them such as -0.125 or 3.2e-2.',
  timeBackwards: 'This time is before the one above. Export the samples in order of time.',
  noRate: 'All samples have the same time, so there is no sample rate. Export more digits of the seconds.',
  tooMany: (most: number) => `More than ${most} million samples. Export a shorter stretch.`,

  // wav.ts
  notWav: 'This is not a WAV file: it does not begin with RIFF and WAVE.',
  wavKind: (kind: number, bits: number) => `A WAV file of kind ${kind}, ${bits}-bit. Save it as 16-bit or as 32-bit float.`,
  wavChannels: (channels: number) => `The file has ${channels} channels. Save one, or two and choose one of them.`,
  wavChannel: (channel: number, channels: number) => `There is no channel ${channel}; the file has ${channels}.`,
  wavRate: (rate: number) => `A sample rate of ${rate} Hz. Save the file with its rate.`,
  wavCut: 'The file ends in the middle. Copy it again.',
  wavNoFormat: 'The samples come before their format. Save the file again.',
  wavNoData: 'The file holds no samples. Save the capture again.',
  wavSize: (chunk: string, size: number) => `The part “${chunk}” says that it has ${size} bytes, which can’t be. Save the file again.`,
  wavFloat: 'A sample is not a number. Save the file again.',

  // conditions.ts
  likeNone: 'none of them',
  keyInFoil: 'key in foil',
  noKey: 'no key',
  acceptedKey: 'accepted key',
  acceptedTag: (tag: string) => `tag ${tag}, accepted`,
  refusedKey: 'refused key',
  refusedTag: (tag: string) => `tag ${tag}, refused`,
  asked: 'not known yet',
  ruleNoneHead: 'No burst.',
  ruleOneHead: 'One burst.',
  ruleManyHead: (count: number) => `${count} bursts.`,
  ruleText:
    'Rule of thumb: one short burst means the key answered and was accepted; with more, the module keeps asking. That is a weak hint. Take a capture with a key in foil for a baseline of this vehicle.',
  byModelHead: (head: string) => `By other vehicles of this model: ${head.charAt(0).toLowerCase()}${head.slice(1)}`,
  byModelText: 'That is a weak hint, for each vehicle has its own habits. Take a capture with a key in foil for a baseline of this vehicle.',
  nothingHead: 'Nothing answered.',
  nothingText: 'It looks like the captures where no key could answer: the key, or what is between key and antenna coil, keeps the answer away.',
  acceptedHead: 'Like an accepted key.',
  acceptedText: 'It looks like the captures with a key that was accepted.',
  refusedHead: 'Like a refused key.',
  refusedText: 'It looks like the captures with a key that was refused: something answers.',
  noneHead: 'Like none of the baselines.',
  noneText: 'Check that probe and place are the same as in the baselines, and capture again.',
  noBurst: 'The baselines have bursts and this capture has none: the antenna coil does not ask, or the probe is not where it was.',
  unsettled: 'Not settled yet.',
  notApart: (one: string, other: string) => `“${one}” and “${other}” look alike on this vehicle; more captures like these won’t tell them apart.`,
  furtherCaptures: (more: number) =>
    more === 1 ? 'One more capture like these should settle it.' : `${more} more captures like these should settle it.`,

  // measure.ts
  tooShort: 'Too short to measure: capture at least a hundredth of a second.',
};
