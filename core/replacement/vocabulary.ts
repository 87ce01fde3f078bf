import { moduleHolds } from '../library';
import type { Doer, Item, ModuleName, Origin, Way } from './documents';
import type { Savable, StepState } from './answers';
import type { VariantField } from './variant';

/** Where a part comes from. */
export const originWords: Readonly<Record<Origin, string>> = {
  new: 'New',
  donor: 'Used, from another vehicle',
  remanufactured: 'Remanufactured',
  repaired: 'The vehicle’s own, repaired',
};

export const moduleWords: Readonly<Record<ModuleName, string>> = {
  engine: 'ECM',
  immobilizer: 'Immobilizer module',
  body: 'BCM',
  cluster: 'Instrument cluster',
  lock: 'Ignition switch or lock',
  steering: 'Steering lock',
  reader: 'Key reader',
  key: 'Key',
};

export const itemWords: Readonly<Record<Item, string>> = {
  ...moduleHolds,
  code: 'code of the lock',
  cut: 'cut of the blade',
  listed: 'place in the list of keys',
  remote: 'remote function',
};

export const wayWords: Readonly<Record<Way, string>> = {
  programmed: 'programmed',
  transferred: 'transferred',
  relearned: 'relearned',
  resetFirst: 'reset first',
  byItself: 'by itself',
  checked: 'checked',
};

export const doerWords: Readonly<Record<Doer, string>> = { hand: 'by hand', scanTool: 'scan tool', outside: 'authorized data and equipment' };

export const warningWords = {
  usedBeforeTool:
    'A used or remanufactured module may still hold another car’s data. Connect no scan tool to it before it has learned this car, unless its papers allow it.',
  bothAtOnce: 'Two modules at once leave nothing in the car that knows the keys. Keep the old ones until every key works.',
  mileage: 'The odometer may only be set as the law allows. Note the old reading and what was done.',
  valetOnly: 'Only a valet key is left. It starts the engine but can’t open learning.',
  singleKey: 'Only one learned key is left. Offer a second one while this one still works.',
  noKey: 'No learned key is left. Check proof of authority first.',
  keysForgotten: 'Keys that are not presented are forgotten. Have every key here before it begins.',
  noScan: 'Without a scan tool nobody sees which modules answer or which trouble codes are left. Note that in the report.',
} as const satisfies Record<string, string>;

/** What a step leaves behind, besides items. */
export const markWords = {
  saved: 'saved data',
  installed: 'installation',
  clean: 'release from its old car',
  empty: 'empty list of keys',
  read: 'VIN read',
  toolFree: 'permission to meet a scan tool',
  out: 'bench work',
  checked: 'check before writing',
} as const satisfies Record<string, string>;

export const roleWords = { learned: 'learned', main: 'main', master: 'master' } as const;

/** The tool by which modules are read, cleared and written through the vehicle's socket, as `tools` name it. */
export const scanTool = 'scan tool';

/** What is saved of a module before it comes out. */
export const savableWords: Readonly<Record<Savable, string>> = {
  identity: 'VIN stored in it',
  configuration: 'Configuration',
  counters: 'Counters: mileage, oil life, hours',
  keyCount: 'Number of learned keys',
  codes: 'Trouble codes and who answered',
};

/** What happens where it is not saved. */
export const unsavedWords: Readonly<Record<Savable, string>> = {
  identity: 'Nobody can tell later whether the module belonged to this vehicle.',
  configuration: 'The new module has to be set up from the build data, option by option.',
  counters: 'Mileage, oil life and hours start wrong, and the customer has to be told.',
  keyCount: 'Nobody knows whether a key is missing that still started the vehicle.',
  codes: 'Trouble codes that the swap sets can’t be told from those of before.',
};

export const savedAnswerWords = { saved: 'Saved', unreadable: 'Can’t be read' } as const;
export const causeAnswerWords = { good: 'Good', fixed: 'Was bad, fixed', bad: 'Bad', notChecked: 'Not checked' } as const;
export const stepStateWords: Readonly<Record<StepState, string>> = {
  done: 'Done',
  failed: 'Failed',
  leftOut: 'Left out',
  stopped: 'Stopped',
  open: 'Open',
};
export const variantWords: Readonly<Record<VariantField, string>> = {
  part: 'Part number',
  hardware: 'Hardware number',
  software: 'Software number',
  digits: 'Label digits',
  supplier: 'Supplier',
  serial: 'Serial number',
  warranty: 'Warranty until',
};
