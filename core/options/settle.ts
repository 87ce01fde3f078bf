import { type Effect, gates } from '../library';
import type { Amount, Bill, BillEntry, PriceBook } from '../quote';
import { type Option, optionBill, type Span } from './option';
import { sentences } from './sentences';

/** How the customer said it. */
export const agreementWays = ['signature', 'phone', 'message', 'inPerson'] as const;
export type AgreementWay = (typeof agreementWays)[number];

/** Strokes of a signature on a field of a width and height, each a run of x and y in turn. */
export interface Signature {
  width: number;
  height: number;
  strokes: number[][];
}

/** The strokes as a path of SVG; a single point is a short line. */
export const signaturePath = ({ strokes }: Signature): string =>
  strokes
    .map((s) => {
      const points = Array.from({ length: Math.floor(s.length / 2) }, (_, i) => `${s[2 * i]} ${s[2 * i + 1]}`);
      return points.length === 1 ? `M${points[0]}h0.1` : `M${points.join('L')}`;
    })
    .join('');

/** An option as it stood when it was agreed to: what is billed by it stays, whatever is proposed later. */
export interface AgreedOption {
  id: string;
  title: string;
  effects: Effect[];
  entries: BillEntry[];
  price: Span;
  minutes: Span;
}

/** What the shop wrote over an option. What is left out stays as proposed. */
export interface OptionChange {
  title?: string;
  what?: string;
  minutes?: number;
  parts?: Amount;
  days?: Span;
  warranty?: string;
  unproven?: string;
}

interface Said {
  /** Who said it, in words that the shop chose; empty: the case's customer. */
  who: string;
  how: AgreementWay;
  /** What was said, and on the telephone when. */
  words: string;
  heardAt?: number;
  signature?: Signature;
  /** Titles of what was offered and not wanted. */
  declined: string[];
}

/** What a case keeps of options, agreements and papers, in order of time; nothing is taken back, only followed by another line. */
export type OptionEntry =
  | { kind: 'own'; id: string; option: Required<OptionChange> & { effects: Effect[] }; reason: string }
  | { kind: 'change'; option: string; change: OptionChange; reason: string }
  | { kind: 'hide'; option: string; reason: string }
  | { kind: 'show'; option: string }
  | ({ kind: 'agree'; options: AgreedOption[]; limit: Amount | null; book: number } & Said)
  | ({ kind: 'decline' } & Said)
  | { kind: 'paper'; section: PaperSection; lines: string[] }
  | { kind: 'lookBack'; stayed: Stayed; note: string; next?: number };

/** Parts of the papers that a person may write over. */
export const paperSections = ['found', 'done', 'notDone', 'advise'] as const;
export type PaperSection = (typeof paperSections)[number];

/** What was heard some days after the hand-over. */
export const stayedAnswers = ['fixed', 'back', 'unknown'] as const;
export type Stayed = (typeof stayedAnswers)[number];

/** An entry with who wrote it and when. */
export type Kept<E = OptionEntry> = E & { by: string; at: number };
export type Agreement = Kept<Extract<OptionEntry, { kind: 'agree' }>>;
export type Refusal = Kept<Extract<OptionEntry, { kind: 'decline' }>>;

/** Options as they are shown: proposed ones with what the shop wrote over them, and its own. */
export interface ShownOption extends Option {
  /** Why and by whom it was written over or added; the latest. */
  changed: { reason: string; by: string; at: number } | null;
  hidden: { reason: string; by: string; at: number } | null;
}

/** Where options and agreement stand. */
export interface Settled {
  options: ShownOption[];
  /** Every agreement and refusal, the latest last. */
  said: (Agreement | Refusal)[];
  /** The one that counts; null: nobody has asked the customer yet. */
  now: Agreement | Refusal | null;
  sections: Partial<Record<PaperSection, string[]>>;
  lookBacks: Kept<Extract<OptionEntry, { kind: 'lookBack' }>>[];
}

/** What was written over an option, as lines of its bill. */
function changedOption(option: Option, change: OptionChange, book: PriceBook): Option {
  const minutes = change.minutes === undefined ? option.minutes : { low: change.minutes, high: change.minutes };
  const works = option.entries.find((e) => e.kind === 'work');
  const title = change.title ?? option.title;
  const entries: BillEntry[] =
    change.minutes === undefined && change.parts === undefined
      ? option.entries
      : [
          ...(change.minutes === undefined
            ? option.entries.filter((e) => e.kind === 'work')
            : change.minutes > 0
              ? [{ kind: 'work' as const, title: works?.kind === 'work' ? works.title : title, minutes: change.minutes }]
              : []),
          ...(change.parts === undefined
            ? option.entries.filter((e) => e.kind !== 'work')
            : change.parts > 0
              ? [{ kind: 'priced' as const, title: sentences.partsFor(title), amount: change.parts }]
              : []),
        ];
  const low = optionBill(book, entries).total;
  // What may come on top if it turns out otherwise stays what it was.
  const more = option.price.high - option.price.low;
  return {
    ...option,
    title,
    what: change.what ?? option.what,
    minutes,
    entries,
    price: entries === option.entries ? option.price : { low, high: low + more },
    days: change.days ?? option.days,
    warranty: change.warranty ?? option.warranty,
    unproven: change.unproven ?? option.unproven,
  };
}

