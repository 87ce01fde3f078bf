import Joi from 'joi';
import { line, parseForm } from '../../base/parseForm';

export const parseMeterAsked = (data: unknown) => parseForm<{ meter: string }>(Joi.object({ meter: line(60).min(1).required() }), data);

/** What the simulated meter is to be connected to; null ohms: nothing. */
export interface CircuitForm {
  meter: string;
  ohms: number | null;
  /** 0: a sound contact, 1: open more often than not. */
  badness: number;
}
export const parseCircuit = (data: unknown) =>
  parseForm<CircuitForm>(
    Joi.object({
      meter: line(60).min(1).required(),
      ohms: Joi.number().min(0).max(1e9).allow(null).required(),
      badness: Joi.number().min(0).max(1).required(),
    }),
    data,
  );
