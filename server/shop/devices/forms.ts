import { line, needed, number, orNull } from '../../base/field';
import { parseForm } from '../../base/parseForm';

const meter = needed(line(60).min(1));
export const parseMeterAsked = (data: unknown) => parseForm({ meter }, data);

/** What the simulated meter is to be connected to; null ohms: nothing. Badness 0: a sound contact, 1: open more often than not. */
export const parseCircuit = (data: unknown) => parseForm({ meter, ohms: needed(orNull(number(0, 1e9))), badness: needed(number(0, 1)) }, data);
export type CircuitForm = ReturnType<typeof parseCircuit>;
