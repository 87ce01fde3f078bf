import { noTallies, type Tallies } from './tallies';

/** What shops exchange: sums by system type. No name, no vehicle, no case. */
export interface Exchange {
  form: 'bloodstone learned';
  version: 1;
  /** What the other shop calls itself; for the mark beside what came from it. */
  shop: string;
  exportedAt: string;
  families: Record<string, Exchanged>;
}

/** Of a system type what goes out: vehicle lines, options and what was said stay in the shop. */
export type Exchanged = Pick<Tallies, 'causes' | 'tests' | 'fixes'>;

export const exchangeFile = (shop: string, exportedAt: string, families: Readonly<Record<string, Tallies>>): string =>
  `${JSON.stringify(
    {
      form: 'bloodstone learned',
      version: 1,
      shop,
      exportedAt,
      families: Object.fromEntries(Object.entries(families).map(([id, { causes, tests, fixes }]) => [id, { causes, tests, fixes }])),
    } satisfies Exchange,
    null,
    1,
  )}\n`;

/** Sums of another shop as sums of our own form. */
export const talliesOf = (exchanged: Exchanged): Tallies => ({ ...noTallies(), ...exchanged });
