import Joi from 'joi';
import { longestWiggleS, mostReadings } from '../../../core/ladder';
import type { MeasurementKind } from '../../db/schema';
import type { PelletRaw, Raw } from '../../record/measured';
import { meterRanges } from '../../shop/meterRanges';
import { tag } from '../../base/fields';
import { line, optionalLine, parseForm } from '../../base/parseForm';

const ohms = Joi.number().min(0).max(1e9).allow(null);
const readings = Joi.array().items(ohms).max(mostReadings);
const circumstances = {
  leadOhms: Joi.number().min(0).max(1000).allow(null).required(),
  temperatureC: Joi.number().min(-60).max(150).allow(null).required(),
};
const wiggleS = Joi.number()
  .min(0)
  .max(longestWiggleS + 5)
  .required();
const rawForms = {
  pellet: {
    ...circumstances,
    groups: Joi.array()
      .items(Joi.object({ side: Joi.number().valid(1, 2).required(), turned: Joi.boolean().required(), readings: readings.min(1).required() }))
      .min(1)
      .max(4)
      .unique((a: PelletRaw['groups'][0] | null, b: PelletRaw['groups'][0] | null) => a?.side === b?.side && a?.turned === b?.turned)
      .required(),
    vehicleSteps: Joi.array().items(Joi.number().integer().min(0).max(9999)).max(2).default([]),
    stepSource: optionalLine(160),
  },
  wiring: { ...circumstances, key: readings.min(1).required(), column: readings.min(1).required() },
  wiggle: {
    samples: Joi.array().items(Joi.array().ordered(wiggleS, ohms.required()).length(2)).min(1).max(2000).required(),
    marks: Joi.array()
      .items(Joi.array().ordered(wiggleS, line(60).required()).length(2))
      .max(100)
      .default([]),
  },
  trials: {
    what: line(120).required(),
    hit: line(40).required(),
    looks: Joi.array()
      .items(
        Joi.object({
          atS: Joi.number().min(0).max(1e7).required(),
          hit: Joi.boolean().required(),
          key: tag.allow(null).default(null),
          note: optionalLine(80),
        }),
      )
      .min(1)
      .max(5000)
      .required(),
  },
} as const satisfies Record<MeasurementKind, Joi.PartialSchemaMap>;

/** A measurement as the bench sends it. */
export type NewMeasurement = {
  [K in MeasurementKind]: { kind: K; case: number; key?: string; ladder?: string; meter?: string; simulated: boolean; raw: Raw[K] };
}[MeasurementKind];

const isResistance = Joi.valid('pellet', 'wiring', 'wiggle');
const envelope = {
  kind: Joi.string()
    .valid(...Object.keys(rawForms))
    .required(),
  case: Joi.number().integer().min(1).max(999_999_999).required(),
  key: tag.empty(''),
  ladder: Joi.string()
    .pattern(/^[a-z][A-Za-z0-9-]{0,59}$/, 'the name of a value chart')
    .when('kind', { is: Joi.valid('pellet', 'wiring'), then: Joi.required() }),
  /** The shop's meter; empty: not described. */
  meter: optionalLine(60).when('kind', { is: isResistance, otherwise: Joi.forbidden() }),
  /** Some of it was read with the simulated meter, whichever meter is chosen now. */
  simulated: Joi.boolean().default(false),
};

/** One form for each kind of `raw`, chosen by the kind that stands beside it. */
const rawOf = (more: (kind: MeasurementKind) => Joi.PartialSchemaMap): Joi.Schema =>
  Object.entries<Joi.PartialSchemaMap>(rawForms).reduce<Joi.Schema>(
    (schema, [kind, fields]) =>
      Joi.when('kind', { is: kind, then: Joi.object({ ...fields, ...more(kind as MeasurementKind) }).required(), otherwise: schema }),
    Joi.any(),
  );

export const parseMeasurement = (data: unknown) => parseForm<NewMeasurement>(Joi.object({ ...envelope, raw: rawOf(() => ({})) }), data);

const pin = Joi.object({
  id: line(60).required(),
  version: Joi.number().integer().min(1).required(),
  hash: Joi.string().hex().length(64).required(),
});

/** What stands in the database or in the file of another shop. */
export const keptMeasurement = {
  kind: envelope.kind,
  raw: rawOf((kind) => ({
    ladder: kind === 'pellet' || kind === 'wiring' ? pin.required() : pin.forbidden(),
    meter: Joi.object({ name: line(60).required(), ranges: meterRanges }),
  })),
};
