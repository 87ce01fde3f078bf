/** Every sentence of core/library, by its code, made from figures: the one place for them. Another language is another such file. */
export const sentences = {
  // gates.ts
  // gates.ts: in a list to choose from
  effect_none: 'Nothing is changed',
  effect_lockout: 'It may start a lockout',
  effect_alarm: 'It may sound the alarm',
  effect_replacesKeys: 'Stored keys are replaced',
  effect_addsKey: 'A key is added',
  effect_writes: 'A module is written',
  effect_reveals: 'A secret is read',
  effect_standsIn: 'Something stands in for the key',
  effect_bypass: 'A protection is bypassed',
  none: 'No lasting effect.',
  lockout: 'May start a lockout: wait for it to end before the next try.',
  alarm: 'May set off the alarm; programming is refused until it is quiet.',
  replacesKeys: 'Replaces the stored keys: a key that is not presented is erased.',
  addsKey: 'Adds a key.',
  writes: 'Writes to a module’s memory.',
  reveals: 'Reveals a secret.',
  standsIn: 'Takes the place of the immobilizer’s input.',
  bypass: 'Bypasses the immobilizer.',
  authorityMissing: 'No authority is on record. Check the registration and the person’s ID, then record what you saw.',
  senderMissing: 'The parts came without a vehicle, and the sender’s identity is not on record. Check it, then record it.',
  tag: (tag: string) => `tag ${tag}`,
  keysNotHere: (keys: string) =>
    `Not here: ${keys}. A key that is not presented will no longer start the vehicle. Wait for it, or tell the customer first.`,
  keysLeftOut: (keys: string) =>
    `Left out: ${keys}. A key that is not presented will no longer start the vehicle. Add it, or tell the customer first.`,
  oneKeyLeft: (tag: string) => `Only tag ${tag} will be left. Ask for every other key, and recommend a second one.`,
  onlyValet: 'Only a valet key is here. Without a main key this vehicle may not learn again. Ask for the main key.',
  noMainKey: (tag: string) => `No key is marked as main or master; tag ${tag} would be first. Check marks and colors before you start.`,

  // verdictText.ts
  doIt: (say: string, what: string) => `${say} ${what}.`,
  doInOrder: (say: string, first: string, then: string) => `${say} ${first} first, then ${then}.`,
  thenDo: ', then ',

  // params.ts
  fromTo: (min: number | string, max: number | string, unit: string) => `${min} to ${max}${unit}`,
  typicalSource: (source: string) => `typical for the system type: ${source}`,
  lockoutOf: (value: string, known: string) => `May start a lockout (${value}${known}): wait for it to end before the next try.`,

  // bounds.ts
  tooManyValues: (values: number) => `More than ${values} values. Nothing here needs that many; it was not read.`,
  circle: 'An alias contains itself. Write the values out.',
  tooDeep: 'Nested too deeply to be read. Write it flatter.',
  tooManyEntries: (length: number, entries: number) => `${length} entries are too many. Give at most ${entries}.`,
  forbiddenName: (name: string) => `"${name}" can’t be a field name. Choose another.`,

  // parseWith.ts
  youTyped: 'You typed',
  fileHas: 'The file has',
  anyRequired: (last: string) => `"${last}" is missing. Add it.`,
  objectUnknown: (last: string) => `"${last}" is not a field that is known here. Remove it or correct its name.`,
  anyOnly: (typed: string, valids: string) => `${typed}. Use one of: ${valids}.`,
  formAsked: 'it in the form asked for',
  stringPatternBase: (typed: string, name: unknown) => `${typed}. Write ${name}.`,
  stringEmpty: 'Nothing is written here. Write something.',
  stringMin: (limit: string) => `Too short. Write at least ${limit} characters.`,
  stringMax: (count: number, limit: string) => `${count} characters is too long. Write at most ${limit}.`,
  numberMin: (typed: string, limit: string) => `${typed}. Use ${limit} or more.`,
  numberMax: (typed: string, limit: string) => `${typed}. Use ${limit} or less.`,
  numberPositive: (typed: string) => `${typed}. Use a number above zero.`,
  numberUnsafe: (typed: string) => `${typed}. Use a number.`,
  numberInteger: (typed: string) => `${typed}. Use a whole number.`,
  arrayMin: (limit: string) => `Too few entries. Give at least ${limit}.`,
  arrayMax: (limit: string) => `Too many entries. Give at most ${limit}.`,
  arrayUnique: 'This entry appears twice. Give each its own.',
  objectMissing: (peersWithLabels: string) => `One of these is needed: ${peersWithLabels}. Add one.`,
  objectOxor: (presentWithLabels: string) => `Only one of these is allowed: ${presentWithLabels}. Keep one.`,
  otherwise: (message: string, typed: string) => `${message} ${typed}.`,
} as const;
