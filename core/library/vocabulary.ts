import type { Quantity } from '../units';

/** What may have changed before the fault began; families refer to these ids in conditions. */
export const changes = {
  ecm: 'ECM replaced',
  immobilizerModule: 'Immobilizer, cluster or BCM replaced',
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

/** What it does, according to the customer. */
export const symptoms = {
  noCrank: 'Does not crank',
  cranksNoStart: 'Cranks, does not start',
  startsAndDies: 'Starts and dies',
  idlesOnly: 'Idles only',
  intermittent: 'Sometimes',
  dashDark: 'Dash stays dark',
  message: 'A message on the dash',
  remoteDead: 'Remote does nothing',
  oneKeyWorks: 'One key works, another does not',
  alarm: 'Alarm sounds',
} as const satisfies Record<string, string>;

/** How often it fails, as far as the customer can say. */
export const howOften = {
  nearlyAlways: 'Nearly every start',
  half: 'About every second start',
  sometimes: 'One start in ten',
  rarely: 'Once every few weeks',
} as const satisfies Record<string, string>;

/** How the vehicle came. */
export const arrivals = { driven: 'Driven here', towed: 'Towed', stoodHere: 'Still where it stopped' } as const satisfies Record<string, string>;

/** What kind of key it is, as it is seen in the hand (craft.md §2). */
export const keyKinds = {
  unknown: 'kind not known',
  plain: 'plain metal key',
  pellet: 'key with a resistor chip in the blade',
  chipHead: 'blade key, chip in the head',
  buttonHead: 'button head with a chip',
  slotFob: 'fob for a slot, no blade',
  pushFob: 'fob for a push button',
} as const satisfies Record<string, string>;
export type KeyKind = keyof typeof keyKinds;

/** What came without a vehicle, besides keys. */
export const partKinds = { module: 'module', chip: 'chip', lock: 'lock or cylinder', other: 'other part' } as const satisfies Record<string, string>;

/** Counters that a replaced or reset module may lose, with the units they are read in. */
export const counters = {
  odometer: { say: 'Odometer', units: ['mi', 'km'] },
  serviceInterval: { say: 'Service interval', units: ['mi', 'km', 'days'] },
  oilLife: { say: 'Oil life', units: ['%', 'mi', 'km'] },
  keysStored: { say: 'Keys stored', units: ['keys'] },
} as const satisfies Record<string, { say: string; units: readonly string[] }>;

/** More keys than any module stores. Our own choice. */
const mostKeys = 99;

/** How a counter is typed: whole miles, kilometers, days and keys; the oil's life may have decimals. */
export const counterQuantity = (unit: string): Quantity => ({
  unit,
  min: 0,
  max: unit === 'keys' ? mostKeys : 10_000_000,
  ...(unit === '%' ? {} : { whole: true }),
});

/** What of a new key is bought. */
export const keyExtents = { shell: 'shell only', complete: 'complete key' } as const satisfies Record<string, string>;
/** What its chip holds. */
export const chipMemories = { unknown: 'not known', blank: 'blank', used: 'used before', locked: 'locked' } as const satisfies Record<string, string>;
export type ChipMemory = keyof typeof chipMemories;

export const keyRoles = { main: 'main', valet: 'valet', user: 'user', master: 'master', unknown: 'role not known' } as const satisfies Record<
  string,
  string
>;
export type KeyRole = keyof typeof keyRoles;

/** What was seen that shows the right to have keys and immobilizer worked on; `other` only by a lead, with a reason. */
export const authorityKinds = {
  registration: 'Registration and identity',
  ownerLetter: 'Letter from the owner',
  fleetOrder: 'Fleet order',
  policeRelease: 'Police release',
  other: 'Other, for a written reason',
  sender: 'Sender’s identity',
} as const satisfies Record<string, string>;

/** What a key can do; each proves only itself (craft.md §3). */
export const abilities = {
  turns: 'turns the lock',
  doors: 'opens doors',
  remote: 'remote works',
  infrared: 'infrared works',
  chipReads: 'chip reads in a key reader',
  accepted: 'key accepted',
  cranks: 'cranks',
  runs: 'keeps running',
} as const satisfies Record<string, string>;
export type Ability = keyof typeof abilities;

export const abilityResults = { yes: 'yes', no: 'no', cannotJudge: 'not tested', hasNot: 'N/A' } as const satisfies Record<string, string>;
export type AbilityResult = keyof typeof abilityResults;

/** A key that must come first when keys are taught. */
export const comesFirst = (key: { role: string }): boolean => key.role === 'main' || key.role === 'master';

/** The main or master key first, then the others in the order of their tags: the order in which a relearn takes them. */
export function mainFirst<T extends { tag: string; role: string }>(keys: readonly T[]): T[] {
  return [...keys].sort((a, b) => Number(comesFirst(b)) - Number(comesFirst(a)) || (a.tag < b.tag ? -1 : 1));
}

/** What a control module may hold; a replaced one has lost it. */
export const moduleHolds = {
  identity: 'vehicle identity',
  calibration: 'calibration',
  keyList: 'list of keys',
  secret: 'shared secret',
  pairing: 'pairing with other modules',
  configuration: 'configuration',
  counters: 'counters',
} as const satisfies Record<string, string>;
export type ModuleHold = keyof typeof moduleHolds;

/** Parts around the immobilizer that may be replaced. */
export const partNames = ['engine', 'immobilizer', 'body', 'cluster', 'lock', 'steering', 'reader', 'key'] as const;
export type PartName = (typeof partNames)[number];

/** Where on the car or key a test is made; drawn beside it. */
export const testPlaces = ['key', 'lock', 'column', 'cluster', 'scanTool', 'box', 'bay', 'pedals', 'outside', 'papers'] as const;
export type TestPlace = (typeof testPlaces)[number];

/** What a test does in the first ten minutes: what the immobilizer says, a sign noticed in passing, a cheap look, live data, the engine's own behaviour. */
export const triageRoles = ['immobilizer', 'sign', 'cheap', 'live', 'engine'] as const;
export type TriageRole = (typeof triageRoles)[number];

/** When one begins to look at a lamp, in the order in which one comes to it. */
export const lampMoments = ['key-out', 'key-in', 'ignition-on', 'after-attempt'] as const;
export type LampMoment = (typeof lampMoments)[number];

/**
 * What a fault shows, by the thing one looks at; the first state is that of a vehicle without a fault. A fault says what it shows, a test says how often
 * it answers what under each state, and so neither has to know the other.
 */
export const aspects = {
  battery: ['healthy', 'low', 'flat'],
  cluster: ['wakes', 'dark'],
  /** What the immobilizer makes of a key: it hears none, it hears one it does not know, it is dead, it can't decide, its alarm is latched. */
  immobilizer: ['accepts', 'refuses', 'misses', 'mute', 'stuck', 'latched'],
  /** `blocked`: whatever the immobilizer of this vehicle cuts. */
  engine: ['runs', 'blocked', 'silent', 'cranks', 'dies', 'slow', 'clicks', 'idles'],
  /** The key by itself, in a reader or under a meter. */
  key: ['reads', 'silent', 'strange'],
  /** The reader's side: coil, aerial, window or contacts. */
  coil: ['works', 'sometimes', 'never'],
  /** The immobilizer's list of keys, as a scan tool shows it. */
  memory: ['knows', 'lacks', 'empty', 'mute'],
  release: ['given', 'withheld', 'mute'],
  /** Who answers a scan. */
  scan: ['all', 'immobilizerMissing', 'engineMissing'],
} as const satisfies Record<string, readonly [string, ...string[]]>;
export type Aspect = keyof typeof aspects;

/** Groups in which faults are told and compared. */
export const faultGroups = {
  power: 'power and grounds',
  switch: 'switch or button',
  interlock: 'brake, clutch, park switches',
  reader: 'reader',
  key: 'key',
  interference: 'interference',
  immobilizer: 'immobilizer module',
  steering: 'steering lock',
  network: 'network',
  release: 'start enable',
  starter: 'starter',
  engine: 'fuel and spark',
  human: 'what people did',
} as const satisfies Record<string, string>;
export type FaultGroup = keyof typeof faultGroups;

/** Instruments that answer a test, with the verdicts they come to. */
export const instrumentVerdicts = {
  /** A resistor key alone against a ladder. */
  pellet: ['step', 'between', 'open', 'short', 'unstable'],
  /** Its step against the one that the vehicle is known to have. */
  vehicleStep: ['equal', 'other'],
  /** The key alone against the key through the column. */
  wiring: ['equal', 'series', 'parallel', 'open', 'short', 'jumping', 'unclear'],
  /** Read without a pause while the column is moved. */
  wiggle: ['same', 'changes'],
  /** A resistor in place of the contacts. */
  substitute: ['accepted', 'refused'],
  /** A yes/no look, repeated. */
  trials: ['always', 'sometimes', 'never'],
  /** Bursts of the antenna coil beside captures of this vehicle whose condition is known. */
  bursts: ['nothing', 'accepted', 'refused', 'none'],
  /** Their number alone. */
  burstCount: ['noBurst', 'one', 'several'],
} as const satisfies Record<string, readonly string[]>;
export type InstrumentKind = keyof typeof instrumentVerdicts;

/** What was measured, as a line of the ledger says it. */
export const measurementWords = {
  pellet: 'Key measured',
  wiring: 'Key and wiring',
  wiggle: 'Steering column moved',
  trials: 'Checks counted',
  bursts: 'Bursts measured',
  slots: 'Key slots read',
} as const;

/** How a fix is confirmed, beside every key that starts it: the suspected cause is put back once; several starts; a start after a rest; a start under load. */
export const proofs = { putBack: 'put back once', starts: 'repeat starts', rest: 'after a rest', load: 'under load' } as const;
export type ProofKind = keyof typeof proofs;
