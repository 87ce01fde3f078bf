import type { Kept } from '../../core/options';

/** An entry as the report says it. */
export interface OfferLine {
  at: number;
  what: string;
  detail: string;
  by: string;
}

const ways = { signature: 'signed', phone: 'on the phone', message: 'by message', inPerson: 'in person' } as const;
const stayed = { fixed: 'it stayed fixed', back: 'the fault is back', unknown: 'nobody was reached' } as const;

/** What was offered, agreed to and heard afterwards, line by line, with sums as `money` writes them. */
export function offerLines(entries: readonly Kept[], money: (amount: number) => string): OfferLine[] {
  return entries.map((e): OfferLine => {
    const line = (what: string, detail: string): OfferLine => ({ at: e.at, by: e.by, what, detail });
    switch (e.kind) {
      case 'own':
        return line(`Option added: ${e.option.title}`, e.reason);
      case 'change':
        return line('Option changed', `${e.option}: ${e.reason}`);
      case 'hide':
        return line('Option hidden', `${e.option}: ${e.reason}`);
      case 'show':
        return line('Option shown again', e.option);
      case 'agree': {
        const sum = money(e.options.reduce((n, o) => n + o.price.low, 0));
        return line(
          `Agreed ${ways[e.how]}${e.who ? ` by ${e.who}` : ''}`,
          [
            `${e.options.map((o) => o.title).join('; ')}, ${sum}${e.limit === null ? '' : `, no more than ${money(e.limit)}`}`,
            e.words && `“${e.words}”`,
            e.declined.length > 0 && `Not wanted: ${e.declined.join('; ')}`,
          ]
            .filter(Boolean)
            .join('. '),
        );
      }
      case 'decline':
        return line(
          `Everything declined ${ways[e.how]}${e.who ? ` by ${e.who}` : ''}`,
          [e.words && `“${e.words}”`, e.declined.join('; ')].filter(Boolean).join('. '),
        );
      case 'paper':
        return line('Paper written', `${e.lines.length} sentences`);
      case 'lookBack':
        return line('Asked again after the hand-over', [stayed[e.stayed], e.note].filter(Boolean).join('. '));
    }
  });
}
