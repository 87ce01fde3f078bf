/** Every sentence of core/diagnosis, by its code, made from figures: the one place for them. Another language is another such file. */
export const sentences = {
  // assess.ts
  readyToHandOver: 'Every key that is here has been verified. Check which stored keys are not here, print the report, return the keys.',
  nothingLeftToTest: 'Every test that could tell more has been done. Unknown is a finding too: write it down, or check beyond the immobilizer.',

  // diagnose.ts
  somethingElse: 'Something else',
  key: (key: string) => `tag ${key}`,
  aKey: 'a key',
  neededFor: (title: string, why: string) => `Needed for “${title}”, which comes next. ${why}`,
  narrowsDown: 'Narrows it down a little.',
  lowTo: (low: number) => `${low} to `,
  wrongRepairCosts: (from: string, to: number) => ` Repairing the wrong one costs ${from}${to} min.`,
  tellsApart: (one: string, other: string, saves: string) => `Tells “${one}” from “${other}”.${saves}`,
  nothingFits: 'Nothing known here fits well enough. Unknown is a finding too: write down what was seen and hand it on.',
  leaveImmobilizer: (chance: string, title: string) => `Leave the immobilizer alone: ${chance} that it is something else. Next: ${title}.`,
  withKey: (key: string) => ` with tag ${key}`,
  keepTesting: (title: string, withKey: string) => `Keep testing: ${title}${withKey}. No repair is certain enough yet to be worth its cost.`,
  worked: (title: string, say: string) => `Fixed: ${title}. To confirm the fix: ${say}`,
  withKeyNamed: (key: string) => `, tag ${key}`,
  fixNow: (title: string, where: string, p: string, likelier: string) => `Fix now: ${title}${where} (${p}). More testing isn’t worth it.${likelier}`,
  likelyFix: (title: string, p: string) => `“${title}” is likely already (${p}). Fixing it now skips the test; the test makes sure.`,
  andParts: ' and parts',
  dearer: (likelier: string, chosen: string) => `, but its fix takes ${likelier}, this one ${chosen}`,
  cheaperFirst: (what: string, weight: string, dearer: string) =>
    ` More likely: ${what} (${weight})${dearer}. Trying this one first is still cheaper on average.`,
  contradictionUnexplained:
    'These results contradict each other, and no single one explains it. Repeat the first checks one by one, and think of two faults at once.',
  contradictionByOne: (title: string, say: string) =>
    `These results contradict each other. If “${title}: ${say}” is wrong, the others fit together. Repeat it.`,
  getTool: (what: string, title: string) => `Get ${what}: ${title} would tell more than anything that can be done here now.`,

  // proof.ts
  proveStart: 'Start it, and let it run.',
  proveStartWithKey: (key: string) => `Start it with tag ${key}, and let it run.`,
  proveAfterRest: (waitMin: number) => `Start it once more, at least ${waitMin} minutes after the repair: only that confirms the fix.`,
  proveTries: (done: number, of: number, key?: string) =>
    `Try it again${key === undefined ? '' : ` with tag ${key}`}: ${done} of ${of} in a row so far.`,
  provePutBack: 'Bring the fault back once: the car must fail again.',
  proveRemoved: 'Remove the fault again: it must work.',

  // guide.ts
  everyTestDone: 'Every test that could tell more has been done.',
  test: (id: string) => `test ${id}`,
  procedure: (procedure: string) => `procedure ${procedure}`,

  // verdict.ts
  runsWithKeyNotRight: (tags: string, verb: string) =>
    `It runs, but tag ${tags} ${verb} not right yet. Fix that before the car leaves, or tell the customer.`,
  acceptedNotCleared: (what: string) =>
    `This key was accepted, but the chance that the immobilizer is at fault is still ${what}. It is not cleared yet.`,
} as const;
