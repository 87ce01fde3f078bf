import { type Quantities, quantitiesOf, type Time } from './quantities';

export const draftKinds = ['do', 'wait', 'hold', 'count', 'limit', 'observe', 'repeat', 'each', 'caution'] as const;
export type DraftKind = (typeof draftKinds)[number];

/** One sentence of the text as a step: what kind it seems to be, and the figures that it names. Times in seconds. */
export interface DraftStep {
  kind: DraftKind;
  /** The sentence as it is written. */
  text: string;
  /** Line of the text that it begins in, from 1. */
  line: number;
  minS?: number;
  maxS?: number;
  /** For `count`: how often. For `repeat`: how many cycles in all. */
  n?: number;
  /** In this time from the act before it, or from the first of a count. */
  withinS?: number;
  /** For `each`: how many keys at most. */
  max?: number;
}

/** A step of a draft as a person has confirmed or mended it. */
export interface WrittenStep extends DraftStep {
  /** Stays with the step when it is moved, so that two versions can be held against each other. */
  id: string;
  /** For `repeat`: the first step of what is repeated; left out: everything since the repeat before it. */
  from?: string;
}

/** What a shop's procedure is made of: the text as it was pasted, and its steps. */
export interface Written {
  text: string;
  steps: WrittenStep[];
  /** The step before which the point of no return stands, where the effect needs one. */
  noReturn?: string;
}

export interface Draft {
  title?: string;
  /** Every sentence once, in its place. */
  steps: DraftStep[];
  /** Lines that a person must look at: something in them was not understood, or can be understood in two ways. */
  unsure: number[];
}

interface Sentence {
  text: string;
  line: number;
}

