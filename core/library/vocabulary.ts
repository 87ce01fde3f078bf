/** What may have changed before the fault began; families refer to these ids in conditions. */
export const changes = {
  engineModule: 'Engine module replaced',
  guardModule: 'Guard, cluster or body module replaced',
  otherModule: 'Other module replaced',
  batteryFlat: 'Battery flat or replaced',
  jumpStart: 'Jump-started',
  keyDropped: 'Key dropped or wet',
  cover: 'Cover or ornament near the lock',
  newKey: 'New key or remote',
  accident: 'Accident',
  water: 'Water inside',
  softwareAltered: 'Software altered',
  otherRepair: 'Other repair',
} as const satisfies Record<string, string>;

/** What the customer says it does. */
export const symptoms = {
  noCrank: 'Does not crank',
  cranksNoStart: 'Cranks, does not start',
  startsAndDies: 'Starts and dies',
  idlesOnly: 'Idles only',
  intermittent: 'Sometimes',
  dashDark: 'Dash stays dark',
  message: 'A message in the dash',
  remoteDead: 'Remote does nothing',
  oneKeyWorks: 'One key works, another does not',
} as const satisfies Record<string, string>;

export const keyRoles = { main: 'main', valet: 'valet', user: 'user', master: 'master', unknown: 'role not known' } as const satisfies Record<
  string,
  string
>;
export type KeyRole = keyof typeof keyRoles;

/** What was seen that shows the right to have keys and immobilizer worked on. */
export const authorityKinds = {
  registration: 'Registration and identity',
  ownerLetter: 'Letter of the owner',
  fleetOrder: 'Fleet order',
  policeRelease: 'Police release',
} as const satisfies Record<string, string>;

/** What a key can do; each proves only itself (craft.md §3). */
export const abilities = {
  turns: 'turns the lock',
  remote: 'remote works',
  accepted: 'guard accepts',
  cranks: 'cranks',
  runs: 'keeps running',
} as const satisfies Record<string, string>;
export type Ability = keyof typeof abilities;

export const abilityResults = { yes: 'yes', no: 'no', cannotJudge: 'cannot be judged' } as const satisfies Record<string, string>;
export type AbilityResult = keyof typeof abilityResults;

/** The main key first, then the others in the order of their tags: the order in which a relearn takes them. */
export function mainFirst<T extends { tag: string; role: string }>(keys: readonly T[]): T[] {
  return [...keys].sort((a, b) => Number(b.role === 'main') - Number(a.role === 'main') || (a.tag < b.tag ? -1 : 1));
}
