const bytesWord = (n: number) => (n === 1 ? '1 byte' : `${n} bytes`);

/** Every sentence of core/memory, by its code, made from figures: the one place for them. */
export const sentences = {
  record: (record: number) => `record ${record}`,
  emptyRaw: 'The file is empty. Read the memory again.',
  tooLarge: (most: number) => `The file holds more than ${most} bytes. Choose the memory file.`,
  beyond: (address: string) => `It goes beyond the last address, ${address}. This is not a memory file of this kind.`,
  noRecord: (first: string) => `The file has no record. Each begins with “${first}”.`,
  overlap: (address: string, here: string, before: string) =>
    `The byte at ${address} is ${here} here and ${before} in a record above. Read the memory again.`,
  start: (first: string, found: string) => `It begins with ${found}, not with “${first}”. Remove the line, or read the memory again.`,
  control: (byte: number) => `byte ${byte}`,
  intelKinds: '00 to 05',
  recordKinds: 'S0 to S3 and S5 to S9',
  digits: (column: number, found: string) => `Character ${column} is ${found}, not a hexadecimal digit. Read the memory again.`,
  short: (expected: number, found: number) => `It has ${found} bytes; its own count says ${expected}. The line was cut off: read the memory again.`,
  long: (expected: number, found: number) => `It has ${found} bytes; its own count says ${expected}. Read the memory again.`,
  checksum: (expected: string, found: string) =>
    `The checksum is ${found}; ${expected} would fit. A byte was changed on its way: read the memory again.`,
  kind: (found: string, known: string) => `Records of type ${found} are not known. Known types: ${known}.`,
  size: (kind: string, expected: number, found: number) =>
    `A record of type ${kind} holds ${expected} bytes; this one holds ${found}. Read the memory again.`,
  afterEnd: 'It comes after the record that ends the file. Only one file at a time: remove what follows.',
  noEnd: 'The record that ends the file is missing, so what follows may be missing too. Read the memory again.',
  count: (expected: number, found: number) => `It counts ${expected} data records; ${found} are above it. Read the memory again.`,
  widths: (bytes: number) => `It ends a file of ${bytes}-byte addresses, and there are wider ones above. Read the memory again.`,
  noData: 'The file has records and no byte of memory. Read the memory again.',

  // compareReads.ts
  same: 'Both reads are equal, byte for byte.',
  length: (a: number, b: number) => `The reads cover different addresses: ${a} bytes and ${b} bytes. Check range and chip kind, then read again.`,
  shift: (bytes: number) => `The second read is the first one moved by ${bytes} bytes. Check start address and chip kind, then read again.`,
  lineLow: (bit: number, differing: number) =>
    `${differing} bytes differ, all on data line ${bit}, which reads 0 each time in one of them: it has no contact, or is shorted to ground.`,
  lineHigh: (bit: number, differing: number) =>
    `${differing} bytes differ, all on data line ${bit}, which reads 1 each time in one of them: it has no contact, or is shorted to power.`,
  together: (differing: number, from: string, to: string) =>
    `${differing} bytes differ, all of them from ${from} to ${to}. Did something write in between? Else a contact failed for a moment.`,
  scattered: (differing: number) =>
    `${differing} bytes differ here and there: a dirty or loose contact. Clean the pins, put the contacts on again, read twice.`,

  // lintLayout.ts
  slots: 'The slot area',
  outsideSlot: (title: string, bytes: number) => `${title} goes beyond the ${bytes} bytes of a slot. Correct its place or its length.`,
  outsideMemory: (title: string, bytes: number) => `${title} goes beyond the ${bytes} bytes of the memory. Correct its place or its length.`,
  overlapping: (a: string, b: string) => `On the same bytes: ${a}, ${b}. Correct the place of one of them.`,
  oneOfKind: (title: string, kind: string) => `${title} is a second field of the kind ${kind}. A slot has one: give it another kind.`,
  stateValues:
    'A state has values named used and empty, and disabled if the memory knows that; the value of empty is that of empty bytes. Write them so.',
  wideNumber: (title: string, most: number) =>
    `${title} is a number or has names for its values: at most ${most} bytes. Leave the names out or shorten it.`,
  valueTooLarge: (name: string, value: number, bytes: number) => `${name} is ${value}, too large for ${bytes} bytes. Correct the value.`,
  valueTwice: (name: string) => `${name} has the value of another name. Correct one of them.`,
  checksumBytes: (title: string, widths: string) => `${title} is of the wrong length. A checksum of this kind has this many bytes: ${widths}.`,
  overOutside: (title: string) => `${title} is calculated from bytes that are not there. Correct its range.`,
  checksumLater: (title: string, later: string) => `${title} is calculated from ${later}, which comes later in the list. Put ${later} before it.`,
  mirrorOf: (title: string, other: string) =>
    `${title} copies bytes in which ${other} stands, and that changes afterward. Copy only what is finished.`,

  // fieldText.ts, slots.ts, writeSlot.ts
  fieldForm: (title: string, expected: string) => `${title}: this is something else. Expected: ${expected}.`,
  upTo: (most: number) => `a whole number from 0 to ${most}`,
  hexDigits: (count: number) => `${count} hexadecimal digits`,
  slot: (slot: number) => `slot ${slot}`,
  inSlot: (slot: number, title: string) => `Slot ${slot}, ${title}`,
  notCovered: (address: string, layout: string, bytes: number) =>
    `The byte at ${address} is not in the file; the layout “${layout}” takes ${bytes} bytes. Choose the file of the whole memory, or its layout.`,
  moreThanLayout: (more: number, layout: string, bytes: number) =>
    `The file holds ${bytesWord(more)} more than the ${bytes} of the layout “${layout}”. Is it the layout of this memory?`,
  stateUnknown: (found: string, known: string) => `Its state is ${found}, which the layout does not know (${known}). Leave this slot alone.`,
  notEmpty: (bytes: number) =>
    `Its state says empty, but ${bytesWord(bytes)} of it ${bytes === 1 ? 'is' : 'are'} not. It is not proven empty: leave it alone.`,
  noKey: 'Its state says used, but its key has no identity. Read the memory again.',
  keyTwice: (keyId: string, before: number) => `Key ${keyId} is also in slot ${before}: written twice. One of the two can be freed.`,
  mirrorDiffers: (bytes: number, address: string) =>
    `${bytesWord(bytes)} ${bytes === 1 ? 'differs' : 'differ'} from what is copied, the first one at ${address}. Read the memory again.`,
  checksumWrong: (is: string, fits: string) => `The checksum is ${is}; ${fits} would fit. A bad read, or another layout: read again.`,
  slotRange: (slot: number, first: number, last: number, layout: string) =>
    `There is no slot ${slot}: “${layout}” has slots ${first} to ${last}. Choose one of them.`,
  slotNotEmpty: (slot: number) => `Slot ${slot} is not proven empty. Choose an empty one.`,
  noField: (id: string, known: string) => `“${id}” is no field of a slot. Use one of: ${known}.`,
  identityAsked: (title: string) => `${title} is missing. Write it as the key was read.`,

  // beside.ts
  readTwice: 'Read twice, equal.',
  readOnce: 'Read once: no slot is proven empty.',
  tagIn: (tag: string, slots: string) => `tag ${tag} in slot ${slots}`,
  storedHere: (list: string) => `Stored: ${list}.`,
  notStored: (tags: string) => `Not stored: tag ${tags}.`,
  storedAway: (slots: string) => `Stored and not at hand: slot ${slots}.`,
  disabledSlots: (slots: string) => `Disabled: slot ${slots}.`,
  storedTwice: (slots: string) => `The same key twice: slots ${slots}.`,
  unclearSlots: (slots: string) => `Not clear: slot ${slots}.`,
  provenEmpty: (slots: string) => `Proven empty: slot ${slots}.`,
  emptyOnce: (slots: string) => `Empty in this read: slot ${slots}.`,
  writtenNew: (slot: number) => `A key was written into slot ${slot}.`,
  writtenOver: (slot: number, reason: string) => `Slot ${slot} was written over: ${reason}`,
  slotDisabled: (slot: number, reason: string) => `The key in slot ${slot} was disabled: ${reason}`,

  // diffSlots.ts
  emptyField: 'empty',
  beyondLayout: 'Beyond the layout',
  digest: (start: string) => `SHA-256 ${start}…`,
  slotChanged: (slot: number) => `Slot ${slot} changed too.`,
  outsideChanged: (title: string, at: string, bytes: number) =>
    `${title === '' ? 'Bytes without a name' : title}: ${bytesWord(bytes)} from ${at} changed, and do not follow from the slot.`,
  notWritten: (slot: number) => `Slot ${slot} is as it was: nothing was written there. Don’t write again before contacts and power are checked.`,
  halfWritten: (slot: number) => `Slot ${slot} changed, but not to what it should be: written in part. Don’t reinstall it, and use no other slot.`,
  notAsWanted: (slot: number) => `Slot ${slot} is not as in the file that was to be written.`,
  moreWritten: (slot: number) => `Slot ${slot} changed, and something that should not have. Don’t reinstall it. Read again first.`,
  onlyWritten: (slot: number) => `Only slot ${slot} changed.`,
  restFollows: (slot: number) => `Only slot ${slot} changed, and what follows from it: checksums, copies, counters.`,
  comesBack: (slot: number) => `Slot ${slot} is empty now and would hold a key again.`,
  slotLost: (slot: number) => `The key in slot ${slot} would be lost.`,
  slotSetBack: (slot: number) => `Slot ${slot} would be set back to what it was.`,
  counterSetBack: (title: string, now: string, then: string) => `${title} would be set from ${now} to ${then}. The ECM may refuse that.`,
};
