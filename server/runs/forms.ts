import { type CommandBody, factLimits, interruptions, maxReason } from '../../core/procedure';
import { batteryTypes } from '../../core/reserve';
import {
  choice,
  chosenBy,
  type Field,
  line,
  list,
  needed,
  number,
  optionalLine,
  orElse,
  orNull,
  shape,
  text,
  whole,
  yes,
  yesNo,
} from '../base/field';
import { hash, id, tag } from '../base/fields';
import { parseForm, parseWhole } from '../base/parseForm';

/** Without keys it takes those that the procedure asks for. */
export const parseStartRun = (data: unknown) => parseForm({ procedure: needed(id), keys: list(tag).single().unique().max(40) }, data);

/** What the run screen sends; times are checked here, their meaning in core. */
export type RunCommand = { id: string; expectedSeq: number; occurredAt: number } & CommandBody;
/** What is known of a battery, from a screen or an exported case; its limits are core's. */
export const batteryFacts = shape({
  type: needed(choice(...batteryTypes)),
  ...(Object.fromEntries(Object.entries(factLimits).map(([name, { min, max }]) => [name, needed(number(min, max))])) as Record<
    keyof typeof factLimits,
    Field<number>
  >),
});
/** What an instrument inside a run found. */
export const stepResult = chosenBy(
  'kind',
  {},
  {
    entries: { length: needed(whole(1, 20_000)), sealed: line(80) },
    file: { name: needed(line(200)), size: needed(whole(0, 1e9)), sha256: needed(hash) },
    cell: { volts: needed(number(0, 5)), pressedVolts: needed(number(0, 5)) },
    ladder: {
      ladder: needed(id),
      readings: needed(
        list(orNull(number(0, 1e9)))
          .min(1)
          .max(200),
      ),
      verdict: needed(choice('step', 'between', 'open', 'short', 'unstable')),
      step: needed(orNull(whole(1, 1000))),
    },
  },
);
const step = needed(id);
const reason = needed(text(maxReason).allow(''));
const runCommand = chosenBy(
  'type',
  { id: needed(id), expectedSeq: needed(whole(1, Number.MAX_SAFE_INTEGER)), occurredAt: needed(number(0, Number.MAX_SAFE_INTEGER)) },
  {
    answer: { step, answer: needed(id), value: number(-1e12, 1e12), note: line(maxReason).empty(''), result: stepResult },
    waive: { step, reason },
    interrupt: { what: needed(choice(...interruptions)), note: optionalLine(maxReason) },
    number: { name: needed(id), value: needed(line(60)), source: needed(line(maxReason)), confirmed: orElse(yesNo(), false) },
    battery: { facts: needed(batteryFacts) },
    note: { note: needed(line(maxReason).min(1)), late: yes() },
    takeBack: { event: needed(id) },
    stop: { reason },
  },
);
export const parseRunCommand = (data: unknown): RunCommand => parseWhole(runCommand, data);
