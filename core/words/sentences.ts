/** One piece of text that a person may read, with where it stands. */
export interface Sentence {
  /** Path from the project's root. */
  file: string;
  /** Line from 1 in a source file; path of the field in content. */
  place: string;
  text: string;
}

/** Fields of content that hold names, numbers or conditions and no words for people. */
const silentFields: ReadonlySet<string> = new Set([
  'id',
  'kind',
  'use',
  'without',
  'when',
  'if',
  'p',
  'shows',
  'lifts',
  'link',
  'group',
  'like',
  'needs',
  'to',
  'test',
  'outcome',
  'evidence',
  'means',
  'params',
  'effect',
  'cautions',
  'harmless',
  'lamp',
  'late',
  'from',
  'triage',
  'instrument',
  'reading',
  'fixed',
  'often',
  'features',
  'unit',
  'unless',
  'until',
  'moment',
  'interrupted',
  'recheck',
  'verify',
  'newKey',
  'procedure',
  'symptom',
  'alphabet',
  'rare',
  'how',
  'same',
  'family',
  'seen',
  'wait',
  'hold',
  'count',
  'says',
  'abilities',
  'segments',
  'hash',
  'where',
  'changed',
  'symptoms',
  'redTo',
  'exhausted',
  'differs',
  'sameAs',
  'profiles',
  'relevance',
  'topic',
  'tests',
]);

/** Fields of a replacement that hold names; elsewhere some of them hold words. */
const silentInReplacements: ReadonlySet<string> = new Set([
  'gives',
  'takes',
  'replaced',
  'unlessReplaced',
  'together',
  'afterItems',
  'origins',
  'kept',
  'with',
  'by',
  'back',
  'stage',
  'each',
  'any',
  'insteadOf',
  'keys',
  'place',
  'of',
]);

/** A family's parameters have labels, a procedure's are names. Lists of cautions, features and tests hold words; lists of their names don't. "how" is a sentence on a link and a name on a proof. */
const isOfWords = (name: string, item: unknown): boolean =>
  name === 'params'
    ? !Array.isArray(item)
    : name === 'how'
      ? typeof item === 'string' && item.includes(' ')
      : ['cautions', 'features', 'tests'].includes(name) && Array.isArray(item) && typeof item[0] === 'object';

/**
 * The texts of a document of content, in its order.
 * @param document plain values, as parsed from YAML
 * @param file its path
 */
export function sentencesOfContent(document: unknown, file: string): Sentence[] {
  const found: Sentence[] = [];
  const { kind } = (document ?? {}) as { kind?: unknown };
  const alsoSilent = typeof kind === 'string' && kind.startsWith('replacement') ? silentInReplacements : new Set<string>();
  const visit = (value: unknown, path: string): void => {
    if (typeof value === 'string') {
      const text = value.replace(/\s+/g, ' ').trim();
      if (/[A-Za-z]{2}/.test(text)) found.push({ file, place: path, text });
    } else if (Array.isArray(value)) value.forEach((item, i) => visit(item, `${path}[${i}]`));
    else if (value !== null && typeof value === 'object')
      for (const [name, item] of Object.entries(value))
        if ((!silentFields.has(name) && !alsoSilent.has(name)) || isOfWords(name, item)) visit(item, path === '' ? name : `${path}.${name}`);
  };
  visit(document, '');
  return found;
}
