import { type PaperBlock, papersOf } from '../../core/papers';
import type { PaperSection } from '../../core/options';
import { signaturePath } from '../../core/options';
import { abilities, type Ability, abilityResults, authorityKinds, counters, keyRoles } from '../../core/library';
import { gridCell } from '../../core/keys';
import { type Bill, formatAmount, taxText } from '../../core/quote';
import { quantityWords, timesIn } from '../../core/units';
import { type CaseOffers, readOffers } from '../offers/view';
import { type CaseRecord, entriesOf } from '../record/cases';
import type { Services } from '../services/services';
import { keptShop } from '../shop/shop';
import { listSealed } from '../vault/items';
import { codesOf } from './codes';
import { paperFacts } from './facts';

export const paperKinds = ['customer', 'file'] as const;
export type PaperKind = (typeof paperKinds)[number];

const headings: Readonly<Record<PaperSection, string>> = {
  found: 'What we found',
  done: 'What we did',
  notDone: 'What we did not do',
  advise: 'What we advise',
};

export interface CasePapers {
  /** The written parts, with whether a person wrote them. */
  sections: { section: PaperSection; heading: string; lines: string[]; written: boolean }[];
  papers: Record<PaperKind, PaperBlock[]>;
  bill: Bill;
  offers: CaseOffers;
}

const result = (cell: ReturnType<typeof gridCell>['now']) => (cell ? abilityResults[cell.result] : 'not tried');

