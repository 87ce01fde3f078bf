import type { DraftStep } from './draft';

/** A text and what is to be understood of it: of each sentence its line, its kind and its figures. */
export interface DraftCase {
  name: string;
  text: string;
  title?: string;
  steps: readonly Omit<DraftStep, 'text' | 'steps'>[];
  /** Lines that a person must look at; left out: none. */
  unsure?: readonly number[];
}
