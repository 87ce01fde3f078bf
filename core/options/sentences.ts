/** Every sentence of core/options, by its code, made from figures: the one place for them. Another language is another such file. */
export const sentences = {
  // propose.ts: titles and what is done
  fix: (fault: string) => `Fix: ${fault}`,
  withKey: (title: string, tag: string) => `${title}, tag ${tag}`,
  fixWork: (fault: string) => `Fix, ${fault}`,
  partsFor: (fault: string) => `Parts, ${fault}`,
  replacePart: (part: string, origin: string, way: string) => `Replace the ${part}: ${origin}, ${way}`,
  byHand: 'by hand',
  byScanTool: 'with a scan tool',
  planOf: (steps: number, first: string) => `${steps} steps in their order, beginning with: ${first}.`,
  partWork: (part: string) => `Replace the ${part}, restore what it held`,
  partItself: (part: string, origin: string) => `${part}, ${origin}`,
  outsideOf: (part: string) => `Outside work for the ${part}`,
  newKey: 'One new key, learned',
  twoKeys: 'Two new keys, learned',
  newKeyWhat: 'Cut and learned here: each key has an identity of its own and can be locked out alone.',
  keyWork: 'Cut and learn a key',
  secondKeyWork: 'Cut and learn a second key in the same session',
  keyBlanks: (n: number) => (n === 1 ? 'One key blank' : `${n} key blanks`),
  clone: 'Copy the key: a clone',
  cloneWhat: 'The chip of a working key is copied; the vehicle learns nothing.',
  cloneWork: 'Copy the chip, cut the blade',
  sendOut: 'Hand it to somebody with authorized data and equipment',
  sendOutWhat: 'The vehicle or the part goes out, with what was found so far.',
  sendOutWork: 'Preparation, paperwork, pickup',
  sendOutItself: 'Work done elsewhere',
  testFurther: 'Test further first',
  testWhat: 'A test wherever it saves more than it costs, then the fix it points to.',
  testWork: 'Tests, then the fix',
  partsAfterTests: 'Parts, as the tests turn out',

  // propose.ts: needs
  needsTool: (tool: string) => `A ${tool}`,
  needsKeys: 'Every key here',
  needsWorkingKey: 'A key that works',
  needsAuthority: 'Proof of authority',
  needsOutside: 'Somebody with authorized data and equipment',

  // propose.ts: risks
  notIt: (title: string) => `It is not “${title}”: the search goes on.`,
  keysForgotten: 'Keys that are not here are forgotten.',
  cloneAlike: 'A clone can’t be told apart from the original, and can’t be locked out alone.',
  cloneRefused: 'The chip may not allow a copy.',
  outsideLonger: 'It takes longer than promised.',
  testsNoAnswer: 'Even then the cause may stay unknown.',

  // propose.ts: what stays unproven
  unprovenFix: 'Until every key was tried after the fix.',
  unprovenUnlikely: 'Whether this is the cause at all: the tests so far don’t show it clearly.',
  unprovenPart: 'Whether the part was bad before it is replaced, and what damaged it.',
  unprovenKey: 'Whether the lock, the antenna and the module are sound: a new key tries them for the first time.',
  unprovenClone: 'Which of the two keys was used for a start.',
  unprovenSendOut: 'What was done there, unless they write it down.',
  unprovenTest: 'Nothing is fixed by a test.',

  // warranty.ts
  warrantyWork: 'This shop’s own, on the work.',
  warrantyNewPart: 'The part maker’s on the part, this shop’s on the work.',
  warrantyNewKey: 'On key and learning, not on loss or water.',
  warrantyRepairedKey: 'None promised: a repaired key may fail again.',
  warrantyUsedPart: 'The seller’s on the part, often 30 days; none on its age.',
  warrantyRebuiltPart: 'The rebuilder’s on the part, this shop’s on the work.',
  warrantyRepairedPart: 'The repairer’s on the repair only.',
  warrantyOthers: 'From whoever does the work.',

  // settle.ts
  diagnosis: 'Diagnosis',
  effectBeyond: (title: string) => `“${title}” changes the stored keys or writes to a module. The customer agreed to something else: ask again.`,
  limitReached: (spent: string, limit: string) => `Work and parts so far come to ${spent}; the customer agreed to ${limit} at most: ask again.`,
  declinedAll: 'The customer wants nothing more done: ask again before any more work.',
};
