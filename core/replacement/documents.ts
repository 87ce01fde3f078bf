import { type Checked, type Effect, type PartName, partNames } from '../library';

/** Where the part that goes in comes from. `repaired`: the vehicle's own, which keeps what it held. */
export const origins = ['new', 'donor', 'remanufactured', 'repaired'] as const;
export type Origin = (typeof origins)[number];

/** What may be replaced around the immobilizer. */
export const moduleNames = partNames;
export type ModuleName = PartName;

/** What a part may hold or need. */
export const items = [
  'identity',
  'calibration',
  'configuration',
  'keyList',
  'secret',
  'pairing',
  'counters',
  'code',
  'cut',
  'listed',
  'remote',
] as const;
export type Item = (typeof items)[number];

/** How an item comes back. */
export const ways = ['programmed', 'transferred', 'relearned', 'resetFirst', 'byItself', 'checked'] as const;
export type Way = (typeof ways)[number];

/** Who or what does a step: a person without a scan tool, a scan tool, or somebody with authorized data and equipment. */
export const doers = ['hand', 'scanTool', 'outside'] as const;
export type Doer = (typeof doers)[number];

/** An item of one module, as `engine.identity`; or what a step leaves behind, as `engine.installed`. */
export type FactName = string;

export interface Hold {
  /** Items of other modules that must be the ones it was made with: once one of them is new, this is void too. */
  with: FactName[];
  /** Origins with which the part that goes in already has it. */
  kept: Origin[];
  /** The vehicle runs without it, and it can be set another day; so can counters always. Else what can't be brought back is a reason not to begin. */
  later?: true;
  /** A figure the law protects: the odometer. */
  mileage?: true;
}

/** A part that holds something. `electronic`: a control module, which can be read and can be damaged; else it holds without power, as a lock does. */
export interface HoldingPart {
  title: string;
  electronic: boolean;
  holds: Partial<Record<Item, Hold>>;
  /** A used one may hold another car's data, and no scan tool may meet it before it has learned this car. */
  learnsFirst?: true;
  /** What to do where an item can't be brought back. */
  otherwise: string;
  /** Said where the part that goes in has one of these origins. */
  warns?: { id: string; origins: Origin[]; say: string }[];
}

/** A part of a system type: it holds something, holds nothing, is another part here, or isn't there. */
export type Part = HoldingPart | { title: string; plain: string } | { same: ModuleName } | { absent: string };

/** The order of what could be done at the same time: before anything is unplugged, putting it in, bringing back what it held, figures, what closes. */
export const stages = ['before', 'fit', 'reset', 'restore', 'after'] as const;
export type Stage = (typeof stages)[number];

/** Where in a case an act is written down, so that it is done as soon as that is complete: its scans, the numbers of both parts, and so on. */
export const places = ['scan', 'variant', 'saved', 'cause', 'counters', 'verify'] as const;
export type Place = (typeof places)[number];

/** Something that may have damaged a module, to be looked at before the next one is plugged in. */
export interface Cause {
  id: string;
  say: string;
  /** The modules that it may have damaged. */
  of: ModuleName[];
}

/**
 * Which of the replaced parts an act is made for; a key is none of them. `electronic`: control modules. `holding`: what holds anything. `counting`: what
 * holds counters. `mechanical`: what is no control module. `vehicle`: any of them.
 */
export const partKinds = ['electronic', 'holding', 'counting', 'mechanical', 'vehicle'] as const;
export type PartKind = (typeof partKinds)[number];

export interface KeysNeeded {
  /** So many keys that are known now. */
  learned?: number;
  main?: number;
  master?: number;
}

export interface Act {
  id: string;
  title: string;
  /** What for, as one would say it to a colleague. */
  why: string;
  stage: Stage;
  back: Way;
  by: Doer;
  /** Elapsed minutes, and those of them that need a person. */
  minutes: number;
  attended: number;
  tools: string[];
  /** Money beyond the minutes, in the shop's currency. */
  money: number;
  /** What may go wrong. */
  risk?: string;
  procedure?: string;
  place?: Place;
  effect: Effect;
  /** Once for each replaced part of a kind; its name then stands for `$part`. */
  each?: PartKind;
  /** Once, where any replaced part is of this kind. */
  any?: PartKind;
  /** Only where one of these parts is replaced with one of these origins. */
  replaced?: Partial<Record<ModuleName, Origin[]>>;
  /** Only where all of these parts are replaced, each with one of the act's origins: parts that come as a set. */
  together: ModuleName[];
  /** Only where none of these parts is replaced. */
  unlessReplaced: ModuleName[];
  /** Of the part that `each` or `any` speaks of. */
  origins: Origin[];
  needs: FactName[];
  gives: FactName[];
  takes: FactName[];
  /** It waits until these items of every replaced part are there. */
  afterItems: Item[];
  keys: KeysNeeded;
  /** With the module out of the vehicle: before it goes in. */
  bench?: true;
  /** Only where no scan tool does the act of this name. */
  insteadOf?: string;
  /** Left out where the new part is already in. */
  untilInstalled?: true;
  warns?: { id: string; say: string };
}

/** Acts that several system types share. */
export interface SharedActs {
  kind: 'replacement-acts';
  id: string;
  version: number;
  source: string;
  checked: Checked;
  acts: Act[];
  causes: Cause[];
}

/** What the parts of one system type hold, and how each item is brought back. Its id is that of the system type. */
export interface Replacement {
  kind: 'replacement';
  id: string;
  version: number;
  source: string;
  checked: Checked;
  /** Shared acts, as `id@version`. */
  use: string[];
  /** Shared acts that this system type has none of. */
  without: string[];
  /** Further keys need a main key, so the last main key is worth a warning. */
  mainKeys: boolean;
  parts: Record<ModuleName, Part>;
  acts: Act[];
  causes: Cause[];
}

/** What a step leaves behind besides items; each stands behind the name of a part. */
export const marks = ['saved', 'installed', 'clean', 'empty', 'read', 'toolFree', 'out', 'checked'] as const;
/** The one fact that belongs to no part: every module is heard and no communication code is left. */
export const networkQuiet = 'network';

export const holdsSomething = (part: Part): part is HoldingPart => 'holds' in part;
