import { comesFirst, mainFirst } from '../library/vocabulary';
import type { KeysOfRun } from './definition';
import { sentences } from './sentences';

/** A key that is here, as far as a run asks. */
export interface KeyHere {
  tag: string;
  role: string;
  /** It came to be learned to this vehicle. */
  isNew: boolean;
}

/** The learned keys that an adding procedure asks for, the new ones left aside. */
function apart(keys: readonly KeyHere[], inQuestion: string | undefined): { learned: KeyHere[]; added: KeyHere[] } {
  const isAdded = (k: KeyHere) => k.isNew || k.tag === inQuestion;
  const ordered = mainFirst(keys);
  const [learned, added] = [ordered.filter((k) => !isAdded(k)), ordered.filter(isAdded)];
  // Nobody said which one is new: the last one, unless it must come first.
  if (added.length === 0 && learned.length > 1) return { learned: learned.slice(0, -1), added: learned.slice(-1) };
  return { learned, added };
}

/**
 * The keys that a run would take, in their order: every key with the main one first; or the one that it is about (the key in question, else the only new
 * one, else the main one); or so many learned keys, the main one first, and then the new ones.
 * @param here keys that are here
 * @param inQuestion tag of the key that the diagnosis names
 * @returns tags, empty where no key is here
 */
export function proposedKeys(asked: KeysOfRun | undefined, here: readonly KeyHere[], inQuestion?: string): string[] {
  const ordered = mainFirst(here).map((k) => k.tag);
  if (asked === undefined || asked === 'all') return ordered;
  if (asked === 'one') {
    const fresh = here.filter((k) => k.isNew);
    const one = ordered.find((tag) => tag === inQuestion) ?? (fresh.length === 1 ? fresh[0]!.tag : ordered[0]);
    return one === undefined ? [] : [one];
  }
  const { learned, added } = apart(here, inQuestion);
  return [...learned.slice(0, asked.learned), ...added].map((k) => k.tag);
}

/**
 * Why a run can't take these keys; null: it can.
 * @param chosen tags in their order
 */
export function keysRefused(asked: KeysOfRun | undefined, here: readonly KeyHere[], chosen: readonly string[]): string | null {
  if (chosen.length === 0) return sentences.noKeyChosen;
  const strange = chosen.find((tag) => !here.some((k) => k.tag === tag));
  if (strange !== undefined) return sentences.keyNotHere(strange);
  if (asked === 'one' && chosen.length > 1) return sentences.oneKeyOnly;
  if (asked !== undefined && typeof asked === 'object' && chosen.length < 2) return sentences.learnedAndNew;
  return null;
}

/** What to look at again before a run takes these keys; the person decides. */
export function keysWarned(asked: KeysOfRun | undefined, here: readonly KeyHere[], chosen: readonly string[]): string[] {
  const first = here.find((k) => k.tag === chosen[0]);
  if (!first || asked === 'one') return [];
  const main = chosen.map((tag) => here.find((k) => k.tag === tag)).find((k) => k && comesFirst(k));
  const warned: string[] = [];
  if (typeof asked === 'object' && first.isNew) warned.push(sentences.newKeyFirst(first.tag));
  else if (main && main.tag !== first.tag) warned.push(sentences.mainNotFirst(main.tag));
  return warned;
}
