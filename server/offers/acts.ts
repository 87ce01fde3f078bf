import { type AgreedOption, type OptionChange, type OptionEntry, type ShownOption } from '../../core/options';
import type { Amount, PriceBook } from '../../core/quote';
import { readAmount } from '../../core/quote';
import type { Problem } from '../../core/units';
import { type Act, actOnce } from '../acts/commands';
import { notify } from '../acts/live';
import type { Right } from '../acts/rights';
import { Refused, refused } from '../base/expected';
import type { Db, Tx } from '../db/open';
import { learnFrom } from '../learning/lessons';
import type { Documents } from '../library/documents';
import { offer } from '../db/schema';
import { caseForChange, type CaseRecord, stillOpen } from '../record/cases';
import { readBook } from '../billing/book';
import type { AgreeForm, ChangeForm, DeclineForm, LookBackForm, OwnForm, PaperForm } from './forms';

/** Most entries of one case. */
export const mostOffers = 1000;

interface What {
  right: Right;
  action: string;
  payload: unknown;
  detail?: Record<string, unknown>;
  /** Papers and what is heard afterwards may be written when a case is closed. */
  whenClosed?: true;
  /** What follows in the same transaction. */
  then?: (tx: Tx, record: CaseRecord) => Promise<void>;
}

/** Adds one entry to a case. */
async function record(db: Db, act: Act, caseId: number, what: What, make: (record: CaseRecord) => OptionEntry): Promise<void> {
  const { whenClosed, payload, then, ...rest } = what;
  await actOnce(db, act, { ...rest, payload: [caseId, payload], caseId }, async (tx) => {
    const known = await caseForChange(tx, caseId);
    if (!whenClosed) stillOpen(known);
    const entry = make(known);
    if (known.offers.length >= mostOffers) throw refused(409, 'tooMany', `A case holds ${mostOffers} entries on options and papers at most.`);
    await tx.insert(offer).values({ caseId, entry, by: act.actor.id, at: act.now });
    await then?.(tx, { ...known, offers: [...known.offers, { ...entry, by: act.actor.name, at: act.now }] });
    await notify(tx, { what: 'case', id: caseId });
    return null;
  });
}

/** What was typed over an option. @throws Refused with each field that is wrong */
function changeOf(form: Omit<ChangeForm, 'option'>, { decimals }: Pick<PriceBook, 'decimals'>): OptionChange {
  const problems: Problem[] = [];
  let parts: Amount | undefined;
  if (form.parts !== '') {
    const read = readAmount(form.parts, decimals);
    if (read.ok) parts = read.value;
    else problems.push(...read.problems.map((p) => ({ ...p, path: 'parts' })));
  }
  const { daysLow, daysHigh } = form;
  if (daysLow !== undefined && daysHigh !== undefined && daysLow > daysHigh)
    problems.push({ code: 'days', path: 'daysHigh', message: 'The latest day can’t come before the earliest. Change one of them.' });
  if (problems.length > 0) throw new Refused(400, problems);
  const low = daysLow ?? daysHigh;
  const high = daysHigh ?? daysLow;
  return {
    ...(form.title === '' ? {} : { title: form.title }),
    ...(form.what === '' ? {} : { what: form.what }),
    ...(form.minutes === undefined ? {} : { minutes: form.minutes }),
    ...(parts === undefined ? {} : { parts }),
    ...(low === undefined || high === undefined ? {} : { days: { low, high } }),
    ...(form.warranty === '' ? {} : { warranty: form.warranty }),
    ...(form.unproven === '' ? {} : { unproven: form.unproven }),
  };
}

export async function changeOption(db: Db, act: Act, caseId: number, form: ChangeForm): Promise<void> {
  const { book } = await readBook(db, act.now);
  const change = changeOf(form, book);
  if (Object.keys(change).length === 0) throw refused(400, 'nothing', 'Nothing is changed yet. Change at least one field.', 'title');
  const { option, reason } = form;
  await record(db, act, caseId, { right: 'makeOffers', action: 'option changed', payload: form, detail: { option, reason } }, () => ({
    kind: 'change',
    option,
    change,
    reason,
  }));
}

export async function addOption(db: Db, act: Act, caseId: number, form: OwnForm): Promise<void> {
  const { book } = await readBook(db, act.now);
  const change = changeOf(form, book);
  if (form.minutes === undefined && change.parts === undefined)
    throw refused(400, 'nothing', 'Say what it costs: minutes of work, parts, or both.', 'minutes');
  await record(db, act, caseId, { right: 'makeOffers', action: 'option added', payload: form, detail: { title: form.title } }, (known) => ({
    kind: 'own',
    id: `own.${known.offers.filter((e) => e.kind === 'own').length + 1}`,
    option: {
      title: form.title,
      what: form.what,
      minutes: form.minutes ?? 0,
      parts: change.parts ?? 0,
      days: change.days ?? { low: 0, high: 0 },
      warranty: form.warranty,
      unproven: form.unproven,
      effects: form.effects,
    },
    reason: form.reason,
  }));
}

export const hideOption = (db: Db, act: Act, caseId: number, form: { option: string; reason: string }): Promise<void> =>
  record(db, act, caseId, { right: 'makeOffers', action: 'option hidden', payload: form, detail: form }, () => ({ kind: 'hide', ...form }));

