import type { FactName, ModuleName } from './documents';
import type { Lack } from './plan';
import { sentences } from './sentences';
import { itemWords, markWords, moduleWords, roleWords } from './vocabulary';

/** A part and item in words: `list of keys of the BCM`. */
export function factWords(fact: FactName): string {
  const [part, what] = fact.split('.') as [ModuleName, string | undefined];
  if (what === undefined) return sentences.network;
  const item = (itemWords as Readonly<Record<string, string>>)[what] ?? markWords[what as keyof typeof markWords];
  return sentences.itemOf(item, moduleWords[part]);
}

/** Why something can't be brought back. @param titleOf the title of an act by its id */
export function lackWords(lack: Lack, titleOf: (act: string) => string): string {
  switch (lack.code) {
    case 'tool':
      return sentences.tool(titleOf(lack.act), lack.tool);
    case 'keys':
      return sentences.keys(titleOf(lack.act), lack.n, roleWords[lack.role]);
    case 'byHand':
      return sentences.byHand(titleOf(lack.act));
    case 'waitsFor':
      return sentences.waitsFor(titleOf(lack.act), factWords(lack.fact));
    case 'nothing':
      return sentences.nothing;
  }
}
