import { type Combination, type Resistor, substitutes, type Wanted } from '../../core/ladder';

/** What is asked of the worker: one search after the other; a new one replaces the one before. */
export interface Asked {
  stock: Resistor[];
  wanted: Pick<Wanted, 'targetOhms' | 'window' | 'mostParts' | 'limit' | 'senseVolts'>;
}
export type SubstituteNews = { kind: 'progress'; share: number } | { kind: 'found'; combinations: Combination[] };

const tell = (news: SubstituteNews) => postMessage(news);

addEventListener('message', ({ data }: MessageEvent<Asked>) => {
  const combinations = substitutes(data.stock, { ...data.wanted, progress: (share) => tell({ kind: 'progress', share }) });
  tell({ kind: 'found', combinations: combinations ?? [] });
});
