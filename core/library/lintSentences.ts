/** What the checks of content in core/library say, by its code: read by whoever writes content. */
export const lintSentences = {
  // dangers.ts
  start: 'starts or cranks the engine',
  lever: 'starts with the lever in question',
  column: 'works at the steering column',
  plug: 'unplugs a connector or measures at one',
  board: 'opens a key or module, or solders',
  battery: 'works at the battery or its cable',
  fuel: 'works at the fuel system',
  spark: 'works at the ignition',
  bridge: 'bridges a relay',
  cautionMissing: (id: string, says: string, oneOf: string, act: string) =>
    `"${id}" ${says}, and ${oneOf} is not before it. Add it; or, where the text only mentions the act, add harmless: [${act}].`,

  // checkProfile.ts
  unknownInProfile: (what: string, found: string, allowed: string) => `${what} "${found}" does not exist. Use one of: ${allowed}.`,
  feature: 'Feature',
  value: 'Value',
  noLadder: (id: string) => `System type "${id}" has no resistor keys. Remove the value chart.`,
  unknownParameter: (id: string, name: string, known: string) => `System type "${id}" has no parameter "${name}". Use one of: ${known}.`,
  notOneOf: (value: string, oneOf: string) => `${value} can’t be used here. Use one of: ${oneOf}.`,
  notANumber: (value: string, unit: string) => `${value} can’t be used here. Use a number in ${unit}.`,
  negative: (value: number) => `${value} can’t be used here. Use 0 or more.`,

  // lintFaults.ts
  noneDefined: '(none defined)',
  unknownInFaults: (what: string, name: string, allowed: string) => `${what} "${name}" does not exist here. Use one of: ${allowed}.`,
  chancesSum: (total: number) => `The chances add up to ${total}; they must add up to 1. Correct one of them.`,
  faultTwice: (id: string) => `"${id}" appears twice in faults. Give each its own id.`,
  link: 'Link',
  picture: 'Picture',
  noLinkPerKey: 'No link of this system type is tested key by key. Remove perKey.',
  procedure: 'Procedure',
  caution: 'Caution',
  proofMissing: 'This fix doesn’t say how it is confirmed. Use one of: putBack, starts, rest, load.',
  proofNotPutBack: 'how says something else. Remove putBack.',
  proofWithoutRest: 'A fix that is confirmed after a rest says how many minutes must pass. Add waitMin.',
  statementTwice: (lifted: string) => `The statement "${lifted}" has chances of its own and would count twice. Remove it here.`,
  test: 'Test',
  fault: 'Fault',
  outcomeOf: (before: string) => `Outcome of "${before}"`,
  outcome: 'Outcome',
  comesAfter: ' comes after ',
  testsInCircle: (circle: string) => `${circle}. No test can wait for itself; remove one.`,
  aspect: 'Aspect',
  stateOf: (aspect: string) => `State of "${aspect}"`,
  notAParameter: (subject: string) => `Chances can depend on parameters only, not on "${subject}".`,
  parameter: 'Parameter',
  noDefaultRows: 'There is no default and no aspect, so most faults have no chances. Add default.',
  normalMissing: (normal: string) => `Neither default nor ${normal} is here, so a vehicle without a fault has no chances. Add one.`,
  noDefaultRow: 'There is no default and no aspect, so most faults have no chance. Add default.',
  noFaults: 'This system type has no faults, so a statement says nothing. Remove it.',
  statementIsTest: (name: string) => `"${name}" is already a test of this system type. Remove one of the two.`,

  // lintFamily.ts
  unknownInFamily: (what: string, name: string, list: string) => `${what} "${name}" does not exist here. Use one of: ${list}.`,
  change: 'Change',
  symptom: 'Symptom',
  idTwice: (id: string, list: string) => `"${id}" appears twice in ${list}. Give each its own id.`,
  outOfRange: (defaultText: number, min: number, max: number) =>
    `${defaultText} is outside the usual range ${min} to ${max}. Correct the default or the range.`,
  number: 'Number',
  abilityWithoutKey: (id: string) => `"${id}" does not belong to a key, so it shows no ability of one. Add perKey: true or remove abilities.`,
  verdictOf: (kind: string) => `Verdict of "${kind}"`,
  lightPattern: 'Light pattern',
  unknownFeature: (name: string, list: string) => `Feature "${name}" does not exist. Use one of: ${list}.`,
  unknownFeatureValue: (value: string, values: string) => `Value "${value}" does not exist here. Use one of: ${values}.`,
  sharesSum: (sum: string) => `The shares add up to ${sum}, expected 1. Correct them; a value that is left out is never found.`,

  // mergeCommon.ts
  commonInCircle: (list: string) => `${list}. Common parts can't use each other in a circle; remove one.`,
  otherVersion: (version: number) => `It is there in version ${version}.`,
  noSuchCommon: `No common parts have this name.`,
  referenceMissing: (reference: string, there: string) => `"${reference}" is not there. ${there} Correct the reference.`,

  // schema.ts
  idForm: 'an id: letters and digits, starting with a small letter, parts joined by -',
  dateForm: 'a date such as 2026-03-04',
  s: 'Hz',
  rowForm: 'default, the id of a fault, or an aspect and its state such as immobilizer.refuses',
  testForm: 'a test, or a test and its outcome such as detectorProven.works',
  referenceForm: 'a name and version such as start@1',
} as const;
