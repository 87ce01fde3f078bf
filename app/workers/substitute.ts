import { type Combination, type Resistor, substitutes, type Wanted } from '../../core/ladder';

/** What is asked of the worker: the best for one value, or for each of several. */
export interface Asked {
  stock: Resistor[];
  wanted: Pick<Wanted, 'targetOhms' | 'window' | 'mostParts' | 'limit' | 'senseVolts'>[];
}
export type SubstituteNews = { kind: 'progress'; share: number } | { kind: 'found'; each: Combination[][] };

const tell = (news: SubstituteNews) => postMessage(news);

addEventListener('message', ({ data: { stock, wanted } }: MessageEvent<Asked>) => {
  const each = wanted.map(
    (one, i) => substitutes(stock, { ...one, progress: (share) => tell({ kind: 'progress', share: (i + share) / wanted.length }) }) ?? [],
  );
  tell({ kind: 'found', each });
});
