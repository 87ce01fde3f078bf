import type { Burst, BurstCondition, BurstFeatures, KnownCapture, Limit, Measured } from '../../core/burst';
import type { Meter, SentReading } from '../../core/ladder';
import type { DocumentPin } from '../../core/library';
import type { KeyInHand, SlotAct, SlotState } from '../../core/memory';
import type { MeasurementKind } from '../db/schema';

/** What instruments measured, as it is stored: every reading, and under what it was read. */

/** Under what resistances were read. */
export interface Circumstances {
  leadOhms: number | null;
  temperatureC: number | null;
}

export interface PelletRaw extends Circumstances {
  groups: { side: 1 | 2; turned: boolean; readings: SentReading[] }[];
  /** The step that the vehicle is known to have, by side, and where that is known from; none where nobody knows. */
  vehicleSteps: number[];
  stepSource: string;
}
export interface WiringRaw extends Circumstances {
  key: SentReading[];
  column: SentReading[];
}
export interface WiggleRaw {
  samples: [number, SentReading][];
  marks: [number, string][];
}
export interface TrialsRaw {
  /** What was looked at, and what a hit is called. */
  what: string;
  hit: string;
  /** Seconds from the first look; the key, or null where none was in. */
  looks: { atS: number; hit: boolean; key: string | null; note: string }[];
}

export interface BurstsRaw {
  /** Name of the capture's file; or of the simulated source. */
  name: string;
  condition: BurstCondition;
  /** Only like is compared with like. */
  probe: string;
  place: string;
  storedKeys: number | null;
  samples: number;
  sampleRateHz: number;
  noise: number;
  bursts: Pick<Burst, 'startS' | 'durationS' | 'amplitude' | 'carrierHz' | 'notches'>[];
  quality: Measured['quality'];
  limits: Limit[];
  /** Captures of the same thing before it, counted together with it. */
  repeats: BurstFeatures[];
  /** Captures of this vehicle that it was compared with, as they were then. */
  against: KnownCapture[];
}

export interface SlotsRaw {
  name: string;
  bytes: number;
  sha256: string;
  proven: boolean;
  slots: { slot: number; state: SlotState; keyId: string | null }[];
  /** Keys in hand with the identity that a key reader shows. */
  inHand: KeyInHand[];
  written: SlotAct | null;
  /** The layout it was read by; what it said then. */
  layout: { id: string; version: number; title: string };
}

export type Raw = { pellet: PelletRaw; wiring: WiringRaw; wiggle: WiggleRaw; trials: TrialsRaw; bursts: BurstsRaw; slots: SlotsRaw };
/** What is kept: all that was read, with the ladder's version and the meter as it was described then. */
export type Kept<K extends MeasurementKind = MeasurementKind> = Raw[K] & { ladder?: DocumentPin; meter?: Meter };