export const showOption = (db: Db, act: Act, caseId: number, { option }: { option: string }): Promise<void> =>
  record(db, act, caseId, { right: 'makeOffers', action: 'option shown again', payload: option, detail: { option } }, () => ({
    kind: 'show',
    option,
  }));

/** @throws Refused where it isn't said how the customer said it */
function saidOf({ who, how, words, heardAt, signature }: DeclineForm, now: number) {
  if (how === 'signature' && signature === null)
    throw refused(400, 'noSignature', 'Nobody has signed yet. Let the customer sign in the field, or choose another way.', 'signature');
  if ((how === 'phone' || how === 'message') && words === '')
    throw refused(400, 'noWords', how === 'phone' ? 'Write down what was said on the phone.' : 'Copy what the message says.', 'words');
  if (heardAt !== undefined && heardAt > now) throw refused(400, 'future', 'This moment is still to come. Check day and time.', 'heardAt');
  return { who, how, words, ...(heardAt === undefined ? {} : { heardAt }), ...(signature === null ? {} : { signature }) };
}

const agreedAs = ({ id, title, effects, entries, price, minutes }: ShownOption): AgreedOption => ({ id, title, effects, entries, price, minutes });

/**
 * Keeps what the customer agreed to, with each option as it stood.
 * @param offered options that the page shows now, hidden ones too
 * @throws Refused where one is not offered any more, or a sum has changed since it was shown
 */
export async function agree(
  db: Db,
  act: Act,
  caseId: number,
  form: AgreeForm,
  offered: { options: readonly ShownOption[]; book: { version: number; book: PriceBook } },
): Promise<void> {
  const chosen = form.options.map((id) => {
    const found = offered.options.find((o) => o.id === id && o.hidden === null);
    if (!found)
      throw refused(
        409,
        'notOffered',
        'One of these options is not offered any more: something in the case has changed. Look at the list again.',
        'options',
      );
    return found;
  });
  if (form.seen !== '' && form.seen !== seenOf(chosen))
    throw refused(
      409,
      'changed',
      'An amount has changed since this page was loaded. Go over the new amounts with the customer, then send it again.',
      'options',
    );
  let limit: Amount | null = null;
  if (form.limit !== '') {
    const read = readAmount(form.limit, offered.book.book.decimals);
    if (!read.ok)
      throw new Refused(
        400,
        read.problems.map((p) => ({ ...p, path: 'limit' })),
      );
    limit = read.value;
    const least = chosen.reduce((n, o) => n + o.price.low, 0);
    if (limit < least)
      throw refused(400, 'limitLow', 'The limit is less than what was chosen costs at least. Raise it, or choose something else.', 'limit');
  }
  const entry: OptionEntry = {
    kind: 'agree',
    options: chosen.map(agreedAs),
    limit,
    book: offered.book.version,
    ...saidOf(form, act.now),
    declined: offered.options.filter((o) => o.hidden === null && !chosen.includes(o)).map((o) => o.title),
  };
  const detail = { options: chosen.map((o) => o.title), how: form.how };
  await record(db, act, caseId, { right: 'makeOffers', action: 'agreement recorded', payload: form, detail }, () => entry);
}

/** Sums of the chosen options as the page has them: nobody agrees to others. */
export const seenOf = (options: readonly Pick<ShownOption, 'price'>[]): string => options.map((o) => `${o.price.low}-${o.price.high}`).join(' ');

/** The customer wants none of it. */
export async function decline(db: Db, act: Act, caseId: number, form: DeclineForm, offered: readonly ShownOption[]): Promise<void> {
  const declined = offered.filter((o) => o.hidden === null).map((o) => o.title);
  const said = saidOf(form, act.now);
  await record(db, act, caseId, { right: 'makeOffers', action: 'everything declined', payload: form, detail: { how: form.how } }, () => ({
    kind: 'decline',
    ...said,
    declined,
  }));
}

/** Longest sentence of a paper, and most of a part. */
const longest = 400;
const mostLines = 30;

/** Writes a part of the papers; an empty one stays empty. */
export async function writePaper(db: Db, act: Act, caseId: number, { section, lines }: PaperForm): Promise<void> {
  const written = lines
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean);
  if (written.length > mostLines)
    throw refused(400, 'tooMany', `${written.length} sentences are too many for one part. Write at most ${mostLines}.`, 'lines');
  const long = written.findIndex((l) => l.length > longest);
  if (long >= 0) throw refused(400, 'long', `Line ${long + 1} is longer than ${longest} characters. Make two of it.`, 'lines');
  await record(
    db,
    act,
    caseId,
    { right: 'makeOffers', action: 'paper written', payload: { section, lines: written }, detail: { section }, whenClosed: true },
    () => ({ kind: 'paper', section, lines: written }),
  );
}

/** What was heard some days after the hand-over. @throws Refused for a case that isn't closed */
export const lookBack = (db: Db, documents: Documents, act: Act, caseId: number, form: LookBackForm): Promise<void> =>
  record(
    db,
    act,
    caseId,
    {
      right: 'closeCase',
      action: 'asked again after the hand-over',
      payload: form,
      detail: { ...form },
      whenClosed: true,
      then: (tx, record) => learnFrom(tx, documents, record),
    },
    (known) => {
      if (known.state !== 'closed') throw refused(409, 'notClosed', 'This case is not closed: there is nothing to look back on yet.');
      return { kind: 'lookBack', ...form };
    },
  );
