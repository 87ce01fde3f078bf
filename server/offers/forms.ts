import { agreementWays, paperSections, stayedAnswers } from '../../core/options';
import { effects } from '../../core/library';
import { choice, line, list, many, maybe, needed, number, optionalLine, orElse, orNull, orEmpty, text, whole } from '../base/field';
import { parseForm } from '../base/parseForm';
import { minutesOfWork, optionId, reason, signature } from './entries';

/** Forms of options, agreement, papers and what is heard afterwards. */

const named = <const N extends readonly string[]>(names: N) => Object.fromEntries(names.map((n) => [n, n])) as { [K in N[number]]: K };
/** An amount as it was typed; it is read with the places of the price book. */
const amount = line(20);

/** What the shop writes over an option, or an option of its own; what is left empty stays as proposed. */
const written = {
  title: orEmpty(line(120)),
  what: orEmpty(line(400)),
  minutes: maybe(minutesOfWork),
  parts: orEmpty(amount),
  daysLow: maybe(whole(0, 365)),
  daysHigh: maybe(whole(0, 365)),
  warranty: orEmpty(line(200)),
  unproven: orEmpty(line(300)),
  reason,
};

const changeForm = { option: needed(optionId), ...written };
export const parseChangeForm = (data: unknown) => parseForm(changeForm, data);
export type ChangeForm = ReturnType<typeof parseChangeForm>;

const ownForm = { ...written, title: needed(line(120)), effects: many(named(effects)) };
export const parseOwnForm = (data: unknown) => parseForm(ownForm, data);
export type OwnForm = ReturnType<typeof parseOwnForm>;

const hideForm = { option: needed(optionId), reason };
export const parseHideForm = (data: unknown) => parseForm(hideForm, data);
const showForm = { option: needed(optionId) };
export const parseShowForm = (data: unknown) => parseForm(showForm, data);

const said = {
  who: optionalLine(80),
  how: needed(choice(...agreementWays)),
  words: optionalLine(500),
  /** On the telephone: when, ms. */
  heardAt: maybe(number(0, 4_102_444_800_000)),
  signature: orElse(orNull(signature), null),
  /** Sums that were on the page, so that nobody agrees to others. */
  seen: orEmpty(line(600)),
};
const agreeForm = { options: needed(list(optionId).single().min(1).max(20).unique()), limit: orEmpty(amount), ...said };
export const parseAgreeForm = (data: unknown) => parseForm(agreeForm, data);
export type AgreeForm = ReturnType<typeof parseAgreeForm>;

const declineForm = said;
export const parseDeclineForm = (data: unknown) => parseForm(declineForm, data);
export type DeclineForm = ReturnType<typeof parseDeclineForm>;

const paperForm = { section: needed(choice(...paperSections)), lines: orElse(text(13_000).allow(''), '') };
export const parsePaperForm = (data: unknown) => parseForm(paperForm, data);
export type PaperForm = ReturnType<typeof parsePaperForm>;

const lookBackForm = { stayed: needed(choice(...stayedAnswers)), note: optionalLine(300) };
export const parseLookBackForm = (data: unknown) => parseForm(lookBackForm, data);
export type LookBackForm = ReturnType<typeof parseLookBackForm>;

const leaveOutForm = { reason };
export const parseLeaveOut = (data: unknown) => parseForm(leaveOutForm, data);
