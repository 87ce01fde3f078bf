import { type CommandBody, interruptions, maxReason } from '../../core/procedure';
import { choice, chosenBy, line, needed, number, optionalLine, orElse, text, whole, yesNo } from '../base/field';
import { id } from '../base/fields';
import { parseForm, parseWhole } from '../base/parseForm';

export const parseStartRun = (data: unknown) => parseForm({ procedure: needed(id) }, data);

/** What the run screen sends; times are checked here, their meaning in core. */
export type RunCommand = { id: string; expectedSeq: number; occurredAt: number } & CommandBody;
const step = needed(id);
const reason = needed(text(maxReason).allow(''));
const runCommand = chosenBy(
  'type',
  { id: needed(id), expectedSeq: needed(whole(1, Number.MAX_SAFE_INTEGER)), occurredAt: needed(number(0, Number.MAX_SAFE_INTEGER)) },
  {
    answer: { step, answer: needed(id), value: number(-1e12, 1e12), note: line(maxReason).empty('') },
    waive: { step, reason },
    interrupt: { what: needed(choice(...interruptions)), note: optionalLine(maxReason) },
    number: { name: needed(id), value: needed(line(60)), source: needed(line(maxReason)), confirmed: orElse(yesNo(), false) },
    takeBack: { event: needed(id) },
    stop: { reason },
  },
);
export const parseRunCommand = (data: unknown): RunCommand => parseWhole(runCommand, data);