const mark = /^\s*(?:step\s+)?(?:\d+|[a-z])[.):]\s+|^\s*step\s+\d+\s*[-:.]?\s+|^\s*[-*•]\s+/i;
const heading = /^(?:step|no\.?|#|action|what|act|time|limit|remark|result|notes?)$/i;
/** Abbreviations whose period ends no sentence. */
const abbreviated = /\b(?:approx|no|e\.g|i\.e|fig)\.$/i;

/** The sentences of a text with the lines that they begin in; a line that goes on in lower case belongs to the one before. */
function sentencesOf(text: string): { title?: string; sentences: Sentence[] } {
  const lines = text.split(/\r?\n/);
  const filled = lines.flatMap((raw, i) => (raw.trim() === '' ? [] : [{ raw, line: i + 1 }]));
  const [first, second] = filled;
  const isTitle =
    first !== undefined &&
    second !== undefined &&
    !/[.!?:|]\s*$|\|/.test(first.raw) &&
    !mark.test(first.raw) &&
    first.raw.length <= 80 &&
    quantitiesOf(first.raw).times.length === 0 &&
    (mark.test(second.raw) || second.line > first.line + 1);
  const body = isTitle ? filled.slice(1) : filled;
  /** A paragraph, and where in it each of its lines begins. */
  const joined: { text: string; lines: { at: number; line: number }[] }[] = [];
  for (const { raw, line } of body) {
    const last = joined.at(-1);
    if (last && !mark.test(raw) && /^\s*[a-z(]/.test(raw) && !/[.!?]\s*$/.test(last.text)) {
      last.lines.push({ at: last.text.length + 1, line });
      last.text += ` ${raw.trim()}`;
    } else {
      const own = raw.replace(raw.includes('|') ? '' : mark, '').trim();
      joined.push({ text: own, lines: [{ at: 0, line }] });
    }
  }
  const sentences = joined.flatMap(({ text: raw, lines }): Sentence[] => {
    const { line } = lines[0]!;
    if (raw.includes('|')) {
      const cells = raw
        .split('|')
        .map((c) => c.trim())
        .filter((c) => c !== '' && !/^:?-+:?$/.test(c));
      if (cells.length === 0 || cells.every((c) => heading.test(c))) return [];
      return [{ text: cells.filter((c, i) => i > 0 || !/^\d+\.?$/.test(c)).join(', '), line }];
    }
    const parts: string[] = [];
    for (const part of raw
      .replace(mark, '')
      .trim()
      .split(/(?<=[.!?])\s+(?=[A-Z"“(])/)) {
      if (parts.length > 0 && abbreviated.test(parts.at(-1)!)) parts[parts.length - 1] += ` ${part}`;
      else parts.push(part);
    }
    let from = 0;
    return parts
      .filter((p) => p !== '')
      .map((p) => {
        const at = raw.indexOf(p, from);
        from = at + p.length;
        return { text: p, line: lines.findLast((l) => l.at <= at)!.line };
      });
  });
  return { ...(isTitle ? { title: first.raw.trim() } : {}), sentences };
}

const warns = /^(?:warning|caution|danger|note|notice|attention|important)\b|^(?:never|do not|don['’]t|be careful)\b/i;
const eachKey =
  /\b(?:each|every|any|all)\s+(?:of the\s+)?(?:other|further|additional|remaining|new|next)?\s*(?:keys?|remotes?|fobs?|transmitters?)\b/i;
const alike = /\b(?:repeat|same|likewise|in the same way)\b/i;
const again = /^(?:then\s+)?(?:repeat|redo)\b|\b(?:perform|do|carry out|run|go through)\b.*\b(?:steps?|cycles?|this|procedure|sequence)\b/i;
const holds = /\bhold\b|\bpress\b.*\bfor\b|\bkeep\b.*\b(?:pressed|depressed|held|down)\b/i;
const seen =
  /^(?:check|verify|confirm|observe|watch|see|make sure|ensure|if|does|is|are)\b|\bshould\b|\bmust (?:come|go|light|flash|stay|be)\b|\b(?:light|lamp|indicator|message|display|horn|buzzer|chime|locks|cluster)\b.*\b(?:goes|go|comes|come|flash|flashes|stays|stay|sounds|out|appears|shows|lit|cycle|cycles)\b/i;

/** What a light or a text does by itself. */
const shows = /^(?:the\s+)?(?:[a-z-]+\s+)?(?:light|lamp|indicator|message|horn|buzzer|chime)\b/i;
const inAll = /\b\d+\s*x\s+(?:in\s+)?total\b/i;

function kindOf(text: string, { times, counts }: Quantities): DraftKind {
  if (warns.test(text)) return 'caution';
  if (eachKey.test(text) && alike.test(text)) return 'each';
  if (inAll.test(text)) return 'repeat';
  if (again.test(text) && (counts.length > 0 || alike.test(text))) return 'repeat';
  const [time] = times;
  if (holds.test(text) && time) return 'hold';
  if (counts.length > 0) return 'count';
  if (time && time.minS !== undefined && shows.test(text)) return 'observe';
  if (time && time.minS === undefined) return 'limit';
  if (time) return 'wait';
  return seen.test(text) ? 'observe' : 'do';
}

/** How many cycles in all a repetition means, and whether it can be understood in two ways. */
function cyclesOf(text: string, counts: Quantities['counts']): { n?: number; open: boolean } {
  const whole = counts.find((c) => c.inAll);
  if (whole) return { n: whole.n, open: false };
  const [count] = counts;
  if (!count) return { open: true };
  if (count.more) return { n: count.n + 1, open: false };
  // "Repeat three times" is three times in all for one and four for another.
  return /\brepeat\b/i.test(text) ? { n: count.n + 1, open: true } : { n: count.n, open: false };
}

/**
 * Reads a text of service information, by grammar and rules alone: each sentence becomes one step, in its place. Nothing is dropped and nothing is made up;
 * what is not understood stays as a plain step, and its line is marked.
 * @param text as it was pasted
 */
export function draftOf(text: string): Draft {
  const { title, sentences } = sentencesOf(text);
  const unsure = new Set<number>();
  const steps = sentences.map(({ text: said, line }): DraftStep => {
    const found = quantitiesOf(said);
    const kind = kindOf(said, found);
    const step: DraftStep = { kind, text: said, line };
    const bounds = found.times.filter((t) => t.withinS !== undefined);
    const spans = found.times.filter((t) => t.withinS === undefined);
    const own: Time | undefined = kind === 'count' || kind === 'limit' ? (bounds[0] ?? spans[0]) : (spans[0] ?? bounds[0]);
    if (kind === 'repeat') {
      const { n, open } = cyclesOf(said, found.counts);
      if (n !== undefined) step.n = n;
      if (open) unsure.add(line);
    } else if (kind === 'each') {
      if (found.atMost !== undefined) step.max = found.atMost;
    } else if (kind !== 'caution') {
      if (own) Object.assign(step, own);
      if (kind === 'count') step.n = found.counts[0]!.n;
    }
    const used = kind === 'caution' || kind === 'repeat' || kind === 'each' ? 0 : Math.min(1, found.times.length);
    if (found.times.length > used && kind !== 'caution') unsure.add(line);
    if (found.left || (kind !== 'repeat' && found.counts.length > 1)) unsure.add(line);
    return step;
  });
  return { ...(title === undefined ? {} : { title }), steps, unsure: [...unsure].sort((a, b) => a - b) };
}
