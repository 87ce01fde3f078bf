import { longestLookS } from '../../core/lamp';
import { lampMoments } from '../../core/library';
import { choice, list, needed, number, optionalLine, orElse, pair, quantity, shape, where, yesNo } from '../base/field';
import { id, rowId, tag } from '../base/fields';
import { parseForm } from '../base/parseForm';
import { repairActionKinds } from '../db/schema';

/** Forms of what is recorded in a case: tests, repairs, lights that were watched. */

/** How long it took. A tenth of a minute is as fine as anybody counts, and a day is longer than any test. */
const minutes = quantity({ unit: 'min', min: 0, max: 1440 })
  .custom((n: number) => Math.round(n * 10) / 10)
  .empty('');
export const parseEvidence = (data: unknown) =>
  parseForm({ test: needed(id), outcome: needed(id), key: tag.empty(''), note: optionalLine(500), replaces: id.empty(''), minutes }, data);
export type NewEvidence = ReturnType<typeof parseEvidence>;

/** Something done about a fault. */
export const parseRepairAction = (data: unknown) =>
  parseForm(
    {
      kind: needed(choice(...repairActionKinds)),
      fault: needed(id),
      key: tag.empty(''),
      result: where('kind', 'repair', needed(choice('works', 'fails', 'done')), needed(choice('works', 'fails'))),
      note: optionalLine(500),
      replaces: id.empty(''),
      minutes,
    },
    data,
  );
export type NewRepairAction = ReturnType<typeof parseRepairAction>;

/** More lights than a recording that was kept can hold. */
const mostLights = 3000;
/** Lights of a new recording: each is weighed under every pattern of every system, on the thread that answers pages. Flashing four times a second these are 100 s. */
const mostNewLights = 400;
const seconds = number(0, longestLookS);
const lights = (most: number) => orElse(list(pair(seconds, seconds)).max(most), []);
export const lookFields = {
  moment: needed(choice(...lampMoments)),
  lit: lights(mostLights),
  litAtEnd: orElse(yesNo(), false),
  lengthS: orElse(seconds, 0),
};
/** A light that was watched, as the bench sends it. Without lights and length it was found by eye to be none of the family's patterns. */
export const parseLook = (data: unknown) =>
  parseForm(
    {
      ...lookFields,
      lit: lights(mostNewLights),
      case: needed(rowId),
      key: tag.empty(''),
      origin: needed(choice('tapped', 'file', 'eye')),
      file: optionalLine(160),
    },
    data,
  );
export type NewLook = ReturnType<typeof parseLook>;

/** A light in a video that was watched and tapped along. */
export const film = shape({ ...lookFields, lit: lights(mostNewLights), lengthS: needed(seconds.greater(0)) });