function ownOption({ id, option }: Extract<OptionEntry, { kind: 'own' }>, book: PriceBook): Option {
  const entries: BillEntry[] = [
    ...(option.minutes > 0 ? [{ kind: 'work' as const, title: option.title, minutes: option.minutes }] : []),
    ...(option.parts > 0 ? [{ kind: 'priced' as const, title: sentences.partsFor(option.title), amount: option.parts }] : []),
  ];
  const { total } = optionBill(book, entries);
  return {
    id,
    kind: 'own',
    title: option.title,
    what: option.what,
    by: 'hand',
    effects: option.effects,
    entries,
    price: { low: total, high: total },
    minutes: { low: option.minutes, high: option.minutes },
    days: option.days,
    needs: [],
    risks: [],
    warranty: option.warranty,
    unproven: option.unproven,
    p: null,
  };
}

/** Puts what a case has kept over what is proposed now. An entry on an option that is no longer proposed says nothing. */
export function settle(proposed: readonly Option[], entries: readonly Kept[], book: PriceBook): Settled {
  const own = entries.filter((e): e is Kept<Extract<OptionEntry, { kind: 'own' }>> => e.kind === 'own');
  const made = [
    ...proposed.map((o) => ({ option: o, added: null as ShownOption['changed'] })),
    ...own.map((e) => ({ option: ownOption(e, book), added: told(e) })),
  ];
  const options = made.map(({ option, added }): ShownOption => {
    let shown: Option = option;
    let changed = added;
    let hidden: ShownOption['hidden'] = null;
    for (const e of entries) {
      if (!('option' in e) || e.option !== option.id) continue;
      if (e.kind === 'change') {
        shown = changedOption(shown, e.change, book);
        changed = told(e);
      } else hidden = e.kind === 'hide' ? told(e) : null;
    }
    return { ...shown, changed, hidden };
  });
  const said = entries.filter((e): e is Agreement | Refusal => e.kind === 'agree' || e.kind === 'decline');
  const sections: Settled['sections'] = {};
  for (const e of entries) if (e.kind === 'paper') sections[e.section] = e.lines;
  return {
    options,
    said,
    now: said.at(-1) ?? null,
    sections,
    lookBacks: entries.filter((e): e is Settled['lookBacks'][number] => e.kind === 'lookBack'),
  };
}

const told = (e: Kept<{ reason: string }>) => ({ reason: e.reason, by: e.by, at: e.at });

/** Effects that an agreed one covers besides itself: who agreed that all keys are learned anew agreed to one that is added. */
const covers: Partial<Record<Effect, readonly Effect[]>> = { replacesKeys: ['addsKey', 'writes'] };

/**
 * Why the customer has to be asked again before work goes on; null: what is agreed covers it, or nobody has agreed to anything yet, so that nothing can
 * be gone beyond.
 * @param next what is about to be done; null: only what was spent counts
 * @param spent sum with tax of what was done so far
 */
export function asksAgain(
  now: Agreement | Refusal | null,
  next: { title: string; effect: Effect } | null,
  spent: { amount: Amount; say: (amount: Amount) => string },
): string | null {
  if (!now) return null;
  if (now.kind === 'decline') return sentences.declinedAll;
  if (now.limit !== null && spent.amount > now.limit) return sentences.limitReached(spent.say(spent.amount), spent.say(now.limit));
  if (!next || !gates[next.effect].authority) return null;
  const agreed = now.options.flatMap((o) => o.effects);
  const covered = agreed.some((e) => e === next.effect || (covers[e]?.includes(next.effect) ?? false));
  return covered ? null : sentences.effectBeyond(next.title);
}

/** Minutes of work that were done, and whether somebody counted them; else they are what it usually takes. */
export interface WorkDone {
  title: string;
  minutes: number;
  counted: boolean;
  /** `diagnosis` is billed by its time in any case; `fix` belongs to what was agreed. */
  part: 'diagnosis' | 'fix';
}

/** The bill of a case: diagnosis by its time, then everything that was agreed to last, as it was agreed. */
export function caseBill(book: PriceBook, done: readonly WorkDone[], now: Agreement | Refusal | null): Bill {
  const minutes = done.reduce((n, d) => n + (d.part === 'diagnosis' ? d.minutes : 0), 0);
  return optionBill(book, [
    ...(minutes > 0 ? [{ kind: 'work' as const, title: sentences.diagnosis, minutes }] : []),
    ...(now?.kind === 'agree'
      ? now.options.flatMap((o) => o.entries.filter((e) => e.kind !== 'item' || book.items.some((i) => i.code === e.code)))
      : []),
  ]);
}

/** What was spent so far: every minute of work that was done, and the parts that were agreed to. */
export function spentSoFar(book: PriceBook, done: readonly WorkDone[], now: Agreement | Refusal | null): Amount {
  const minutes = done.reduce((n, d) => n + d.minutes, 0);
  return optionBill(book, [
    ...(minutes > 0 ? [{ kind: 'work' as const, title: sentences.diagnosis, minutes }] : []),
    ...(now?.kind === 'agree' ? now.options.flatMap((o) => o.entries.filter((e) => e.kind === 'priced')) : []),
  ]).total;
}