/** Both papers of a case: for the customer, in plain words on one page and without secrets; for the file, with everything. */
export async function readPapers(services: Services, record: CaseRecord, timeZone: string): Promise<CasePapers> {
  const shop = await keptShop(services);
  const offers = await readOffers(services, record);
  const { family, settled, work, bill, currency } = offers;
  const { book } = offers.book;
  const money = (amount: number) => formatAmount(amount, book.decimals, currency);
  const { day, hm } = timesIn(timeZone, shop.units);
  const when = (at: number) => `${day(at)}, ${hm(at)}`;
  const made = papersOf(await paperFacts(services, record, offers), settled.sections);
  const sections = (Object.keys(headings) as PaperSection[]).map((section) => ({ section, heading: headings[section], ...made[section] }));
  const entries = entriesOf(record, family);
  const shown = family.verify as readonly Ability[];

  const head = (whole: boolean): PaperBlock => ({
    kind: 'facts',
    rows: [
      ...(record.customer && record.customer.erasedAt === null
        ? [['Customer', whole ? [record.customer.name, record.customer.phone].filter(Boolean).join(', ') : record.customer.name]]
        : []),
      ['Vehicle', [record.vehicle, record.year, record.plate && `plate ${record.plate}`].filter(Boolean).join(', ')],
      ...(record.identification ? [['VIN', record.identification]] : []),
      ['Here from', `${day(record.openedAt)}${record.closedAt === null ? '' : ` to ${day(record.closedAt)}`}`],
      ...(whole ? [['System type', family.title]] : []),
    ] as [string, string][],
  });
  const written: PaperBlock[] = sections.flatMap(({ heading, lines }) =>
    lines.length === 0
      ? []
      : [
          { kind: 'heading', text: heading },
          { kind: 'lines', lines },
        ],
  );
  const keys = (withBefore: boolean): PaperBlock[] =>
    record.keys.length === 0
      ? []
      : [
          { kind: 'heading', text: withBefore ? 'Keys, before and after' : 'Your keys' },
          {
            kind: 'table',
            head: ['Key', ...shown.map((a) => abilities[a])],
            rows: record.keys.map((k) => [
              `${k.tag}${k.role === 'unknown' ? '' : `, ${keyRoles[k.role as keyof typeof keyRoles] ?? k.role}`}${k.present ? '' : ', was not here'}`,
              ...shown.map((a) => {
                const cell = gridCell(entries, k.tag, a);
                const now = result(cell.now ?? cell.before);
                return withBefore && cell.now && cell.before && cell.now.result !== cell.before.result ? `${result(cell.before)}, now ${now}` : now;
              }),
            ]),
          },
        ];
  const billed: PaperBlock[] =
    bill.lines.length === 0
      ? []
      : [
          { kind: 'heading', text: record.state === 'closed' ? 'Bill' : 'Total so far' },
          {
            kind: 'table',
            head: ['', 'Minutes', 'Sum'],
            figures: [1, 2],
            rows: [
              ...bill.lines.map((l) => [
                l.count > 1 ? `${l.title} × ${l.count}` : l.title,
                l.minutes === null ? '' : String(l.minutes),
                money(l.amount),
              ]),
              ...(bill.tax > 0 ? [[`${book.taxName || 'Tax'} ${taxText(book.tax)} %`, '', money(bill.tax)]] : []),
            ],
            total: ['Total', '', money(bill.total)],
          },
        ];
  const agreed: PaperBlock[] = settled.said.flatMap((s): PaperBlock[] => [
    {
      kind: 'lines',
      lines: [
        `${when(s.at)}: ${s.kind === 'agree' ? `agreed to ${s.options.map((o) => `“${o.title}”`).join(', ')}${s.limit === null ? '' : `, no more than ${money(s.limit)}`}` : 'nothing more is wanted'}, ${howSaid[s.how]}${s.who ? ` by ${s.who}` : ''}. Written down by ${s.by}.${s.words ? ` “${s.words}”` : ''}`,
        ...(s.declined.length > 0 ? [`Offered and not wanted: ${s.declined.join(', ')}`] : []),
      ],
    },
    ...(s.signature
      ? [
          {
            kind: 'signature' as const,
            path: signaturePath(s.signature),
            width: s.signature.width,
            height: s.signature.height,
            under: `Signed ${when(s.at)}`,
          },
        ]
      : []),
  ]);
  const section = (heading: string, blocks: PaperBlock[]): PaperBlock[] =>
    blocks.length === 0 ? [] : [{ kind: 'heading', text: heading }, ...blocks];
  const sealed = await listSealed(services.database.db, record.id);
  const now = settled.now;
  return {
    sections,
    bill,
    offers,
    papers: {
      customer: [
        head(false),
        ...written,
        ...keys(false),
        ...billed,
        ...(now?.kind === 'agree'
          ? [{ kind: 'lines' as const, lines: [`Agreed on ${day(now.at)}${now.limit === null ? '' : `, no more than ${money(now.limit)}`}.`] }]
          : []),
      ],
      file: [
        head(true),
        ...written,
        ...keys(true),
        ...section('Agreements', agreed),
        ...billed,
        ...section(
          'Work done',
          work.length === 0
            ? []
            : [
                {
                  kind: 'table',
                  head: ['Work', 'Minutes', 'From'],
                  figures: [1],
                  rows: work.map((w) => [w.title, String(Math.round(w.minutes * 10) / 10), w.counted ? 'counted' : 'as it usually takes']),
                },
              ],
        ),
        ...section('Counters', countersOf(record)),
        ...section('Trouble codes', scansOf(record)),
        ...section(
          'Authority seen',
          record.authority.length === 0
            ? []
            : [
                {
                  kind: 'lines',
                  lines: record.authority.map(
                    (a) => `${when(a.at)}: ${[authorityKinds[a.kind as keyof typeof authorityKinds], a.note].filter(Boolean).join(', ')}, by ${a.by}`,
                  ),
                },
              ],
        ),
        ...section(
          'Custody',
          record.custody.length === 0
            ? []
            : [
                {
                  kind: 'lines',
                  lines: record.custody.map(
                    (c) =>
                      `${when(c.at)}: tag ${c.tag} ${c.act}${c.person ? ` ${c.act === 'received' ? 'from' : 'to'} ${c.person}` : ''}, by ${c.by}`,
                  ),
                },
              ],
        ),
        ...section(
          'In the vault',
          sealed.length === 0
            ? []
            : [
                {
                  kind: 'lines',
                  lines: sealed.map(
                    (s) =>
                      `${s.name}: ${s.destroyed ? 'destroyed' : s.disposition === 'given' ? 'given to the customer' : s.disposition === 'kept' ? 'kept sealed' : 'not decided yet'}`,
                  ),
                },
              ],
        ),
      ],
    },
  };
}

const howSaid = { signature: 'signed', phone: 'on the phone', message: 'by message', inPerson: 'in person' } as const;

function countersOf(record: CaseRecord): PaperBlock[] {
  const names = [...new Set(record.counters.map((c) => c.counter))];
  const at = (name: string, phase: 'before' | 'after') => {
    const read = record.counters.findLast((c) => c.counter === name && c.phase === phase);
    return read ? quantityWords(read.value, read.unit) : 'not read';
  };
  if (names.length === 0) return [];
  return [
    {
      kind: 'table',
      head: ['Counter', 'Before', 'After'],
      rows: names.map((name) => [counters[name as keyof typeof counters]?.say ?? name, at(name, 'before'), at(name, 'after')]),
    },
  ];
}

function scansOf(record: CaseRecord): PaperBlock[] {
  const of = (phase: 'before' | 'after') => {
    const scan = phase === 'before' ? record.scans.find((s) => s.phase === phase) : record.scans.findLast((s) => s.phase === phase);
    return scan ? codesOf(scan.found).join(', ') || 'none' : 'not scanned';
  };
  return record.scans.length === 0
    ? []
    : [
        {
          kind: 'facts',
          rows: [
            ['Before', of('before')],
            ['After', of('after')],
          ],
        },
      ];
}
