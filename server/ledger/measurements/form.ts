import { burstConditions, limits, mostSamples } from '../../../core/burst';
import { longestWiggleS, mostReadings } from '../../../core/ladder';
import {
  choice,
  chosenBy,
  elseNull,
  type Fields,
  line,
  list,
  needed,
  number,
  optionalLine,
  orElse,
  orNull,
  type Out,
  pair,
  pattern,
  shape,
  text,
  whole,
  yes,
  yesNo,
} from '../../base/field';
import { hash, pin, rowId, tag } from '../../base/fields';
import { parseWhole } from '../../base/parseForm';
import { meterRanges } from '../../shop/meterRanges';

/** Most bursts of one capture that are kept, and captures that one is compared with. */
export const [mostBursts, mostBaselines] = [2000, 200];

const duration = orNull(number(0, 1e7));
const features = { count: needed(whole(0, mostBursts)), lengthMs: needed(duration), spacingMs: needed(duration) };

const keyId = pattern(/^[0-9A-F]{2,128}$/, 'hexadecimal digits');
const ohms = orNull(number(0, 1e9));
const readings = list(ohms).max(mostReadings);
const circumstances = { leadOhms: needed(orNull(number(0, 1000))), temperatureC: needed(orNull(number(-60, 150))) };
const wiggleS = number(0, longestWiggleS + 5);
const group = shape({ side: needed(choice(1, 2)), turned: needed(yesNo()), readings: needed(readings.min(1)) });
type Group = Out<typeof group> | null;
const rawForms = {
  pellet: {
    ...circumstances,
    groups: needed(
      list(group)
        .min(1)
        .max(4)
        .unique((a: Group, b: Group) => a?.side === b?.side && a?.turned === b?.turned),
    ),
    vehicleSteps: orElse(list(whole(0, 9999)).max(2), []),
    stepSource: optionalLine(160),
  },
  wiring: { ...circumstances, key: needed(readings.min(1)), column: needed(readings.min(1)) },
  wiggle: {
    samples: needed(list(pair(wiggleS, ohms)).min(1).max(2000)),
    marks: orElse(list(pair(wiggleS, line(60))).max(100), []),
  },
  trials: {
    what: needed(line(120)),
    hit: needed(line(40)),
    looks: needed(
      list(shape({ atS: needed(number(0, 1e7)), hit: needed(yesNo()), key: elseNull(tag.allow(null)), note: optionalLine(80) }))
        .min(1)
        .max(5000),
    ),
  },
  bursts: {
    name: needed(line(160)),
    condition: needed(choice(...burstConditions)),
    probe: optionalLine(60),
    place: optionalLine(60),
    storedKeys: needed(orNull(whole(0, 40))),
    samples: needed(whole(2, mostSamples)),
    sampleRateHz: needed(number(1, 1e10)),
    noise: needed(number(0, 1e6)),
    bursts: needed(
      list(
        shape({
          startS: needed(number(-1, 1e6)),
          durationS: needed(number(0, 1e6)),
          amplitude: needed(number(0, 1e6)),
          carrierHz: needed(number(0, 1e9)),
          notches: needed(orNull(whole(0, 100_000))),
        }),
      ).max(mostBursts),
    ),
    quality: needed(choice('good', 'limited', 'nothing', 'notMeasurable')),
    limits: orElse(list(choice(...limits)).max(limits.length), []),
    /** Captures of the same thing before it, counted together with it. */
    repeats: orElse(list(shape(features)).max(50), []),
  },
  slots: {
    /** File, size and digest of the read; its bytes stay where they were read. */
    name: needed(line(160)),
    bytes: needed(whole(1, 0x8000_0000)),
    sha256: needed(hash),
    /** Both reads were equal. */
    proven: needed(yesNo()),
    slots: needed(
      list(
        shape({
          slot: needed(whole(0, 9999)),
          state: needed(choice('used', 'empty', 'disabled', 'unclear')),
          keyId: needed(orNull(keyId)),
        }),
      )
        .min(1)
        .max(1000),
    ),
    inHand: orElse(list(shape({ tag: needed(tag), keyId: needed(keyId) })).max(40), []),
    /** What was written since: into an empty slot, over a used one, or a key disabled, the last two with a reason. */
    written: elseNull(
      chosenBy(
        'how',
        { slot: needed(whole(0, 9999)) },
        { new: {}, over: { reason: needed(text(500).min(5)) }, disabled: { reason: needed(text(500).min(5)) } },
      ).allow(null),
    ),
  },
};

const knownCapture = shape({
  condition: needed(choice('foil', 'noKey', 'accepted', 'refused')),
  key: needed(orNull(tag)),
  ofModel: yes(),
  ...features,
});

const ladder = pattern(/^[a-z][A-Za-z0-9-]{0,59}$/, 'the name of a value chart');
/** The shop's meter; empty: not described. */
const meter = optionalLine(60);
const raw = <F extends Fields>(fields: F) => needed(shape(fields));
const measurement = chosenBy(
  'kind',
  {
    case: needed(rowId),
    key: tag.empty(''),
    /** Some of it was read with the simulated meter, whichever meter is chosen now. */
    simulated: orElse(yesNo(), false),
  },
  {
    pellet: { ladder: needed(ladder), meter, raw: raw(rawForms.pellet) },
    wiring: { ladder: needed(ladder), meter, raw: raw(rawForms.wiring) },
    wiggle: { ladder, meter, raw: raw(rawForms.wiggle) },
    trials: { ladder, raw: raw(rawForms.trials) },
    bursts: { raw: raw(rawForms.bursts) },
    slots: { layout: needed(pattern(/^[a-z][A-Za-z0-9-]{0,79}$/, 'the name of a layout')), raw: raw(rawForms.slots) },
  },
);
/** A measurement as the bench sends it. */
export type NewMeasurement = Out<typeof measurement>;
export const parseMeasurement = (data: unknown) => parseWhole(measurement, data);

const keptMeter = shape({ name: needed(line(60)), ranges: meterRanges });
/** A measurement in the file of another shop, with its value chart and meter as they were then: one form for each kind, beside the fields that all have. */
export const keptMeasurement = <C extends Fields>(common: C) =>
  chosenBy('kind', common, {
    pellet: { raw: raw({ ...rawForms.pellet, ladder: needed(pin), meter: keptMeter }) },
    wiring: { raw: raw({ ...rawForms.wiring, ladder: needed(pin), meter: keptMeter }) },
    wiggle: { raw: raw({ ...rawForms.wiggle, meter: keptMeter }) },
    trials: { raw: raw({ ...rawForms.trials, meter: keptMeter }) },
    bursts: { raw: raw({ ...rawForms.bursts, against: needed(list(knownCapture).max(mostBaselines)) }) },
    slots: {
      raw: raw({ ...rawForms.slots, layout: needed(shape({ id: needed(line(80)), version: needed(whole(1, 100_000)), title: needed(line(160)) })) }),
    },
  });
