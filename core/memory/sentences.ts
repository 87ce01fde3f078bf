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
  afterEnd: 'It stands behind the record that ends the file. Only one file at a time: remove what follows.',
  noEnd: 'The record that ends the file is missing, so what follows may be missing too. Read the memory again.',
  count: (expected: number, found: number) => `It counts ${expected} data records; ${found} stand above it. Read the memory again.`,
  widths: (bytes: number) => `It ends a file of ${bytes}-byte addresses, and there are wider ones above. Read the memory again.`,
  noData: 'The file has records and no byte of memory. Read the memory again.',

  // compareReads.ts
  same: 'Both reads are equal, byte for byte.',
  length: (a: number, b: number) => `The reads cover different addresses: ${a} bytes and ${b} bytes. Check range and chip kind, then read again.`,
  shift: (bytes: number) => `The second read is the first one moved by ${bytes} bytes. Check start address and chip kind, then read again.`,
  lineLow: (bit: number, differing: number) =>
    `${differing} bytes differ, all on data line ${bit}, which reads 0 each time in one of them: it has no contact, or is shorted to ground.`,
  lineHigh: (bit: number, differing: number) =>
    `${differing} bytes differ, all on data line ${bit}, which reads 1 each time in one of them: it has no contact, or is shorted to the supply.`,
  together: (differing: number, from: string, to: string) =>
    `${differing} bytes differ, all of them from ${from} to ${to}. Did something write in between? Else a contact failed for a moment.`,
  scattered: (differing: number) =>
    `${differing} bytes differ here and there: a dirty or loose contact. Clean the pins, put the contacts on again, read twice.`,
};
